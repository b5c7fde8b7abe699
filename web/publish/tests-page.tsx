import clsx from 'clsx';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { TestSummary } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { useTestsQuery } from '../base/endpoints.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { number, rpm, useUnits } from '../base/format.ts';
import { buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { Glyph } from '../compare/glyph.tsx';

const FILTERS = {
  all: () => true,
  'asks for a person': (t: TestSummary) => t.stages.some((s) => s.state === 'asks'),
  capturing: (t: TestSummary) => t.pullsCaptured < t.pullsCounted,
  'claim published': (t: TestSummary) => t.claimState === 'published',
} as const;
type Filter = keyof typeof FILTERS;

/** Every test, with its result known by shape and the step that waits for somebody. */
export function TestsPage() {
  const { data: tests, error } = useTestsQuery();
  const { data: session } = useSessionQuery();
  const [filter, setFilter] = useState<Filter>('all');
  const [words, setWords] = useState('');
  const navigate = useNavigate();
  const units = useUnits();
  const shown = tests?.filter(FILTERS[filter]).filter((t) =>
    words
      .toLowerCase()
      .split(/\s+/)
      .every((w) => `${t.number} ${t.title} ${t.fitment} ${t.vehicle} ${t.dyno}`.toLowerCase().includes(w)),
  );
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
        <div role="group" aria-label="Show" className="flex gap-1">
          {(Object.keys(FILTERS) as Filter[]).map((f) => (
            <button
              key={f}
              type="button"
              aria-pressed={f === filter}
              onClick={() => setFilter(f)}
              className={clsx(
                'rounded-full border px-3 py-1',
                f === filter ? 'border-ink bg-ink text-on-ink' : 'border-rule text-soft hover:text-ink',
              )}
            >
              {f}
              {tests && ` ${tests.filter(FILTERS[f]).length}`}
            </button>
          ))}
        </div>
      </div>
      <ProblemNote error={error} />
      {!tests && !error && <Loading what="the tests" />}
      {shown?.length === 0 && (
        <Empty title="No test here">
          {tests?.length
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
              <tr
                key={test.id}
                onClick={() => void navigate(`/tests/${test.id}`)}
                className="cursor-pointer hover:bg-faint"
              >
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
                  {test.upToKw !== null && test.upToKw > 0 ? (
                    <>
                      <b>{signedGain(units.power.of(test.upToKw))}</b> {units.power.unit}
                      <div className="text-[12.5px] text-soft">{rpm(test.upToRpm!)}</div>
                    </>
                  ) : (
                    <span className="text-soft">{test.upToKw === null ? '' : 'none shown'}</span>
                  )}
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
                  {test.verdict && (
                    <Mark
                      tone={
                        test.verdict === 'claim'
                          ? 'stands'
                          : test.verdict === 'loss' || test.verdict === 'send back to design'
                            ? 'loss'
                            : test.verdict === 'no gain shown'
                              ? 'soft'
                              : 'ask'
                      }
                    >
                      {test.verdict}
                    </Mark>
                  )}
                  {test.grade && <div className="text-[12.5px] text-soft">{test.grade}</div>}
                </td>
                <td className="text-soft">
                  {number(test.pullsCaptured, 0)} of {test.pullsCounted}
                </td>
                <td>
                  <NextStep test={test} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </main>
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
