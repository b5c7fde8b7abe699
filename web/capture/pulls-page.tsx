import clsx from 'clsx';
import { Download, FileUp } from 'lucide-react';
import { useRef, useState, type DragEvent } from 'react';
import { useOutletContext } from 'react-router';
import { toast } from 'sonner';
import { CAPTURE, EXCLUDE } from '../../contract/base/roles.ts';
import { type Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { MAX_PULL_FILE_BYTES } from '../../core/capture/limits.ts';
import { problemOf, useSessionQuery, type Problem } from '../base/api.ts';
import { useAnalysisQuery, useAttachFileMutation } from '../base/endpoints.ts';
import { bytes, number, rpm, useUnits } from '../base/format.ts';
import { Button, Caution, ProblemNote } from '../base/ui.tsx';
import { assign, type Assigned } from './assign.ts';
import { ColumnsDialog } from './columns-dialog.tsx';
import { ReadAs } from './read-as.tsx';
import { Unplaced } from './unplaced.tsx';
import { PullStatus, RepeatButton, RestoreButton, ExcludeDialog } from './pull-actions.tsx';
import { Accounting } from './accounting.tsx';

interface Refused {
  readonly file: File;
  readonly pull: Pull;
  readonly problem: Problem;
}

/** Questions about columns that one answer settles for every file of the same layout. */
const ASKS: ReadonlySet<string> = new Set([
  'UNIT_UNKNOWN',
  'AMBIGUOUS_COLUMNS',
  'NO_ENGINE_SPEED',
  'NO_TORQUE_NOR_POWER',
]);

/** Files with their first lines, which may say what they are. */
const withHeads = (files: readonly File[]) =>
  Promise.all(files.map(async (file) => ({ file, head: await file.slice(0, 4096).text() })));

/** Every pull in order: file, what was found in it, factor and peaks, and whether it counts. */
export function PullsPage() {
  const detail = useOutletContext<TestDetail>();
  const armLabel = (key: string): string => detail.arms.find((a) => a.key === key)?.label ?? key;
  const { data: session } = useSessionQuery();
  const { data: state } = useAnalysisQuery(detail.summary.id);
  const [attach] = useAttachFileMutation();
  const [refused, setRefused] = useState<Refused[]>([]);
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);
  const [asking, setAsking] = useState<Refused | null>(null);
  const [leavingOut, setLeavingOut] = useState<Pull | null>(null);
  const [over, setOver] = useState(false);
  const [unplaced, setUnplaced] = useState<readonly Assigned<File>[]>([]);
  const [rereading, setRereading] = useState<Pull | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const target = useRef<Pull | null>(null);
  const units = useUnits();
  const role = session?.person?.role;
  const mayCapture = role !== undefined && CAPTURE.includes(role);
  const mayExclude = role !== undefined && EXCLUDE.includes(role);
  const testId = detail.summary.id;

  const assigned = async (files: readonly File[]): Promise<void> =>
    send(assign(await withHeads(files), detail.pulls, detail.arms));
  const send = async (list: readonly Assigned<File>[]): Promise<void> => {
    setRefused([]);
    const fits = list.filter((entry): entry is { file: File; pull: Pull } => entry.pull !== undefined);
    const asked = list.filter((entry) => !entry.pull);
    if (asked.length > 0) setUnplaced(asked);
    const bad: Refused[] = [];
    for (const [i, { file, pull }] of fits.entries()) {
      setProgress({ done: i, of: fits.length });
      if (file.size > MAX_PULL_FILE_BYTES) {
        bad.push({
          file,
          pull,
          problem: {
            code: 'FILE_TOO_LARGE',
            message: `${file.name}: the file has ${bytes(file.size)}; a pull file may have ${bytes(MAX_PULL_FILE_BYTES)}. Export the one pull, not the whole session.`,
            details: {},
          },
        });
        continue;
      }
      const answer = await attach({ testId, pullId: pull.id, file });
      if ('error' in answer) bad.push({ file, pull, problem: problemOf(answer.error) });
    }
    setProgress(null);
    setRefused(bad);
    if (fits.length > bad.length)
      toast.success(
        `${fits.length - bad.length} ${fits.length - bad.length === 1 ? 'file' : 'files'} attached.`,
      );
  };
  const onDrop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void assigned([...event.dataTransfer.files]);
  };
  const pick = (pull: Pull | null): void => {
    target.current = pull;
    if (picker.current) {
      picker.current.multiple = pull === null;
      picker.current.click();
    }
  };
  const results = new Map(state?.analysis?.result.pulls.map((p) => [p.id, p]));

  return (
    <main className="grid gap-4 px-[22px] py-4">
      {mayCapture && (
        <div
          onDragOver={(e) => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={onDrop}
          className={clsx(
            'flex flex-wrap items-center gap-x-4 gap-y-2 rounded-md border-[1.5px] border-dashed px-5 py-4',
            over ? 'border-stands bg-faint' : 'border-soft',
          )}
        >
          <FileUp size={22} aria-hidden className="text-soft" />
          <div className="min-w-60 flex-1">
            <b>Drop pull files here.</b>{' '}
            <span className="text-soft">
              They go to the pull that their name, number or preamble says (p4.csv). Delimited text from any
              logger; columns and units are found.
            </span>
          </div>
          <Button kind="main" onClick={() => pick(null)} disabled={progress !== null}>
            Choose files
          </Button>
          <input
            ref={picker}
            type="file"
            multiple
            className="sr-only"
            aria-label="Pull files"
            tabIndex={-1}
            accept=".csv,.txt,.tsv,.log,.dat,text/*"
            onChange={(e) => {
              const files = [...(e.target.files ?? [])];
              e.target.value = '';
              const pull = target.current;
              target.current = null;
              void (pull ? send(files.map((file) => ({ file, pull }))) : assigned(files));
            }}
          />
          {progress && (
            <p role="status" className="w-full text-soft">
              Reading file {progress.done + 1} of {progress.of} …{' '}
              <progress value={progress.done} max={progress.of} className="ml-2 align-middle" />
            </p>
          )}
        </div>
      )}
      {unplaced.length > 0 && (
        <Unplaced
          list={unplaced}
          pulls={detail.pulls}
          armLabel={armLabel}
          onPlace={(file, pull) => {
            setUnplaced((list) => list.filter((entry) => entry.file !== file));
            void send([{ file, pull }]);
          }}
          onDrop={(file) => setUnplaced((list) => list.filter((entry) => entry.file !== file))}
        />
      )}
      {refused.length > 0 && (
        <section aria-label="Files not taken" className="grid gap-2">
          <h2 className="text-loss">
            {refused.length} {refused.length === 1 ? 'file was' : 'files were'} not taken; nothing of{' '}
            {refused.length === 1 ? 'it' : 'them'} is stored
          </h2>
          {refused.map((r) => (
            <div key={r.file.name} className="flex flex-wrap items-start gap-3">
              <div className="grow">
                <ProblemNote message={`For ${r.pull.label}. ${r.problem.message}`} />
              </div>
              {ASKS.has(r.problem.code) && (
                <Button small onClick={() => setAsking(r)}>
                  Say which columns
                </Button>
              )}
            </div>
          ))}
        </section>
      )}
      <div className="overflow-x-auto">
        <table className="ledger">
          <thead>
            <tr>
              <th>Pull</th>
              <th>Arm</th>
              <th>File</th>
              <th>Sweep</th>
              <th className="num">Factor</th>
              <th className="num">Peak power</th>
              <th className="num">Peak torque</th>
              <th className="pl-4!">Status</th>
              <th>
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {detail.pulls.map((pull, i) => {
              const newRun = i === 0 || detail.pulls[i - 1].run !== pull.run;
              if (!pull.counted) {
                if (!newRun && !detail.pulls[i - 1].counted) return null;
                const warm = detail.pulls.filter((p) => p.run === pull.run && !p.counted).length;
                return (
                  <tr key={pull.id}>
                    <td className="whitespace-nowrap text-soft">w × {warm}</td>
                    <td className="text-soft">{armLabel(pull.arm)}</td>
                    <td colSpan={7} className="text-[12.5px] text-soft">
                      warm-up pulls of run {pull.run}, mounting {pull.mount}: run, recorded on the run sheet,
                      never counted
                    </td>
                  </tr>
                );
              }
              const result = results.get(pull.label);
              return (
                <tr key={pull.id} className={clsx(pull.excluded && 'text-soft')}>
                  <td className="font-semibold">
                    {pull.label}
                    {pull.repeats && (
                      <div className="text-[12px] font-normal text-soft">repeats {pull.repeats}</div>
                    )}
                  </td>
                  <td>{armLabel(pull.arm)}</td>
                  <td>
                    {pull.file ? (
                      <>
                        <a
                          href={`/api/tests/${testId}/pulls/${pull.id}/file`}
                          className="inline-flex items-center gap-1"
                        >
                          {pull.file.name}
                          <Download size={12} aria-label="download the raw file" />
                        </a>
                        <div className="text-[12px] text-soft" title={`SHA-256 ${pull.file.sha256}`}>
                          {bytes(pull.file.size)} · {number(pull.file.found.samples, 0)} samples ·{' '}
                          {pull.file.sha256.slice(0, 10)}…
                        </div>
                        <ReadAs pull={pull} onChange={mayCapture ? () => setRereading(pull) : undefined} />
                      </>
                    ) : (
                      <span className="text-soft">not captured</span>
                    )}
                  </td>
                  <td className="text-[12.5px]">
                    {pull.file && (
                      <>
                        {number(pull.file.found.sweep.fromRpm, 0)} to {rpm(pull.file.found.sweep.toRpm)}
                      </>
                    )}
                  </td>
                  <td className="num">{result && number(result.factor, 4)}</td>
                  <td className="num">
                    {result?.peakPower && (
                      <>
                        {number(units.power.of(result.peakPower.kw))} {units.power.unit}
                        <div className="text-[12px] text-soft">{rpm(result.peakPower.rpm)}</div>
                      </>
                    )}
                  </td>
                  <td className="num">
                    {result?.peakTorque && (
                      <>
                        {number(units.torque.of(result.peakTorque.nm))} {units.torque.unit}
                        <div className="text-[12px] text-soft">{rpm(result.peakTorque.rpm)}</div>
                      </>
                    )}
                  </td>
                  <td className="pl-4!">
                    <PullStatus pull={pull} />
                  </td>
                  <td className="num">
                    <span className="inline-flex gap-1">
                      {mayCapture && (
                        <Button small kind="quiet" onClick={() => pick(pull)}>
                          {pull.file ? 'Replace' : 'Attach'}
                          <span className="sr-only"> file of {pull.label}</span>
                        </Button>
                      )}
                      {mayExclude &&
                        (pull.excluded ? (
                          <>
                            <RestoreButton testId={testId} pull={pull} />
                            {role === 'test manager' &&
                              !detail.pulls.some((p) => p.repeats === pull.label) && (
                                <RepeatButton testId={testId} pull={pull} />
                              )}
                          </>
                        ) : (
                          <Button small kind="quiet" onClick={() => setLeavingOut(pull)}>
                            Exclude<span className="sr-only"> {pull.label}</span>
                          </Button>
                        ))}
                    </span>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <Accounting
        pulls={detail.pulls}
        analysed={state?.analysis ? [...results.values()].filter((p) => p.counted && !p.excluded).length : 0}
      />
      <Caution>
        Strapped vehicle, rotating rollers, hot exhaust and carbon monoxide: nobody beside the wheels during a
        pull, extraction running, hearing protection on.
      </Caution>
      {asking && (
        <ColumnsDialog
          testId={testId}
          pullId={asking.pull.id}
          file={asking.file}
          problem={asking.problem}
          onClose={() => setAsking(null)}
          onDone={() => {
            // One answer serves every file of this layout: the others are sent again with it.
            const others = refused.filter((r) => r !== asking && ASKS.has(r.problem.code));
            const rest = refused.filter((r) => r !== asking && !ASKS.has(r.problem.code));
            setAsking(null);
            setRefused(rest);
            if (others.length > 0) void send(others).then(() => setRefused((list) => [...rest, ...list]));
          }}
        />
      )}
      {rereading?.file && (
        <ColumnsDialog
          testId={testId}
          pullId={rereading.id}
          stored={rereading.file}
          onClose={() => setRereading(null)}
          onDone={() => setRereading(null)}
        />
      )}
      {leavingOut && (
        <ExcludeDialog
          testId={testId}
          pull={leavingOut}
          seen={state?.analysis !== null && state?.analysis !== undefined}
          onClose={() => setLeavingOut(null)}
        />
      )}
    </main>
  );
}
