import { Link } from 'react-router';
import { MANAGER } from '../../contract/base/roles.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { lp } from '../../core/base/units.ts';
import type { GateName } from '../../core/judge/finding.ts';
import type { ContrastResult } from '../../core/compare/result.ts';
import { mendingPlans, otherWays, type Mended, type MendingInput } from '../../core/plan/mending.ts';
import { scatterFor } from '../../core/plan/sample-size.ts';
import { useSessionQuery } from '../base/api.ts';
import { number } from '../base/format.ts';

/** What another session with a better order and more pulls puts right by itself. */
const MORE_PULLS_MEND: ReadonlySet<GateName> = new Set([
  'design',
  'repeats',
  'warm-up',
  'plan locked',
  'accounted',
  'as planned',
  'effect',
]);

/** What would decide what this session left open. */
export function Mending(props: MendingProps) {
  return props.detail.plan.protocol === 'one-way' ? (
    <AnotherVehicle detail={props.detail} />
  ) : (
    <AnotherSession {...props} />
  );
}

interface MendingProps {
  readonly detail: TestDetail;
  readonly contrast: ContrastResult;
  /** Gates that fail in this session. */ readonly failing: readonly GateName[];
}

/** A new session: how many pulls, with what chance, for how much. */
function AnotherSession({ detail, contrast, failing }: MendingProps) {
  const besides = [...new Set(failing)].filter((gate) => !MORE_PULLS_MEND.has(gate));
  const { data: session } = useSessionQuery();
  const role = session?.person?.role;
  const input = inputOf(detail, contrast);
  const [plans, others] = [mendingPlans(input), otherWays(input)];
  const mayPlan = role !== undefined && MANAGER.includes(role);
  return (
    <section className="mt-6 border-t border-rule pt-3">
      <h2>What would decide it</h2>
      {plans.length === 0 ? (
        <p className="text-[12.5px] text-soft">
          No session of up to 12 pulls a run: the gain that was read is too small for this scatter. Told as
          advice it is a result.
        </p>
      ) : (
        <>
          <p className="mb-2 text-[12.5px] text-soft">
            A new session, if the gain is what this one read. Both sessions then count together.
          </p>
          {besides.length > 0 && (
            <p className="mb-2 text-[12.5px] text-ask">
              ◐ More pulls alone do not mend: {besides.join(', ')}. A session that repeats it fails again;
              what mends it stands beside the gate.
            </p>
          )}
          <ul>
            {apart(plans).map(({ plan, chances }) => (
              <li key={plan.asked} className="mb-2.5">
                <b>{chances} %</b> chance: <Way plan={plan} detail={detail} mayPlan={mayPlan} />
              </li>
            ))}
          </ul>
          {others.length > 0 && (
            <>
              <h3 className="mt-3 font-semibold">Other ways with {number(100 * others[0].asked, 0)} %</h3>
              <ul>
                {others.map((plan) => (
                  <li key={`${plan.days} ${plan.remount}`} className="mb-2.5">
                    <Way plan={plan} detail={detail} mayPlan={mayPlan} />
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
    </section>
  );
}

/** What is on the car for good is not measured again without it. */
function AnotherVehicle({ detail: { summary } }: { detail: TestDetail }) {
  const { data: session } = useSessionQuery();
  const role = session?.person?.role;
  return (
    <section className="mt-6 border-t border-rule pt-3">
      <h2>What would decide it</h2>
      <p className="mb-2 text-[12.5px] text-soft">
        Another vehicle of the fitment, measured stock before its own install, by the same plan: on this one
        the part stays. Both then count together.
      </p>
      {role && MANAGER.includes(role) && <Link to={`/tests/new?like=${summary.id}`}>Plan it</Link>}
    </section>
  );
}

/** How it is run, with what it costs, and a way to plan it. */
function Way({ plan, detail, mayPlan }: { plan: Mended; detail: TestDetail; mayPlan: boolean }) {
  return (
    <>
      {plan.order}, {plan.pullsPerRun} pulls a run
      {plan.remount ? ', strapped down for each' : ', one mounting'}
      {plan.days > 1 && ', on each of two days: it may then be repeated'}
      <div className="text-[12.5px] text-soft">
        {plan.driven} pulls driven, {number(plan.hours, 1)} h
        {plan.cost !== null && `, about ${number(plan.cost, 0)} ${detail.dyno.currency}`}
      </div>
      {mayPlan && <Link to={`/tests/new?${askedFor(detail, plan)}`}>Plan it</Link>}
    </>
  );
}

/** One line where the same session has both chances. */
function apart(plans: readonly Mended[]): { plan: Mended; chances: string }[] {
  const isAlike = (a: Mended, b: Mended): boolean =>
    a.order === b.order && a.pullsPerRun === b.pullsPerRun && a.days === b.days;
  const firsts = plans.filter((plan, i) => plans.findIndex((p) => isAlike(p, plan)) === i);
  return firsts.map((plan) => ({
    plan,
    chances: plans
      .filter((p) => isAlike(p, plan))
      .map((p) => number(100 * p.asked, 0))
      .join(' and '),
  }));
}
const swapsOf = (order: readonly string[]): number =>
  order.filter((arm, i) => i > 0 && arm !== order[i - 1]).length;

const askedFor = ({ summary }: TestDetail, { order, pullsPerRun, remount, days }: Mended): string =>
  new URLSearchParams({
    like: summary.id,
    pulls: String(pullsPerRun),
    order,
    remount: remount ? 'yes' : 'no',
    ...(days > 1 ? { days: String(days) } : {}),
  }).toString();

/** The gain of the planned metric as it was read, and the scatter of the dyno, as the planner takes it. */
function inputOf({ plan, dyno }: TestDetail, { relative, power }: ContrastResult): MendingInput {
  const [metric] = plan.metrics;
  const read = {
    upTo: relative.upTo.largestMeanGain,
    bandAverage: relative.bandAverage.gain,
    peakToPeak: power.peakToPeak.gainPct,
  }[metric];
  return {
    metric,
    gain: lp(1 + read / 100),
    scatter: scatterFor(metric, dyno.repeatability, plan.driftBound, plan.guard),
    alpha: (1 - plan.confidence) / 2 / plan.metrics.length,
    warmUps: plan.warmUps,
    coolDownMinutes: plan.coolDownMinutes,
    before: plan.hours && { ...plan.hours, swaps: swapsOf(plan.order) },
    remount: plan.remount,
  };
}
