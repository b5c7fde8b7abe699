import { toast } from 'sonner';
import clsx from 'clsx';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { PROTOCOLS, type Protocol } from '../../contract/plan/test.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { useLockPlanMutation } from '../base/endpoints.ts';
import { dayTime, number } from '../base/format.ts';
import { Button, Caution, Mark, ProblemNote } from '../base/ui.tsx';
import { useOutletContext } from 'react-router';

/** What is to be shown, in which order, and the lock that must come before the first pull. */
export function PlanPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const [lock, { error, isLoading }] = useLockPlanMutation();
  const { plan, summary, question } = detail;
  const protocol = PROTOCOLS[plan.protocol as Protocol];
  const onLock = async (): Promise<void> => { if (!('error' in await lock(summary.id))) toast.success('The plan is locked.'); };
  return (
    <main className="grid grid-cols-1 gap-x-10 gap-y-6 px-[22px] py-5 xl:grid-cols-[minmax(0,1fr)_320px]">
      <div className="grid content-start gap-6">
        <section>
          <h2>Question</h2>
          <p className="mt-1 max-w-prose font-display text-[17px]">{question}</p>
        </section>
        <section>
          <h2>Run sheet</h2>
          <p className="mb-3 mt-1 text-soft">{plan.warmUps} uncounted warm-up pulls before every run, then {plan.pullsPerRun} counted. {plan.remount ? 'The vehicle is strapped down anew for every run.' : 'One strapping for the whole session.'}</p>
          <RunSheet pulls={detail.pulls} />
        </section>
        <section>
          <h2>Protocol {plan.protocol}</h2>
          {protocol && <p className="mt-1 max-w-prose text-soft">{protocol.use} {protocol.cannot}</p>}
        </section>
        <Caution>Strapping, rotating parts, tyre failure, noise, hot parts, fuel and exhaust gas: check straps and extraction, wear hearing protection, keep people clear of the rollers.</Caution>
      </div>
      <aside className="content-start">
        <dl className="border-t-[1.5px] border-ink">
          {([
            ['Metric of the claim', METRIC_NAMES[plan.metric]], ['Window', `${number(plan.band.fromRpm, 0)} to ${number(plan.band.toRpm, 0)} rpm, every ${plan.band.stepRpm}`], ['Standard', STANDARD_NAMES[plan.standard]],
            ['Confidence', `${100 * plan.confidence} % for the whole curve`], ['Smoothing', `${plan.smoothingRpm} rpm moving average`], ['Part', `${detail.part.name}, revision ${detail.part.revision} (${detail.part.sku}, ${detail.part.maker})`],
            ['Vehicle', `${detail.vehicle.tag}, ${number(detail.vehicle.odometerKm, 0)} km`], ['Planned by', `${plan.createdBy}, ${dayTime(plan.createdAt)}`], ...(plan.partner ? [['Assigned to', plan.partner] as const] : []),
          ] as const).map(([term, value]) => <div key={term} className="grid grid-cols-[112px_1fr] gap-2 border-b border-rule py-1.5"><dt className="text-soft">{term}</dt><dd>{value}</dd></div>)}
        </dl>
        <div className="mt-5">
          {plan.lockedAt
            ? <><Mark tone="stands">Locked {dayTime(plan.lockedAt)} by {plan.lockedBy}</Mark><p className="mt-1 break-all text-[12px] text-soft">SHA-256 of the plan {plan.hash}</p></>
            : (
              <>
                <Mark tone="ask">Not locked</Mark>
                <p className="my-2 text-soft">Lock it before the first pull: what is captured before stays indicative. After the lock nothing of the plan can change.</p>
                {session?.person?.role === 'test manager' ? <Button kind="main" disabled={isLoading} onClick={() => void onLock()}>Lock the plan</Button> : <p className="text-soft">The test manager locks it.</p>}
              </>
            )}
          <ProblemNote error={error} />
        </div>
      </aside>
    </main>
  );
}

/** Pulls in session order: warm-ups dashed, counted numbered, runs named by their arm. */
export function RunSheet({ pulls }: { pulls: TestDetail['pulls'] }) {
  return (
    <ol className="flex flex-wrap gap-x-5 gap-y-2">
      {[...new Set(pulls.map((p) => p.run))].map((run) => <li key={run}><ol className="flex gap-1.5">{pulls.filter((p) => p.run === run).map((pull, i) => {
        const first = i === 0;
        const state = pull.excluded ? 'excluded' : pull.file ? 'captured' : 'planned';
        return (
          <li key={pull.id} className="grid w-9 justify-items-center">
            <span title={`${pull.label}: ${pull.arm}, ${pull.counted ? state : 'warm-up, not counted'}`} className={clsx('grid h-9 w-9 place-items-center rounded border-[1.5px] font-semibold', !pull.counted ? 'border-dashed border-soft text-soft' : state === 'captured' ? 'border-stands bg-stands text-on-ink' : state === 'excluded' ? 'border-loss text-loss line-through' : 'border-ink')}>{pull.counted ? pull.label.slice(1) : 'w'}</span>
            <span className="h-4 text-[12px] text-soft">{first ? pull.arm : ''}</span>
          </li>
        );
      })}</ol></li>)}
    </ol>
  );
}
