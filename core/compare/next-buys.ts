/** What one more counted pull a run, one more mounting or one more day would make of the interval of the average. */
import { pctFromLp } from '../base/units.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import { DAY_RULE } from '../register/day-variance.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import type { MountSetting } from './mount-setting.ts';
import type { Buys } from './result.ts';
import type { ScalarGain } from './scalar-gain.ts';
import { limitAt, type Terms } from './terms.ts';

/**
 * From the scatter that was seen, as if the next pulls were like these. Half-widths in per cent.
 * @param runs how many runs each arm had: one more pull in each of them
 * @param by what is compared, and the registered variance between days; without one the policy's
 */
export function nextBuys(
  average: ScalarGain,
  runs: { readonly arm: number; readonly against: number },
  pulls: { readonly arm: number; readonly against: number },
  error: Pick<Terms, 'alpha' | 'family'>,
  {
    unit,
    day = DAY_RULE.policy,
  }: { readonly unit: MountSetting['unit']; readonly day?: KnownVariance | undefined },
): Buys {
  const { nu } = average.split;
  const of = (source: string): KnownVariance =>
    average.parts.find((part) => part.source === source) ?? { variance: 0, df: Infinity };
  const [own, mount, drift, heat] = (['repeatability', 'mount', 'drift', 'start temperature'] as const).map(
    of,
  );
  const half = (parts: readonly KnownVariance[]): number => {
    const known = parts.filter(({ variance }) => variance > 0);
    const { u2, nu: df } = welchSatterthwaite(
      known.map((p) => p.variance),
      known.map((p) => p.df),
    );
    return pctFromLp(limitAt(error, df) * Math.sqrt(u2));
  };
  const fewer =
    (1 / (pulls.arm + runs.arm) + 1 / (pulls.against + runs.against)) / (1 / pulls.arm + 1 / pulls.against);
  const longer: KnownVariance = {
    variance: own.variance * fewer,
    df: (own.df * (nu + runs.arm + runs.against)) / nu,
  };
  const twice: KnownVariance = { variance: own.variance / 2, df: 2 * own.df };
  const halved = ({ variance, df }: KnownVariance): KnownVariance => ({ variance: variance / 2, df });
  return {
    now: half([own, mount, drift, heat]),
    pull: unit === 'pulls' ? half([longer, mount, drift, heat]) : null,
    mounting: half([twice, halved(mount), drift, heat]),
    day: half([twice, halved(mount), drift, heat, halved(day)]),
    dayRegistered: day !== DAY_RULE.policy,
  };
}
