import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import {
  IMPORT_COLUMNS,
  IMPORT_KINDS,
  type ImportKind,
  type ImportPreview,
} from '../../contract/register/import.ts';
import { decodeText } from '../../core/base/text.ts';
import { Button, buttonClass, Empty, Mark, ProblemNote, Textarea } from '../base/ui.tsx';
import { useApplyImportMutation, usePreviewImportMutation } from './api.ts';
import { PageHead } from './layout.tsx';

const ACTION = {
  add: <Mark tone="stands">new</Mark>,
  change: <Mark tone="ask">changed</Mark>,
  keep: <Mark tone="soft">as it is</Mark>,
} as const;

/** Rows from a spreadsheet: pasted or dropped, previewed, then imported whole or not at all. */
export function ImportPage() {
  const { kind: asked } = useParams();
  const kind = IMPORT_KINDS.find((k) => k === asked);
  if (!kind)
    return (
      <main className="p-6">
        <Empty title="No such table">There are {IMPORT_KINDS.join(', ')}.</Empty>
      </main>
    );
  return <Import key={kind} kind={kind} />;
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Import({ kind }: { kind: ImportKind }) {
  const [text, setText] = useState('');
  const [name, setName] = useState('');
  const [shown, setShown] = useState<{ text: string; preview: ImportPreview } | null>(null);
  const [preview, { error, isLoading }] = usePreviewImportMutation();
  const [apply, { error: refused, isLoading: applying }] = useApplyImportMutation();
  const look = async (rows: string): Promise<void> => {
    const answer = await preview({ kind, text: rows });
    setShown('data' in answer && answer.data ? { text: rows, preview: answer.data } : null);
  };
  const take = async (file: File): Promise<void> => {
    const bytes = new Uint8Array(await file.arrayBuffer());
    let rows: string;
    try {
      rows = decodeText(bytes).text;
    } catch (error) {
      // What is no text is said in the words of who reads it.
      toast.error(error instanceof Error ? error.message : String(error));
      return;
    }
    setText(rows);
    setName(file.name);
    await look(rows);
  };
  const write = async (digest: string): Promise<void> => {
    const answer = await apply({ kind, text, digest });
    if (!('data' in answer) || !answer.data) return;
    toast.success(`${answer.data.added} added, ${answer.data.changed} changed.`);
    setText('');
    setShown(null);
  };
  const p = shown?.preview;
  const fresh = shown?.text === text;
  const willDo = p ? p.counts.add + p.counts.change : 0;
  return (
    <main
      className="px-6 py-5"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const file = e.dataTransfer.files[0];
        if (file) void take(file);
      }}
    >
      <PageHead
        title={`Import ${kind}`}
        note="Paste rows with their header from a spreadsheet, or drop a CSV file. Nothing changes before you have seen what would."
      >
        <a className={buttonClass('plain')} href={`/api/register/export/${kind}`}>
          CSV of what is there
        </a>
        <Link to={`/register/${kind}`} className={buttonClass('plain')}>
          Back to {kind}
        </Link>
      </PageHead>
      <Columns kind={kind} />
      <Textarea
        aria-label="Rows"
        rows={8}
        spellCheck={false}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setName('');
        }}
        className="w-full font-mono text-[12px]"
        placeholder={IMPORT_COLUMNS[kind].map((c) => c.header).join('\t')}
      />
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Button
          kind={p && fresh ? 'plain' : 'main'}
          disabled={text.trim() === '' || isLoading}
          onClick={() => void look(text)}
        >
          {isLoading ? 'Looking …' : 'Show what would change'}
        </Button>
        <label className={buttonClass('plain')}>
          Choose a file
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            className="sr-only"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) void take(file);
              e.target.value = '';
            }}
          />
        </label>
        {name && <span className="text-soft">{name}</span>}
      </div>
      <div className="mt-3">
        <ProblemNote error={error ?? refused} />
      </div>
      {p && !fresh && <p className="mt-3 text-ask">The rows have changed since the preview.</p>}
      {p && fresh && (
        <section aria-label="Preview" className="mt-5">
          <Counts preview={p} />
          {p.unknownHeaders.length > 0 && (
            <p className="text-ask">
              Not read, because no column is called so: {p.unknownHeaders.join(', ')}.
            </p>
          )}
          <Problems list={p.problems} />
          <Rows list={p.rows} />
          <div className="mt-4 flex items-center gap-3">
            <Button
              kind="main"
              disabled={p.problems.length > 0 || willDo === 0 || applying}
              onClick={() => void write(p.digest)}
            >
              {applying ? 'Importing …' : `Import ${willDo} ${willDo === 1 ? 'row' : 'rows'}`}
            </Button>
            {p.problems.length > 0 && (
              <span className="text-soft">
                A table is imported whole or not at all: put the rows right first.
              </span>
            )}
            {p.problems.length === 0 && willDo === 0 && (
              <span className="text-soft">Everything is in the register as it is here.</span>
            )}
          </div>
        </section>
      )}
    </main>
  );
}

function Columns({ kind }: { kind: ImportKind }) {
  return (
    <p className="mb-2 max-w-[900px] text-[12.5px] text-soft">
      Columns:{' '}
      {IMPORT_COLUMNS[kind].map((c, i) => (
        <span key={c.field}>
          {i > 0 && ', '}
          {c.required ? <b className="text-ink">{c.header}</b> : c.header}
        </span>
      ))}
      . Those in bold are needed; a column that is left out changes nothing. Comma, semicolon or tab; decimal
      point or comma.
    </p>
  );
}

function Counts({ preview: p }: { preview: ImportPreview }) {
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <h2>What would change</h2>
      <span>{p.counts.add} new</span>
      <span>{p.counts.change} changed</span>
      <span className="text-soft">{p.counts.keep} as they are</span>
      {p.problems.length > 0 && (
        <Mark tone="loss">
          {p.problems.length} {p.problems.length === 1 ? 'problem' : 'problems'}
        </Mark>
      )}
    </div>
  );
}

const PROBLEMS_SHOWN = 100;
function Problems({ list }: { list: ImportPreview['problems'] }) {
  if (list.length === 0) return null;
  return (
    <>
      <table className="ledger mb-4 max-w-[900px]">
        <thead>
          <tr>
            <th className="num pr-4">Line</th>
            <th>Column</th>
            <th>What is wrong</th>
          </tr>
        </thead>
        <tbody>
          {list.slice(0, PROBLEMS_SHOWN).map((problem, i) => (
            <tr key={i}>
              <td className="num pr-4">{problem.line}</td>
              <td>{problem.column ?? ''}</td>
              <td className="text-loss">{problem.message}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {list.length > PROBLEMS_SHOWN && <p className="text-soft">and {list.length - PROBLEMS_SHOWN} more</p>}
    </>
  );
}

function Rows({ list }: { list: ImportPreview['rows'] }) {
  if (list.length === 0) return null;
  return (
    <table className="ledger max-w-[1100px]">
      <thead>
        <tr>
          <th className="num pr-4">Line</th>
          <th>What</th>
          <th>Record</th>
          <th>Changes</th>
        </tr>
      </thead>
      <tbody>
        {list.map((row) => (
          <tr key={row.line}>
            <td className="num pr-4">{row.line}</td>
            <td>{ACTION[row.action]}</td>
            <td>{row.key}</td>
            <td>
              {row.changes.map((c) => (
                <span key={c.field} className="mr-3 inline-block">
                  {c.field}: <s className="text-soft">{c.from}</s> {c.to}
                </span>
              ))}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
