import clsx from 'clsx';
import { useCallback, useMemo, useState, type ComponentProps } from 'react';
import { Link, useNavigate } from 'react-router';
import { TEST_FILTERS, type TestFilter, type TestSummary } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { useTestsInfiniteQuery } from '../base/endpoints.ts';
import { MoreRows } from '../base/paging.tsx';
import { useSettled } from '../base/use-settled.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { number, rpm, useUnits } from '../base/format.ts';
import { Chips } from '../base/chips.tsx';
import { buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { Glyph } from '../compare/glyph.tsx';

const FILTER_NAMES: Readonly<Record<TestFilter, string>> = {
  all: 'all',
  asks: 'asks for a person',
  capturing: 'capturing',
  published: 'claim published',
};

/** Every test, with its result known by shape and the step that waits for somebody. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function TestsPage() {
  const { data: session } = useSessionQuery();
  const [show, setShow] = useState<TestFilter>('all');
  const [words, setWords] = useState('');
  const { data, error, fetchNextPage, hasNextPage, isFetching, refetch } = useTestsInfiniteQuery({
    q: useSettled(words),
    show,
  });
  const shown = useMemo(() => data?.pages.flatMap((page) => page.items), [data]);
  const readMore = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  return (
    <main className="px-6 py-5">
      <div className="mb-4 flex flex-wrap items-end gap-x-6 gap-y-3">
        <div>
          <h1>Tests</h1>
          <p className="mt-1 text-soft">
            One part against stock on one vehicle; the ribbon shows the gain over rpm.
          </p>
        </div>
        {session?.person?.role === 'test manager' && (
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
          onChange={setShow}
          choices={TEST_FILTERS.map((f) => ({
            value: f,
            text: data ? `${FILTER_NAMES[f]} ${data.pages[0].counts[f] ?? 0}` : FILTER_NAMES[f],
          }))}
        />
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the tests" />}
      {shown?.length === 0 && (
        <Empty title="No test here">
          {words || show !== 'all'
            ? 'No test fits the words or the filter.'
            : 'Plan the first one, or wait until one is assigned to you.'}
        </Empty>
      )}
      {shown && shown.length > 0 && (
        <table className="ledger">
          <thead>
            <tr>
              <th className="num pr-4">No.</th>
              <th>Test</th>
              <th>Gain over rpm</th>
              <th className="num">Up to, wheel</th>
              <th className="num">Band average</th>
              <th className="pl-4!">Verdict</th>
              <th>Pulls</th>
              <th>Next step</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((test) => (
              <TestRow key={test.id} test={test} />
            ))}
          </tbody>
        </table>
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

function toneOf(verdict: string): ComponentProps<typeof Mark>['tone'] {
  if (verdict === 'claim') return 'stands';
  if (verdict === 'loss' || verdict === 'send back to design') return 'loss';
  return verdict === 'no gain shown' ? 'soft' : 'ask';
}

function TestRow({ test }: { test: TestSummary }) {
  const navigate = useNavigate();
  return (
    <tr onClick={() => void navigate(`/tests/${test.id}`)} className="cursor-pointer hover:bg-faint">
      <td className="num pr-4 text-soft">{test.number}</td>
      <td className="max-w-[330px]">
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
      </td>
      <td>
        <Glyph glyph={test.glyph} />
      </td>
      <td className="num">
        <UpTo test={test} />
      </td>
      <td className="num">
        {test.bandAveragePct && (
          <>
            <b>{signedGain(test.bandAveragePct.gain)}</b> %
            <div className="text-[12.5px] text-soft">
              {signedGain(test.bandAveragePct.lower)} to {signedUpper(test.bandAveragePct.upper)}
            </div>
          </>
        )}
      </td>
      <td className="pl-4!">
        {test.verdict && <Mark tone={toneOf(test.verdict)}>{test.verdict}</Mark>}
        {test.grade && <div className="text-[12.5px] text-soft">{test.grade}</div>}
      </td>
      <td className="text-soft">
        {number(test.pullsCaptured, 0)} of {test.pullsCounted}
      </td>
      <td>
        <NextStep test={test} />
      </td>
    </tr>
  );
}

function UpTo({ test }: { test: TestSummary }) {
  const units = useUnits();
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
