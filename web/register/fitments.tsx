import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { FitmentInput, fitmentName, type Fitment } from '../../contract/register/register.ts';
import { number, useUnits } from '../base/format.ts';
import { LongList } from '../base/long-list.tsx';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { Select } from '../base/select.tsx';
import { Button, buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import {
  useAddFitmentMutation,
  useChangeFitmentMutation,
  useFitmentQuery,
  useFitmentsInfiniteQuery,
  useRegisterQuery,
} from './api.ts';
import { Facts, PageHead, useMay } from './layout.tsx';

/** Every fitment: found by a loosely typed phrase, read page by page. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function FitmentsPage() {
  const may = useMay();
  const units = useUnits();
  const [words, setWords] = useState('');
  const [family, setFamily] = useState('');
  const q = useSettled(words);
  const { data: register } = useRegisterQuery();
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useFitmentsInfiniteQuery({
    q,
    family: family || undefined,
  });
  const rows = useMemo(() => data?.pages.flatMap((p) => p.items) ?? [], [data]);
  return (
    <main className="px-6 py-5">
      <PageHead title="Fitments" note="What a part is sold for. A number never crosses an output variant.">
        <a href="/api/register/export/fitments" className={buttonClass('plain')}>
          CSV
        </a>
        {may.manage && (
          <>
            <Link to="/register/import/fitments" className={buttonClass('plain')}>
              Paste or import rows
            </Link>
            <Link to="/register/fitments/new" className={buttonClass('main')}>
              New fitment
            </Link>
          </>
        )}
      </PageHead>
      <div className="mb-3 flex flex-wrap gap-2">
        <Input
          type="search"
          aria-label="Find a fitment"
          placeholder="tern 1,8 estate 2019, sprat 85 …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-80"
        />
        <Select aria-label="Family" value={family} onChange={(e) => setFamily(e.target.value)}>
          <option value="">all families</option>
          {register?.families.map((f) => (
            <option key={f}>{f}</option>
          ))}
        </Select>
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the fitments" />}
      {data && rows.length === 0 && (
        <Empty title="No fitment like that">
          {words || family
            ? 'Try fewer letters, or another family.'
            : 'Add the first one, or paste rows from a spreadsheet.'}
        </Empty>
      )}
      {rows.length > 0 && (
        <LongList
          label="Fitments"
          rows={rows}
          total={data!.pages[0].total}
          more={hasNextPage && !isFetching}
          loadMore={() => void fetchNextPage()}
          keyOf={(f) => f.id}
          columns="minmax(220px,2fr) 96px minmax(120px,1fr) 78px 76px 92px 84px"
          head={['Fitment', 'Years', 'Engine', 'Family', 'Output', 'Drive', 'Units a year']}
          row={(f) => [
            <Link
              key="n"
              to={`/register/fitments/${f.id}`}
              className="block font-semibold no-underline hover:underline"
            >
              {fitmentName({ maker: f.maker, model: f.model })}
              <span className="block text-[12px] font-normal text-soft">
                {f.market} · {f.transmission}
              </span>
            </Link>,
            `${f.yearFrom} to ${f.yearTo ?? 'now'}`,
            <span key="e" className="block">
              {f.engineCode}, {(f.displacementCc / 1000).toFixed(1)} L
              <span className="block text-[12px] text-soft">{f.aspiration}</span>
            </span>,
            f.family,
            `${number(units.power.of(f.ratedPowerKw), 0)} ${units.power.unit}`,
            f.drivenWheels,
            number(f.unitsPerYear, 0),
          ]}
        />
      )}
    </main>
  );
}

export const FITMENT_GROUPS: readonly FieldGroup<keyof FitmentInput>[] = [
  {
    title: 'Vehicle',
    fields: [
      { name: 'maker', label: 'Maker', kind: 'text', span: 3 },
      { name: 'model', label: 'Model', kind: 'text', span: 5 },
      { name: 'platformCode', label: 'Platform code', kind: 'text', span: 2 },
      { name: 'market', label: 'Market', kind: 'text', span: 2 },
      { name: 'yearFrom', label: 'First model year', kind: 'number', span: 2 },
      { name: 'yearTo', label: 'Last', kind: 'number', optional: true, span: 2, hint: 'empty: still built' },
      { name: 'transmission', label: 'Transmission', kind: 'text', span: 3 },
      {
        name: 'drivenWheels',
        label: 'Driven wheels',
        kind: 'select',
        options: ['front', 'rear', 'all'],
        span: 2,
      },
      { name: 'stockTyres', label: 'Stock tyres', kind: 'text', span: 3 },
    ],
  },
  {
    title: 'Engine',
    fields: [
      { name: 'engineCode', label: 'Engine code', kind: 'text', span: 3 },
      { name: 'displacementCc', label: 'Displacement, cm³', kind: 'number', span: 3 },
      { name: 'cylinders', label: 'Cylinders', kind: 'number', span: 2 },
      {
        name: 'aspiration',
        label: 'Aspiration',
        kind: 'select',
        options: ['natural', 'turbo', 'turbo-intercooled', 'supercharged'],
        span: 4,
      },
      { name: 'ignition', label: 'Ignition', kind: 'select', options: ['spark', 'compression'], span: 3 },
      { name: 'fuel', label: 'Fuel', kind: 'text', span: 3, hint: 'with its octane, e.g. petrol 95 RON' },
      { name: 'family', label: 'Family', kind: 'text', span: 3, hint: 'shares engine and intake' },
      { name: 'unitsPerYear', label: 'Units sold a year', kind: 'number', span: 3 },
    ],
  },
  {
    title: 'Rating at the crank',
    fields: [
      { name: 'outputVariant', label: 'Output variant', kind: 'text', span: 3 },
      { name: 'ratedPowerKw', label: 'Power', kind: 'quantity', of: 'power', span: 3 },
      { name: 'ratedTorqueNm', label: 'Torque', kind: 'quantity', of: 'torque', span: 3 },
      { name: 'ratedStandard', label: 'Rated to', kind: 'text', span: 3 },
    ],
  },
];
/** A fact nobody has entered is no number: the form begins without it, and asks for it. */
const UNKNOWN = undefined as unknown as number;
const BLANK: FitmentInput = {
  maker: '',
  model: '',
  platformCode: '',
  yearFrom: UNKNOWN,
  yearTo: null,
  engineCode: '',
  displacementCc: UNKNOWN,
  cylinders: UNKNOWN,
  aspiration: 'natural',
  ignition: 'spark',
  fuel: '',
  transmission: '',
  drivenWheels: 'front',
  outputVariant: '',
  market: 'EU',
  ratedPowerKw: UNKNOWN,
  ratedTorqueNm: UNKNOWN,
  ratedStandard: '',
  family: '',
  stockTyres: null,
  unitsPerYear: 0,
};
const inputOf = ({ id: _i, slug: _s, version: _v, ...input }: Fitment): FitmentInput => input;

/** A new fitment, blank or copied from a sibling. */
export function NewFitmentPage() {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const from = search.get('from');
  const { data: sibling } = useFitmentQuery(from ?? '', { skip: !from });
  const [add, { error, isLoading }] = useAddFitmentMutation();
  if (from && !sibling)
    return (
      <main className="p-6">
        <Loading what="the sibling" />
      </main>
    );
  return (
    <main className="max-w-[980px] px-6 py-5">
      <PageHead
        title="New fitment"
        note={
          sibling
            ? `Copied from ${fitmentName(sibling.fitment)}; change what differs, the output variant first.`
            : 'To copy one, open a sibling and choose “Copy”.'
        }
      />
      <RecordForm
        schema={FitmentInput}
        groups={FITMENT_GROUPS}
        draft={`new fitment:${from ?? ''}`}
        values={sibling ? { ...inputOf(sibling.fitment), outputVariant: '' } : BLANK}
        saving={isLoading}
        problem={error}
        onCancel={() => void navigate('/register/fitments')}
        verb="Add the fitment"
        save={async (record) => {
          const answer = await add(record);
          if (!('data' in answer) || !answer.data) return false;
          toast.success('Added.');
          return navigate(`/register/fitments/${answer.data.id}`);
        }}
      />
    </main>
  );
}

/** One fitment with its family: what a test on it would serve, and what bars the others. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function FitmentPage() {
  const { fitmentId = '' } = useParams();
  const may = useMay();
  const units = useUnits();
  const { data, error, refetch } = useFitmentQuery(fitmentId);
  const [change, { error: refused, isLoading }] = useChangeFitmentMutation();
  const [editing, setEditing] = useState(false);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the fitment" />
      </main>
    );
  const { fitment: f } = data;
  return (
    <main className="px-6 py-5">
      <PageHead
        title={`${f.maker} ${f.model}`}
        note={`${f.outputVariant} · ${f.yearFrom} to ${f.yearTo ?? 'today'} · ${f.market}`}
      >
        <Link
          to={`/coverage?q=${encodeURIComponent(`${f.maker} ${f.model}`)}`}
          className={buttonClass('plain')}
        >
          Coverage
        </Link>
        {may.manage && (
          <>
            <Link to={`/register/fitments/new?from=${f.id}`} className={buttonClass('plain')}>
              Copy
            </Link>
            <Button onClick={() => setEditing(!editing)}>{editing ? 'Close the form' : 'Change'}</Button>
          </>
        )}
      </PageHead>
      {editing ? (
        <div className="max-w-[980px]">
          <RecordForm
            schema={FitmentInput}
            groups={FITMENT_GROUPS}
            draft={`fitment:${f.id}`}
            values={inputOf(f)}
            saving={isLoading}
            problem={refused}
            onCancel={() => setEditing(false)}
            save={async (record) => {
              const answer = await change({ id: f.id, version: f.version, record });
              if ('error' in answer) return false;
              setEditing(false);
              toast.success('Changed.');
              return true;
            }}
          />
        </div>
      ) : (
        <div className="grid gap-x-10 gap-y-6 lg:grid-cols-2">
          <Facts
            wide
            rows={[
              [
                'Engine',
                `${f.engineCode}, ${(f.displacementCc / 1000).toFixed(1)} L, ${f.cylinders} cylinders, ${f.aspiration}`,
              ],
              ['Fuel and ignition', `${f.fuel}, ${f.ignition}`],
              ['Transmission', `${f.transmission || 'not entered'}, ${f.drivenWheels} wheels`],
              ['Stock tyres', f.stockTyres ?? 'not entered'],
              [
                'Rated at the crank',
                `${number(units.power.of(f.ratedPowerKw), 0)} ${units.power.unit} and ` +
                  `${number(units.torque.of(f.ratedTorqueNm), 0)} ${units.torque.unit}, ${f.ratedStandard}`,
              ],
              ['Platform', f.platformCode || 'not entered'],
              ['Units sold a year', number(f.unitsPerYear, 0)],
              [
                'Vehicles',
                data.vehicles.length
                  ? data.vehicles.map((v, i) => (
                      <span key={v.id}>
                        {i > 0 && ', '}
                        <Link to={`/register/vehicles/${v.id}`}>{v.tag}</Link>
                      </span>
                    ))
                  : 'none registered',
              ],
            ]}
          />
          <section>
            <h2>Family {f.family}</h2>
            <p className="mb-2 text-[12.5px] text-soft">
              {data.family.length} {data.family.length === 1 ? 'fitment' : 'fitments'}; {data.groups}{' '}
              {data.groups === 1 ? 'test serves' : 'tests serve'} them all. What one test shows is told to a
              sibling as advice, without a number.
            </p>
            <ul className="border-t-[1.5px] border-ink">
              {data.family.map((m) => (
                <li key={m.id} className="grid grid-cols-[112px_1fr] gap-2 border-b border-rule py-1.5">
                  <Mark tone={m.state === 'same' ? 'stands' : m.state === 'serves' ? 'stands' : 'loss'}>
                    {m.state === 'same' ? 'this one' : m.state === 'serves' ? 'served' : 'not served'}
                  </Mark>
                  <span>
                    {m.state === 'same' ? m.name : <Link to={`/register/fitments/${m.id}`}>{m.name}</Link>}
                    <span className="block text-[12.5px] text-soft">
                      {[...m.bars.map((b) => b.text), ...m.differs].join('; ') ||
                        (m.state === 'same' ? '' : 'same engine, intake and output')}
                    </span>
                  </span>
                </li>
              ))}
            </ul>
          </section>
          <section className="lg:col-span-2">
            <h2>Parts listed for it</h2>
            {data.parts.length === 0 ? (
              <p className="text-soft">
                None yet. List them in <Link to="/register/applications">Applications</Link>.
              </p>
            ) : (
              <ul className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
                {data.parts.map((p) => (
                  <li key={p.id}>
                    <Link to={`/register/parts/${p.id}`}>{p.name}</Link>{' '}
                    <span className="text-soft">{p.category}</span>
                  </li>
                ))}
              </ul>
            )}
          </section>
        </div>
      )}
    </main>
  );
}
