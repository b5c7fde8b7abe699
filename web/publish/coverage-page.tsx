import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { EvidenceState } from '../../core/register/worth-testing.ts';
import { PART_CATEGORIES, type PartCategory } from '../../core/register/parts.ts';
import type { CoverageRow } from '../../contract/publish/coverage.ts';
import { useSessionQuery } from '../base/api.ts';
import { day, number } from '../base/format.ts';
import { DateInput } from '../base/date-input.tsx';
import { LongList } from '../base/long-list.tsx';
import { Matrix } from '../base/matrix.tsx';
import { Chips } from '../base/chips.tsx';
import { Select } from '../base/select.tsx';
import { buttonClass, Empty, Input, Loading, ProblemNote } from '../base/ui.tsx';
import { useSettled } from '../base/use-settled.ts';
import { Cell, RowName, STATES, StateChoice } from './coverage-cell.tsx';
import { useRegisterQuery } from '../register/api.ts';
import { PageHead } from '../register/layout.tsx';
import { useCoverageInfiniteQuery, useWorthInfiniteQuery, type CoverageFind } from './coverage-api.ts';

/** A state by mark and word; colour only repeats it. */
const VIEWS = { fitments: 'Fitments', families: 'Families', next: 'Worth testing next' } as const;
type View = keyof typeof VIEWS;

/**
 * How far the evidence has come for every part on every fitment, and what to test next. The filters stand in
 * the address, so a view can be sent to somebody.
 */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function CoveragePage() {
  const [search, setSearch] = useSearchParams();
  const get = (key: string): string => search.get(key) ?? '';
  const set = (key: string, value: string): void =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const view = (get('view') || 'fitments') as View;
  const { data: register } = useRegisterQuery();
  const find: CoverageFind = {
    q: useSettled(get('q')),
    part: useSettled(get('part')),
    family: get('family') || undefined,
    category: (get('category') || undefined) as PartCategory | undefined,
    launchFrom: get('from') || undefined,
    launchTo: get('to') || undefined,
    ...(view === 'next' ? {} : { state: (get('state') || undefined) as EvidenceState | undefined }),
  };
  return (
    <main className="px-6 py-5">
      <PageHead title="Coverage" note="Fitments down, parts across: how far the evidence has come.">
        <Chips
          label="View"
          value={view}
          onChange={(v) => set('view', v === 'fitments' ? '' : v)}
          choices={(Object.keys(VIEWS) as View[]).map((v) => ({ value: v, text: VIEWS[v] }))}
        />
      </PageHead>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <Input
          type="search"
          aria-label="Fitments"
          placeholder="Fitments: sprat 85, tern 2019 …"
          value={get('q')}
          onChange={(e) => set('q', e.target.value)}
          className="w-52"
        />
        <Select aria-label="Family" value={get('family')} onChange={(e) => set('family', e.target.value)}>
          <option value="">all families</option>
          {register?.families.map((f) => (
            <option key={f}>{f}</option>
          ))}
        </Select>
        <Input
          type="search"
          aria-label="Parts"
          placeholder="Parts"
          value={get('part')}
          onChange={(e) => set('part', e.target.value)}
          className="w-36"
        />
        <Select
          aria-label="Category"
          value={get('category')}
          onChange={(e) => set('category', e.target.value)}
        >
          <option value="">all categories</option>
          {PART_CATEGORIES.map((c) => (
            <option key={c}>{c}</option>
          ))}
        </Select>
        <label className="flex items-center gap-1 text-soft">
          launch{' '}
          <DateInput
            aria-label="Launch from"
            value={get('from')}
            onChange={(iso) => set('from', iso)}
            className="w-38"
          />{' '}
          to{' '}
          <DateInput
            aria-label="Launch to"
            value={get('to')}
            onChange={(iso) => set('to', iso)}
            className="w-38"
          />
        </label>
      </div>
      {view === 'next' ? (
        <WorthList find={find} />
      ) : (
        <Grid
          find={find}
          families={view === 'families'}
          state={get('state') as EvidenceState | ''}
          onState={(s) => set('state', s)}
        />
      )}
    </main>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Grid({
  find,
  families,
  state,
  onState,
}: {
  find: CoverageFind;
  families: boolean;
  state: EvidenceState | '';
  onState: (state: string) => void;
}) {
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useCoverageInfiniteQuery({
    ...find,
    group: families ? 'families' : 'fitments',
  });
  const { data: session } = useSessionQuery();
  const mayPlan = session?.person?.role === 'test manager';
  const rows = useMemo(() => data?.pages.flatMap((p) => p.rows) ?? [], [data]);
  const cells = useMemo(
    () => new Map(rows.map((row) => [row.id, new Map(row.cells.map((cell) => [cell.partId, cell]))])),
    [rows],
  );
  const parts = useMemo(() => data?.pages[0]?.parts ?? [], [data]);
  const counts = data?.pages[0]?.counts ?? {};
  const names = useMemo(() => new Map(parts.map((p) => [p.id, p.name])), [parts]);
  const firstOf = useMemo(() => {
    const seen = new Set<string>();
    return new Set(
      rows
        .filter((row) => !seen.has(`${row.family} ${row.group}`) && seen.add(`${row.family} ${row.group}`))
        .map((row) => row.id),
    );
  }, [rows]);
  return (
    <>
      <StateChoice state={state} counts={counts} onState={onState} />
      {families && (
        <p className="mb-1 text-[12.5px] text-soft">
          Rows of one letter behind the family are served by one test (same engine, intake and output).
          Another letter is another output variant: a finding does not carry over.
        </p>
      )}
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the coverage" />}
      {data && rows.length === 0 && (
        <Empty title="Nothing here">
          No application fits these filters. Parts are listed for fitments in the{' '}
          <Link to="/register/applications">register</Link>.
        </Empty>
      )}
      {rows.length > 0 && (
        <Matrix<CoverageRow>
          label="Coverage"
          rows={rows}
          total={data!.pages[0].total}
          more={hasNextPage && !isFetching}
          loadMore={() => void fetchNextPage()}
          rowKey={(r) => r.id}
          columnWidth={74}
          rowHeight={38}
          columns={parts.map((p) => ({
            id: p.id,
            title: `${p.name}, ${p.sku}, ${p.category}${p.launchDate ? `, on sale from ${day(p.launchDate)}` : ''}`,
            head: (
              <Link to={`/register/parts/${p.id}`} className="no-underline hover:underline">
                {p.name}
              </Link>
            ),
          }))}
          rowName={(r) => <RowName row={r} families={families} first={firstOf.has(r.id)} />}
          cell={(r, partId) => {
            const cell = cells.get(r.id)?.get(partId);
            return (
              cell && (
                <Cell
                  cell={cell}
                  row={r}
                  part={names.get(partId) ?? 'part'}
                  dim={state !== '' && cell.state !== state}
                  mayPlan={mayPlan}
                />
              )
            );
          }}
        />
      )}
    </>
  );
}

/** Units sold or launch × how little is known ÷ dyno hours: a ranking to look at, not a measurement. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function WorthList({ find }: { find: CoverageFind }) {
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useWorthInfiniteQuery(find);
  const { data: session } = useSessionQuery();
  const rows = useMemo(() => data?.pages.flatMap((p) => p.items) ?? [], [data]);
  const most = rows[0]?.score ?? 1;
  return (
    <>
      <p className="mb-3 max-w-prose text-[12.5px] text-soft">
        Demand (units sold a year, up to threefold as a launch comes near) × how little is known ÷ dyno hours
        of an A-B-A test. Half as much where a sibling that one test serves has been measured. Only parts that
        promise power.
      </p>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the ranking" />}
      {data && rows.length === 0 && <Empty title="Nothing here">No application fits these filters.</Empty>}
      {rows.length > 0 && (
        <LongList
          label="Worth testing next"
          rows={rows}
          total={hasNextPage ? rows.length + 1 : rows.length}
          more={hasNextPage && !isFetching}
          loadMore={() => void fetchNextPage()}
          keyOf={(r) => `${r.partId} ${r.fitmentId}`}
          rowHeight={50}
          columns="150px minmax(180px,1.4fr) minmax(180px,1.6fr) 110px 90px 84px 130px"
          head={['Worth', 'Part', 'Fitment', 'Known', 'Sold a year', 'Dyno hours', '']}
          row={(r) => [
            <div key="w" aria-label={`score ${number(r.score, 0)}`} className="flex items-center gap-2">
              <span className="h-2 bg-stands" style={{ width: Math.max(2, (90 * r.score) / most) }} />
              <span className="text-[12px] text-soft">{number(r.score, 0)}</span>
            </div>,
            <span key="p" className="block">
              <Link to={`/register/parts/${r.partId}`} className="font-semibold no-underline hover:underline">
                {r.part}
              </Link>
              <span className="block text-[12px] text-soft">
                {r.sku}
                {r.launchDate ? ` · on sale from ${day(r.launchDate)}` : ''}
              </span>
            </span>,
            <span key="f" className="block">
              <Link to={`/register/fitments/${r.fitmentId}`} className="no-underline hover:underline">
                {r.fitment}
              </Link>
              <span className="block text-[12px] text-soft">
                {r.alsoServes.length
                  ? `one test also serves ${r.alsoServes.join('; ')}`
                  : r.familyServed
                    ? 'a sibling has been measured'
                    : ''}
              </span>
            </span>,
            <span key="s" className={STATES[r.state].tone}>
              <span aria-hidden className="mr-1">
                {STATES[r.state].mark}
              </span>
              {r.state}
            </span>,
            number(r.unitsPerYear, 0),
            number(r.dynoHours, 1),
            r.testId ? (
              <Link key="o" to={`/tests/${r.testId}`} className={buttonClass('plain', true)}>
                Open the test
              </Link>
            ) : session?.person?.role === 'test manager' ? (
              <Link
                key="o"
                to={`/tests/new?fitment=${r.fitmentId}&part=${r.partId}`}
                className={buttonClass('plain', true)}
              >
                Plan a test
              </Link>
            ) : (
              ''
            ),
          ]}
        />
      )}
    </>
  );
}
