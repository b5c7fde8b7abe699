import clsx from 'clsx';
import { useCallback, useMemo, useState, type ComponentProps } from 'react';
import { Link, useNavigate } from 'react-router';
import {
  TEST_FILTERS,
  TEST_SORTS,
  type TestFilter,
  type TestSort,
  type TestSummary,
} from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { useTestsInfiniteQuery } from '../base/endpoints.ts';
import { MoreRows } from '../base/paging.tsx';
import { DataTable, type Column } from '../base/data-table.tsx';
import { KeptViews } from '../base/kept-views.tsx';
import { useNarrowing, useWords } from '../base/narrowing.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { number, rpm, useUnits, type Units } from '../base/format.ts';
import { Chips } from '../base/chips.tsx';
import { buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { Glyph } from '../compare/glyph.tsx';
import { TestsBulk } from './tests-bulk.tsx';

const FILTER_NAMES: Readonly<Record<TestFilter, string>> = {
  all: 'all',
  asks: 'asks for a person',
  capturing: 'capturing',
  published: 'claim published',
};

const STANDARD = { q: '', show: 'all' as string, sort: 'newest' as string };
const one = <T extends string>(all: readonly T[], value: string): T => all.find((v) => v === value) ?? all[0];

/** Every test, with its result known by shape and the step that waits for somebody. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function TestsPage() {
  const { data: session } = useSessionQuery();
  const navigate = useNavigate();
  const units = useUnits();
  const isManager = session?.person?.role === 'test manager';
  const { now, set, search } = useNarrowing(STANDARD);
  const [words, setWords] = useWords(now.q, (q) => set({ q }));
  const show = one(TEST_FILTERS, now.show);
  const sort = one(TEST_SORTS, now.sort);
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useTestsInfiniteQuery({
    q: now.q,
    show,
    sort,
  });
  const shown = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const picked = shown?.filter((t) => chosen.has(t.id)) ?? [];
  return (
    <main className="px-6 py-5">
      <div className="mb-4 flex flex-wrap items-end gap-x-6 gap-y-3">
        <div>
          <h1>Tests</h1>
          <p className="mt-1 text-soft">
            One part against stock on one vehicle; the ribbon shows the gain over rpm.
          </p>
        </div>
        {isManager && (
          <Link to="/tests/new" className={clsx(buttonClass('main'), 'ml-auto')}>
            Plan a new test
          </Link>
        )}
      </div>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <Input
          type="search"
          aria-label="Filter tests by words"
          placeholder="Part, fitment, vehicle …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="w-64"
        />
        <Chips
          label="Show"
          value={show}
          onChange={(next) => set({ show: next })}
          choices={TEST_FILTERS.map((f) => ({
            value: f,
            text: data ? `${FILTER_NAMES[f]} ${data.pages[0].counts[f] ?? 0}` : FILTER_NAMES[f],
          }))}
        />
        <KeptViews list="tests" search={search} />
      </div>
      {picked.length > 0 && (
        <div className="mb-2 border-l-4 border-stands bg-sheet px-3 py-1.5">
          <TestsBulk tests={picked} isManager={isManager} onDone={() => setChosen(new Set())} />
        </div>
      )}
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the tests" />}
      {shown?.length === 0 && (
        <Empty title="No test here">
          {now.q || show !== 'all'
            ? 'No test fits the words or the filter.'
            : 'Plan the first one, or wait until one is assigned to you.'}
        </Empty>
      )}
      {shown && shown.length > 0 && (
        <DataTable
          label="Tests"
          rows={shown}
          keyOf={(t) => t.id}
          columns={columnsFor(units)}
          sort={sort}
          upwards={['oldest', 'fitment']}
          onSort={(next) => set({ sort: next })}
          onOpen={(t) => void navigate(`/tests/${t.id}`)}
          selection={{ chosen, onChange: setChosen, nameOf: (t) => `Choose test ${t.number}` }}
        />
      )}
      {data && shown && shown.length > 0 && (
        <MoreRows
          what={['test', 'tests']}
          shown={shown.length}
          total={data.pages[0].total}
          more={hasNextPage}
          reading={isFetching}
          onMore={readMore}
        />
      )}
    </main>
  );
}

const columnsFor = (units: Units): Column<TestSummary, TestSort>[] => [
  {
    id: 'number',
    head: 'No.',
    isNumber: true,
    sorts: ['newest', 'oldest'],
    cell: (t) => <span className="text-soft">{t.number}</span>,
  },
  {
    id: 'test',
    head: 'Test',
    sorts: ['fitment'],
    className: 'max-w-[330px] pl-4!',
    cell: (t) => <Title test={t} />,
  },
  { id: 'glyph', head: 'Gain over rpm', cell: (t) => <Glyph glyph={t.glyph} /> },
  {
    id: 'upTo',
    head: 'Up to, wheel',
    isNumber: true,
    sorts: ['gain'],
    cell: (t) => <UpTo test={t} units={units} />,
  },
  { id: 'average', head: 'Average', isNumber: true, cell: (t) => <Average test={t} /> },
  {
    id: 'verdict',
    head: 'Verdict',
    className: 'pl-4!',
    cell: (t) => (
      <>
        {t.verdict && <Mark tone={toneOf(t.verdict)}>{t.verdict}</Mark>}
        {t.grade && <div className="text-[12.5px] text-soft">{t.grade}</div>}
      </>
    ),
  },
  {
    id: 'pulls',
    head: 'Pulls',
    cell: (t) => (
      <span className="text-soft">
        {number(t.pullsCaptured, 0)} of {t.pullsCounted}
      </span>
    ),
  },
  { id: 'next', head: 'Next step', sorts: ['changed'], cell: (t) => <NextStep test={t} /> },
];

function toneOf(verdict: string): ComponentProps<typeof Mark>['tone'] {
  if (verdict === 'claim') return 'stands';
  if (verdict === 'loss' || verdict === 'send back to design') return 'loss';
  return verdict === 'no gain shown' ? 'soft' : 'ask';
}

function Title({ test }: { test: TestSummary }) {
  return (
    <>
      <Link
        to={`/tests/${test.id}`}
        onClick={(e) => e.stopPropagation()}
        className="font-semibold no-underline hover:underline"
      >
        {test.title}
      </Link>
      <div className="text-[12.5px] text-soft">
        {test.vehicle} · {test.dyno} · {test.protocol}
        {test.amendments > 0 && (
          <span className="text-ask">
            {' '}
            · plan amended{test.amendments > 1 ? ` ${test.amendments} times` : ''}
          </span>
        )}
      </div>
    </>
  );
}

function Average({ test }: { test: TestSummary }) {
  if (!test.bandAveragePct) return null;
  return (
    <>
      <b>{signedGain(test.bandAveragePct.gain)}</b> %
      <div className="text-[12.5px] text-soft">
        {signedGain(test.bandAveragePct.lower)} to {signedUpper(test.bandAveragePct.upper)}
      </div>
    </>
  );
}

function UpTo({ test, units }: { test: TestSummary; units: Units }) {
  if (test.upToKw === null) return null;
  if (test.upToKw <= 0) return <span className="text-soft">none shown</span>;
  return (
    <>
      <b>{signedGain(units.power.of(test.upToKw))}</b> {units.power.unit}
      <div className="text-[12.5px] text-soft">{rpm(test.upToRpm!)}</div>
    </>
  );
}

function NextStep({ test }: { test: TestSummary }) {
  const stage = test.stages.find((s) => s.state === 'asks') ?? test.stages.find((s) => s.state === 'open');
  if (!stage)
    return (
      <Mark tone={test.claimState === 'published' ? 'stands' : 'soft'}>
        {test.claimState === 'published' ? 'claim published' : 'nothing to do'}
      </Mark>
    );
  return (
    <Mark tone={stage.state === 'asks' ? 'ask' : 'soft'}>
      {stage.stage}: {stage.note}
    </Mark>
  );
}
