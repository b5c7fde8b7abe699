/**
 * What the control vehicle says between the arms of a comparison without return, and what the limits have to carry for
 * it: the days of the arms; and the same with what the control vehicle moved taken off, whichever says less.
 */
import { tUpperQuantile } from '../base/distributions.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import { mountLoad } from '../plan/contrast-weights.ts';
import {
  CHECK_WITHIN_HOURS,
  LEAST_MOUNTINGS,
  type ControlCheck,
  type MountingSpan,
  type OneWayFacts,
} from '../plan/one-way.ts';
import type { KnownVariance, Repeatability } from '../register/repeatability.ts';
import { meanOf } from './means.ts';

/** What keeps a comparison without return from being held. */
export type OneWayGap =
  | 'can be undone'
  | 'baseline not first'
  | 'mountings of the baseline'
  | 'mountings of the part'
  | 'times'
  | 'control changed'
  | 'check before the baseline'
  | 'check after the baseline'
  | 'check before the part'
  | 'check after the part'
  | 'unequal warm-up'
  | 'variance of mountings'
  | 'variance of days';

export interface OneWay {
  readonly control: string;
  readonly forGood: readonly string[];
  readonly gaps: readonly OneWayGap[];
  /** Control vehicle around the part less around the baseline, and what mountings, days and pulls explain; lp. */
  readonly moved: Moved | null;
  /** Checks made around the arms that are not the nearest. */ readonly unused: number;
  /** Days of the arms, for the interval, lp². */
  readonly day: KnownVariance | undefined;
}

export interface Moved {
  readonly difference: number;
  readonly limit: number;
  /** Variance of the difference from its pulls and mountings, lp²: days are the car’s as well. */
  readonly own: KnownVariance;
}

interface Asked {
  readonly arm: string;
  readonly against: string;
  readonly repeatability: Repeatability;
  readonly alpha: number;
}
interface Around {
  readonly before: ControlCheck | undefined;
  readonly after: ControlCheck | undefined;
}

export function oneWayOf(facts: OneWayFacts, { arm, against, repeatability, alpha }: Asked): OneWay {
  const of = (key: string): MountingSpan[] => facts.mountings.filter((m) => m.arm === key);
  const [base, part] = [of(against), of(arm)];
  const timed = [...base, ...part].every(({ from, to }) => from !== '' && to !== '');
  const aroundBase = timed ? around(base, facts.checks, part) : NOBODY;
  const aroundPart = timed ? around(part, facts.checks, base) : NOBODY;
  const checks = [aroundBase.before, aroundBase.after, aroundPart.before, aroundPart.after];
  const used = new Set(checks.filter((c) => c !== undefined));
  const { mount, day } = repeatability;
  const gaps = gapsOf([
    ['can be undone', facts.forGood.length === 0],
    ['mountings of the baseline', base.length < LEAST_MOUNTINGS],
    ['mountings of the part', part.length < LEAST_MOUNTINGS],
    ['times', !timed],
    ['control changed', facts.controlChanged],
    ['baseline not first', timed && lastOf(base) > firstOf(part)],
    ['check before the baseline', timed && !checks[0]],
    ['check after the baseline', timed && !checks[1]],
    ['check before the part', timed && !checks[2]],
    ['check after the part', timed && !checks[3]],
    ['unequal warm-up', new Set([...used].map((c) => c.warmUps)).size > 1],
    ['variance of mountings', mount === undefined],
    ['variance of days', day === undefined],
  ]);
  const moved = checks.every((c) => c !== undefined) ? movedBetween(checks, { mount, day }, alpha) : null;
  return {
    control: facts.control,
    forGood: facts.forGood,
    gaps,
    moved,
    unused: facts.checks.length - used.size,
    day: day && { variance: day.variance * dayLoad(base, part, timed), df: day.df },
  };
}

const NOBODY: Around = { before: undefined, after: undefined };
const gapsOf = (told: readonly (readonly [OneWayGap, boolean])[]): OneWayGap[] =>
  told.flatMap(([gap, is]) => (is ? [gap] : []));
const firstOf = (spans: readonly MountingSpan[]): number => Math.min(...spans.map((s) => Date.parse(s.from)));
const lastOf = (spans: readonly MountingSpan[]): number => Math.max(...spans.map((s) => Date.parse(s.to)));

/** The nearest checks before and after an arm, within the shift, with nothing of the other arm between. */
function around(
  spans: readonly MountingSpan[],
  checks: readonly ControlCheck[],
  others: readonly MountingSpan[],
): Around {
  const [first, last] = [firstOf(spans), lastOf(spans)];
  const within = CHECK_WITHIN_HOURS * 3_600_000;
  const clear = (from: number, to: number): boolean =>
    !others.some((s) => Date.parse(s.from) < to && Date.parse(s.to) > from);
  const at = (check: ControlCheck): number => Date.parse(check.at);
  const byTime = [...checks].sort((a, b) => at(a) - at(b));
  return {
    before: byTime.findLast((c) => at(c) <= first && first - at(c) <= within && clear(at(c), first)),
    after: byTime.find((c) => at(c) >= last && at(c) - last <= within && clear(last, at(c))),
  };
}

/** Checks before and after the baseline, before and after the part; one may serve twice. */
function movedBetween(
  four: readonly ControlCheck[],
  { mount, day }: Pick<Repeatability, 'mount' | 'day'>,
  alpha: number,
): Moved {
  const weights = new Map<ControlCheck, number>();
  four.forEach((check, i) => weights.set(check, (weights.get(check) ?? 0) + (i < 2 ? -0.5 : 0.5)));
  const used = [...weights].map(([check, c]) => ({ ...check, c }));
  const within = used.map(({ values }) => values.reduce((s, v) => s + (v - meanOf(values)) ** 2, 0));
  const df = used.reduce((sum, { values }) => sum + values.length - 1, 0);
  const pull = df > 0 ? within.reduce((a, b) => a + b, 0) / df : 0;
  const squares = used.reduce((sum, { c }) => sum + c * c, 0);
  const days = mountLoad(
    used.map(({ c }) => c),
    used.map((check) => check.day),
  );
  const parts = [
    pull * used.reduce((sum, { c, values }) => sum + (c * c) / values.length, 0),
    (mount?.variance ?? 0) * squares,
  ];
  const freedom = [Math.max(df, 1), mount?.df ?? Infinity];
  const own = welchSatterthwaite(parts, freedom);
  const { u2, nu } = welchSatterthwaite(
    [...parts, (day?.variance ?? 0) * days],
    [...freedom, day?.df ?? Infinity],
  );
  return {
    difference: used.reduce((sum, { c, values }) => sum + c * meanOf(values), 0),
    limit: tUpperQuantile(alpha, nu) * Math.sqrt(u2),
    own: { variance: own.u2, df: own.nu },
  };
}

/** How much of a day's own level enters the contrast: mountings weigh alike, a day that both arms share cancels. */
function dayLoad(base: readonly MountingSpan[], part: readonly MountingSpan[], timed: boolean): number {
  // Days not known: each arm had a day of its own.
  if (!timed) return 2;
  return mountLoad(
    [...base.map(() => -1 / base.length), ...part.map(() => 1 / part.length)],
    [...base, ...part].map(({ day }) => day),
  );
}
