import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { LEGAL_CLASSES, PART_CATEGORIES, PROMISES } from '../../core/register/parts.ts';
import { PartInput, RevisionInput, type Part, type Revision } from '../../contract/register/register.ts';
import { day, number } from '../base/format.ts';
import { LongList } from '../base/long-list.tsx';
import { Picker, type Choice } from '../base/picker.tsx';
import { RecordForm, RowsEditor, type FieldGroup } from '../base/record-form.tsx';
import {
  Button,
  buttonClass,
  Dialog,
  Empty,
  Input,
  Loading,
  Mark,
  ProblemNote,
  Select,
} from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import {
  useAddPartMutation,
  useChangePartMutation,
  useFindParts,
  usePartQuery,
  usePartsInfiniteQuery,
  useRevisePartMutation,
} from './api.ts';
import { Facts, PageHead, useMay } from './layout.tsx';

export function PartsPage() {
  const may = useMay();
  const [words, setWords] = useState('');
  const [category, setCategory] = useState('');
  const q = useSettled(words);
  const { data, error, fetchNextPage, hasNextPage, isFetching } = usePartsInfiniteQuery({
    q,
    category: category || undefined,
  });
  const rows = useMemo(() => data?.pages.flatMap((p) => p.items) ?? [], [data]);
  return (
    <main className="px-6 py-5">
      <PageHead title="Parts" note="A revision is written once; what changes is a new revision.">
        <a href="/api/register/export/parts" className={buttonClass('plain')}>
          CSV
        </a>
        {may.manage && (
          <>
            <Link to="/register/import/parts" className={buttonClass('plain')}>
              Paste or import rows
            </Link>
            <Link to="/register/parts/new" className={buttonClass('main')}>
              New part
            </Link>
          </>
        )}
      </PageHead>
      <div className="mb-3 flex flex-wrap gap-2">
        <Input
          type="search"
          aria-label="Find a part"
          placeholder="Name, SKU, maker"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-80"
        />
        <Select aria-label="Category" value={category} onChange={(e) => setCategory(e.target.value)}>
          <option value="">all categories</option>
          {PART_CATEGORIES.map((c) => (
            <option key={c}>{c}</option>
          ))}
        </Select>
      </div>
      <ProblemNote error={error} />
      {!data && !error && <Loading what="the parts" />}
      {data && rows.length === 0 && (
        <Empty title="No part like that">
          {words || category
            ? 'Try fewer letters, or another category.'
            : 'Add the first one, or paste rows from a spreadsheet.'}
        </Empty>
      )}
      {rows.length > 0 && (
        <LongList
          label="Parts"
          rows={rows}
          total={data!.pages[0].total}
          more={hasNextPage && !isFetching}
          loadMore={() => void fetchNextPage()}
          keyOf={(p) => p.id}
          columns="minmax(220px,2fr) 120px 130px 80px 84px 110px 120px"
          head={['Part', 'SKU', 'Category', 'Revision', 'Fits', 'Launch', 'Embargo']}
          row={(p) => [
            <Link
              key="n"
              to={`/register/parts/${p.id}`}
              className="block truncate font-semibold no-underline hover:underline"
            >
              {p.name}
              <span className="block truncate text-[12px] font-normal text-soft">{p.maker}</span>
            </Link>,
            <span key="s" className="block truncate">
              {p.sku}
            </span>,
            p.category,
            p.latestRevision ?? '',
            number(p.fitments, 0),
            p.launchDate ? day(p.launchDate) : '',
            p.embargoed ? (
              <Mark key="e" tone="ask">
                {p.withheld ? 'withheld' : `to ${day(p.embargoUntil!)}`}
              </Mark>
            ) : (
              ''
            ),
          ]}
        />
      )}
    </main>
  );
}

const PART_GROUPS: readonly FieldGroup<keyof PartInput>[] = [
  {
    title: 'Part',
    fields: [
      { name: 'name', label: 'Name', kind: 'text', span: 4 },
      { name: 'sku', label: 'SKU', kind: 'text', span: 3 },
      { name: 'maker', label: 'Maker', kind: 'text', span: 3 },
      { name: 'category', label: 'Category', kind: 'select', options: PART_CATEGORIES, span: 2 },
      {
        name: 'promise',
        label: 'What it promises',
        kind: 'select',
        options: PROMISES,
        span: 3,
        hint: 'only power is tested on the rollers',
      },
      { name: 'priceCents', label: 'Price, cents', kind: 'number', optional: true, span: 3 },
      { name: 'currency', label: 'Currency', kind: 'text', span: 2 },
      { name: 'launchDate', label: 'On sale from', kind: 'date', span: 3 },
      {
        name: 'legal',
        label: 'Legal class by market',
        kind: 'custom',
        span: 6,
        hint: 'The law differs by place; ask a licensed workshop.',
        render: (value: PartInput['legal'], onChange) => (
          <RowsEditor
            value={value ?? []}
            onChange={onChange}
            blank={{ market: 'EU', class: 'unknown' as const }}
            add="Add a market"
            fields={[
              { name: 'market', label: 'Market', width: '80px' },
              {
                name: 'class',
                label: 'Class',
                width: '170px',
                options: LEGAL_CLASSES.map((c) => ({ value: c, label: c })),
              },
            ]}
          />
        ),
      },
      { name: 'note', label: 'Note', kind: 'area', span: 6 },
    ],
  },
  {
    title: 'Embargo',
    note: 'Until the day, everybody without clearance reads the code name: in lists, charts, files, the audit trail and packs.',
    fields: [
      { name: 'embargoUntil', label: 'Until', kind: 'date', span: 3 },
      { name: 'codeName', label: 'Code name', kind: 'text', span: 4, hint: 'gives nothing away' },
    ],
  },
];
const BLANK_PART: PartInput = {
  name: '',
  sku: '',
  maker: '',
  category: 'intake',
  promise: 'power',
  priceCents: null,
  currency: 'EUR',
  launchDate: null,
  legal: [],
  embargoUntil: null,
  codeName: null,
  note: '',
};
const BLANK_REVISION: RevisionInput = {
  revision: 'A',
  releasedOn: null,
  changeNote: '',
  options: [],
  needs: { partIds: [], calibration: false, fuel: null },
  conflicts: [],
  weightKg: null,
  installHours: 1,
  removeHours: 0.5,
  specialTools: '',
  irreversibleSteps: '',
  replaceOnInstall: [],
};

/** Parts chosen by name, kept by id. */
function PartChips({
  value,
  onChange,
  label,
  names,
}: {
  value: readonly string[];
  onChange: (ids: string[]) => void;
  label: string;
  names: Record<string, string>;
}) {
  const [known, setKnown] = useState(names);
  return (
    <div className="grid gap-1.5">
      {value.length > 0 && (
        <ul className="flex flex-wrap gap-1.5">
          {value.map((id) => (
            <li key={id} className="flex items-center gap-1 rounded border border-rule bg-paper px-2 py-0.5">
              <PartName id={id} known={known[id]} />
              <button
                type="button"
                aria-label={`Remove ${known[id] ?? 'the part'}`}
                onClick={() => onChange(value.filter((v) => v !== id))}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      <Picker
        label={label}
        placeholder="add a part"
        value={null}
        useFind={useFindParts}
        onChoose={(choice: Choice) => {
          setKnown({ ...known, [choice.id]: choice.name });
          if (!value.includes(choice.id)) onChange([...value, choice.id]);
        }}
      />
    </div>
  );
}
const PartName = ({ id, known }: { id: string; known: string | undefined }) => {
  const { data } = usePartQuery(id, { skip: known !== undefined });
  return <>{known ?? data?.part.name ?? '…'}</>;
};

const REVISION_GROUPS: readonly FieldGroup<keyof RevisionInput>[] = [
  {
    title: 'Revision',
    fields: [
      { name: 'revision', label: 'Revision', kind: 'text', span: 2 },
      { name: 'releasedOn', label: 'Released', kind: 'date', span: 3 },
      { name: 'weightKg', label: 'Weight, kg', kind: 'number', optional: true, span: 2 },
      { name: 'changeNote', label: 'What changed', kind: 'text', span: 5 },
    ],
  },
  {
    title: 'Options',
    note: 'A setting that can be chosen: insert in or out, port open or closed, pulley size. The first one is how it is sold.',
    fields: [
      {
        name: 'options',
        label: 'Options and their settings',
        kind: 'custom',
        span: 12,
        render: (value: RevisionInput['options'], onChange) => (
          <RowsEditor
            value={value ?? []}
            onChange={onChange}
            blank={{ name: '', settings: [] }}
            add="Add an option"
            fields={[
              { name: 'name', label: 'Option', width: '140px' },
              { name: 'settings', label: 'Settings, with commas between', width: '320px', kind: 'list' },
            ]}
          />
        ),
      },
    ],
  },
  {
    title: 'Needs and conflicts',
    fields: [
      {
        name: 'needs',
        label: 'Cannot be run without',
        kind: 'custom',
        span: 6,
        render: (value: RevisionInput['needs'], onChange) => (
          <div className="grid gap-2">
            <PartChips
              label="Part it needs"
              names={{}}
              value={value?.partIds ?? []}
              onChange={(partIds) => onChange({ ...value, partIds })}
            />
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4"
                checked={value?.calibration ?? false}
                onChange={(e) => onChange({ ...value, calibration: e.target.checked })}
              />{' '}
              a calibration made for it
            </label>
            <Input
              aria-label="Fuel it needs"
              placeholder="a fuel, e.g. 98 RON"
              value={value?.fuel ?? ''}
              onChange={(e) => onChange({ ...value, fuel: e.target.value || null })}
            />
          </div>
        ),
      },
      {
        name: 'conflicts',
        label: 'Cannot be fitted together with',
        kind: 'custom',
        span: 6,
        render: (value: string[], onChange) => (
          <PartChips label="Part it excludes" names={{}} value={value ?? []} onChange={onChange} />
        ),
      },
    ],
  },
  {
    title: 'Fitting it',
    fields: [
      { name: 'installHours', label: 'Hours to fit', kind: 'number', span: 2 },
      { name: 'removeHours', label: 'Hours to take off', kind: 'number', span: 2 },
      { name: 'specialTools', label: 'Special tools', kind: 'text', span: 4 },
      {
        name: 'irreversibleSteps',
        label: 'Steps that cannot be undone',
        kind: 'text',
        span: 4,
        hint: 'shown as a caution wherever it is planned',
      },
      {
        name: 'replaceOnInstall',
        label: 'Replace when fitting',
        kind: 'lines',
        span: 6,
        hint: 'gaskets, studs, clamps',
      },
    ],
  },
];

export function NewPartPage() {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const from = search.get('from');
  const { data: sibling } = usePartQuery(from ?? '', { skip: !from });
  const [part, setPart] = useState<PartInput | null>(null);
  const [add, { error, isLoading }] = useAddPartMutation();
  if (from && !sibling)
    return (
      <main className="p-6">
        <Loading what="the sibling" />
      </main>
    );
  const first = sibling
    ? { ...partOf(sibling.part), sku: '', embargoUntil: null, codeName: null }
    : BLANK_PART;
  return (
    <main className="max-w-[980px] px-6 py-5">
      <PageHead
        title="New part"
        note={
          part
            ? `${part.name}: now its first revision.`
            : sibling
              ? `Copied from ${sibling.part.name}; give it its own SKU.`
              : 'First the part, then its first revision.'
        }
      />
      {part === null ? (
        <RecordForm
          key="part"
          schema={PartInput}
          groups={PART_GROUPS}
          values={first}
          onCancel={() => void navigate('/register/parts')}
          verb="On to the revision"
          save={setPart}
        />
      ) : (
        <RecordForm
          key="revision"
          schema={RevisionInput}
          groups={REVISION_GROUPS}
          values={
            sibling?.revisions[0]
              ? { ...revisionOf(sibling.revisions[0]), revision: 'A', changeNote: '' }
              : BLANK_REVISION
          }
          saving={isLoading}
          problem={error}
          onCancel={() => setPart(null)}
          verb="Add the part"
          save={async (revision) => {
            const answer = await add({ part, revision });
            if ('data' in answer && answer.data) {
              toast.success('Added.');
              void navigate(`/register/parts/${answer.data.id}`);
            }
          }}
        />
      )}
    </main>
  );
}
const partOf = ({ id: _i, version: _v, embargoed: _e, withheld: _w, ...input }: Part): PartInput => input;
const revisionOf = ({ id: _i, partId: _p, createdAt: _c, ...input }: Revision): RevisionInput => input;

export function PartPage() {
  const { partId = '' } = useParams();
  const may = useMay();
  const { data, error } = usePartQuery(partId);
  const [change, { error: refused, isLoading }] = useChangePartMutation();
  const [revise, { error: notRevised, isLoading: revising }] = useRevisePartMutation();
  const [open, setOpen] = useState<'part' | 'revision' | null>(null);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the part" />
      </main>
    );
  const { part: p, revisions } = data;
  const mayChange = may.manage && !p.withheld;
  return (
    <main className="px-6 py-5">
      <PageHead title={p.name} note={`${p.sku} · ${p.maker} · ${p.category}`}>
        {p.embargoed && (
          <Mark tone="ask">
            {p.withheld
              ? 'under embargo: you read its code name'
              : `under embargo until ${day(p.embargoUntil!)}, code name ${p.codeName}`}
          </Mark>
        )}
        {mayChange && (
          <>
            <Link to={`/register/parts/new?from=${p.id}`} className={buttonClass('plain')}>
              Copy
            </Link>
            <Button onClick={() => setOpen('part')}>Change</Button>
            <Button kind="main" onClick={() => setOpen('revision')}>
              New revision
            </Button>
          </>
        )}
      </PageHead>
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_330px]">
        <section>
          <h2 className="mb-2">Revisions</h2>
          {revisions.map((r, i) => (
            <article key={r.id} className="mb-4 border-t-[1.5px] border-ink pt-2">
              <h3 className="font-display text-[17px] font-semibold">
                Revision {r.revision}{' '}
                {i === 0 && <span className="font-sans text-[12.5px] font-normal text-soft">the newest</span>}
              </h3>
              {r.changeNote && <p className="text-soft">{r.changeNote}</p>}
              {r.irreversibleSteps && (
                <p className="mt-1 border-l-4 border-ask px-3 py-1 text-[12.5px]">
                  <b className="text-ask">Cannot be undone: </b>
                  {r.irreversibleSteps}
                </p>
              )}
              <Facts
                wide
                rows={[
                  ['Written', day(r.createdAt)],
                  ...(r.releasedOn ? [['Released', day(r.releasedOn)] as const] : []),
                  ...(r.weightKg === null ? [] : [['Weight', `${r.weightKg} kg`] as const]),
                  ['To fit and to take off', `${r.installHours} h and ${r.removeHours} h`],
                  ...(r.options.length
                    ? [
                        [
                          'Options',
                          r.options.map((o) => `${o.name}: ${o.settings.join(' / ')}`).join('; '),
                        ] as const,
                      ]
                    : []),
                  ...(r.needs.partIds.length || r.needs.calibration || r.needs.fuel
                    ? [
                        [
                          'Needs',
                          <span key="n">
                            {r.needs.partIds.map((id) => (
                              <span key={id}>
                                <PartName id={id} known={undefined} />;{' '}
                              </span>
                            ))}
                            {[r.needs.calibration ? 'a calibration made for it' : '', r.needs.fuel ?? '']
                              .filter(Boolean)
                              .join('; ')}
                          </span>,
                        ] as const,
                      ]
                    : []),
                  ...(r.conflicts.length
                    ? [
                        [
                          'Not together with',
                          <span key="c">
                            {r.conflicts.map((id, k) => (
                              <span key={id}>
                                {k > 0 && ', '}
                                <PartName id={id} known={undefined} />
                              </span>
                            ))}
                          </span>,
                        ] as const,
                      ]
                    : []),
                  ...(r.specialTools ? [['Special tools', r.specialTools] as const] : []),
                  ...(r.replaceOnInstall.length
                    ? [['Replace when fitting', r.replaceOnInstall.join(', ')] as const]
                    : []),
                ]}
              />
            </article>
          ))}
        </section>
        <aside className="grid content-start gap-5">
          <Facts
            rows={[
              ['Promise', p.promise],
              [
                'Price',
                p.priceCents === null ? 'not entered' : `${number(p.priceCents / 100, 2)} ${p.currency}`,
              ],
              ['On sale from', p.launchDate ? day(p.launchDate) : 'no date'],
              [
                'Legal',
                p.legal.length ? p.legal.map((l) => `${l.market}: ${l.class}`).join('; ') : 'not entered',
              ],
              ...(p.note ? [['Note', p.note] as const] : []),
            ]}
          />
          <p className="text-[12.5px] text-soft">
            Removing or changing emissions equipment and noise: the law differs by place; ask a licensed
            workshop.
          </p>
          <section>
            <h2>
              Fits {data.fitmentsTotal} {data.fitmentsTotal === 1 ? 'fitment' : 'fitments'}
            </h2>
            <ul>
              {data.fitments.slice(0, 12).map((f) => (
                <li key={f.id}>
                  <Link to={`/register/fitments/${f.id}`}>{f.name}</Link>
                </li>
              ))}
            </ul>
            {data.fitmentsTotal > 12 && <p className="text-soft">and {data.fitmentsTotal - 12} more</p>}
            <p className="mt-1 text-[12.5px]">
              <Link to={`/register/applications?part=${encodeURIComponent(p.sku)}`}>
                Change the applications
              </Link>
            </p>
          </section>
        </aside>
      </div>
      <Dialog
        wide
        open={open !== null}
        onClose={() => setOpen(null)}
        title={open === 'revision' ? `New revision of ${p.name}` : `Change ${p.name}`}
      >
        {open === 'part' && (
          <RecordForm
            schema={PartInput}
            groups={PART_GROUPS}
            values={partOf(p)}
            saving={isLoading}
            problem={refused}
            onCancel={() => setOpen(null)}
            save={async (record) => {
              const answer = await change({ id: p.id, version: p.version, record });
              if (!('error' in answer)) {
                setOpen(null);
                toast.success('Changed.');
              }
            }}
          />
        )}
        {open === 'revision' && (
          <RecordForm
            schema={RevisionInput}
            groups={REVISION_GROUPS}
            values={
              revisions[0] ? { ...revisionOf(revisions[0]), revision: '', changeNote: '' } : BLANK_REVISION
            }
            saving={revising}
            problem={notRevised}
            onCancel={() => setOpen(null)}
            verb="Write the revision"
            save={async (revision) => {
              const answer = await revise({ id: p.id, revision });
              if (!('error' in answer)) {
                setOpen(null);
                toast.success('Written. Earlier revisions stay as they were.');
              }
            }}
          />
        )}
      </Dialog>
    </main>
  );
}
