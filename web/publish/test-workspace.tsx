import clsx from 'clsx';
import { Link, Navigate, NavLink, Outlet, useLocation, useOutletContext, useParams } from 'react-router';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import type { TestDetail, TestStage } from '../../contract/overview.ts';
import { useTestQuery } from '../base/endpoints.ts';
import { Loading, ProblemNote } from '../base/ui.tsx';

const STAGE_NAMES: Record<TestStage, string> = {
  plan: 'Plan',
  pulls: 'Pulls',
  air: 'Air',
  compare: 'Compare',
  judge: 'Judge',
  claim: 'Claim',
};
/** Which stage to open first: the one that asks for somebody, else the result, else the plan. */
function firstStage(detail: TestDetail): TestStage {
  const { stages } = detail.summary;
  return (
    (
      stages.find((s) => s.stage === 'compare' && s.state === 'done') ??
      stages.find((s) => s.state === 'asks') ??
      stages.find((s) => s.state === 'open')
    )?.stage ?? 'plan'
  );
}
export const useTestDetail = (): TestDetail => useOutletContext<TestDetail>();

/** A test with its chain rail: every step open at any time, each with its state and what it waits for. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function TestWorkspace() {
  const { testId = '' } = useParams();
  const { search } = useLocation();
  const { data, error, refetch } = useTestQuery(testId);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the test" />
      </main>
    );
  const { plan, summary, dyno } = data;
  return (
    <div className="grid min-h-full grid-cols-[minmax(0,1fr)] max-lg:content-start lg:grid-cols-[172px_minmax(0,1fr)]">
      <nav
        aria-label="Steps of the test"
        className="border-rule max-lg:border-b max-lg:px-5 max-lg:py-2 lg:border-r lg:pl-5 lg:pt-5"
      >
        <ol
          className={clsx(
            'relative max-lg:flex max-lg:flex-wrap max-lg:gap-x-2 lg:before:absolute lg:before:bottom-8',
            'lg:before:left-[6px] lg:before:top-2 lg:before:w-[1.5px] lg:before:bg-ink',
          )}
        >
          {summary.stages.map(({ stage, state, note }) => (
            <li key={stage} className="relative pl-[20px] max-lg:pb-1 max-lg:pr-2 lg:pb-[19px] lg:pl-[26px]">
              <span
                aria-hidden
                className={clsx(
                  'absolute left-0 top-[3px] size-[13px] rounded-full border-[1.5px]',
                  state === 'done'
                    ? 'border-ink bg-ink'
                    : state === 'asks'
                      ? 'border-[3px] border-ask bg-paper'
                      : state === 'open'
                        ? 'border-ink bg-paper'
                        : 'border-dashed border-soft bg-paper',
                )}
              />
              <NavLink
                to={`/tests/${testId}/${stage}${search}`}
                className={({ isActive }) =>
                  clsx(
                    'block no-underline',
                    isActive &&
                      'font-semibold after:absolute after:-top-1 after:right-[-1px] ' +
                        "after:h-10 after:w-[3px] after:bg-ink after:content-['']",
                  )
                }
              >
                {STAGE_NAMES[stage]}
                <small
                  className={clsx(
                    'block pr-2 text-[12px] font-normal',
                    state === 'asks' ? 'text-ask' : 'text-soft',
                  )}
                >
                  {note}
                </small>
              </NavLink>
            </li>
          ))}
        </ol>
      </nav>
      <div className="min-w-0">
        <header className="px-[22px] pt-3.5">
          <h1 className="break-words">{summary.title}</h1>
          {data.arms.length > 2 && <ArmsLine arms={data.arms} isLadder={summary.protocol === 'ladder'} />}
          <p className="mt-1 text-soft">
            Test {summary.number} · {summary.vehicle} · {dyno.name}, {dyno.kind} · gear {plan.gear} ·{' '}
            {plan.fuel} · calibration {plan.calibration} · wheel, {STANDARD_NAMES[plan.standard]},{' '}
            {plan.smoothingRpm} rpm smoothing
            {data.amendments.length > 0 && (
              <>
                {' '}
                ·{' '}
                <Link to={`/tests/${testId}/plan`} className="text-ask">
                  plan amended {data.amendments.length === 1 ? 'once' : `${data.amendments.length} times`}
                </Link>
              </>
            )}
          </p>
        </header>
        <Outlet context={data} />
      </div>
    </div>
  );
}

/** All arms by name: of a ladder each stage stands on the one before. */
function ArmsLine({ arms, isLadder }: { arms: TestDetail['arms']; isLadder: boolean }) {
  return (
    <ol aria-label={isLadder ? 'Stages' : 'Arms'} className="mt-1 flex flex-wrap gap-x-2 text-[13px]">
      {arms.map((arm, i) => (
        <li key={arm.key} className="break-words">
          {i > 0 && <span className="text-soft">{isLadder ? '→ ' : '· '}</span>}
          {isLadder && i > 0 && <span className="text-soft">stage {i}: </span>}
          <b>{arm.label}</b>
        </li>
      ))}
    </ol>
  );
}

/** A test opened without a step: goes to the one that matters. */
export function FirstStage() {
  const { testId = '' } = useParams();
  const { data } = useTestQuery(testId);
  return data ? <Navigate to={`/tests/${testId}/${firstStage(data)}`} replace /> : null;
}
