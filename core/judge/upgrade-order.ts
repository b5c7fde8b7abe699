/**
 * In which order the parts of a fitment are worth their money or their hours, from tests that exist: what gives most
 * for it next, after what it needs, and one of a kind. A place is proven where a step stands above the next by more
 * than their limits allow; elsewhere a further test would decide.
 */
import type { Interval } from '../compare/result.ts';
import type { PartCategory } from '../register/parts.ts';

/** One thing that can be done to a car: a part over stock, or a stage over the one before it. */
export interface UpgradeStep {
  readonly key: string;
  readonly label: string;
  /** What it adds, %; two-sided 95 %. */ readonly gain: Interval;
  readonly priceCents: number | null;
  readonly currency: string | null;
  readonly hours: number | null;
  /** Steps that come before it. */ readonly after: readonly string[];
  /** What of the car it changes: two that change the same are instead of each other. */
  readonly parts: readonly PartCategory[];
}
export type UpgradeMeasure = 'money' | 'hours' | 'gain';
export interface OrderedStep {
  readonly key: string;
  /** Per 100 of money, per hour, or the gain itself, %. */
  readonly value: Interval;
  /** Whether it is proven to come before the one behind it; null for the last. */
  readonly proven: boolean | null;
  /** What is left of the two to be told apart: which test of them says least. */
  readonly decidedBy: string | null;
}
export interface UpgradeOrder {
  readonly steps: readonly OrderedStep[];
  /** Not in the order: no price or hours, nothing gained, or instead of one that is. */
  readonly left: readonly {
    readonly key: string;
    readonly why: 'not known' | 'no gain' | 'instead of' | 'needs';
    readonly of: string | null;
  }[];
}

const halfOf = ({ lower, upper }: Interval): number => (upper - lower) / 2;
const scaled = ({ gain, lower, upper }: Interval, k: number): Interval => ({
  gain: gain * k,
  lower: lower * k,
  upper: upper * k,
});

function valueOf({ gain, priceCents, hours }: UpgradeStep, by: UpgradeMeasure): Interval | null {
  if (by === 'gain') return gain;
  if (by === 'money') return priceCents ? scaled(gain, 10_000 / priceCents) : null;
  return hours ? scaled(gain, 1 / hours) : null;
}

export function upgradeOrder(steps: readonly UpgradeStep[], by: UpgradeMeasure): UpgradeOrder {
  const valued = steps.map((step) => ({ step, value: valueOf(step, by) }));
  const placed: { step: UpgradeStep; value: Interval }[] = [];
  const left: UpgradeOrder['left'][number][] = [];
  let waiting = valued.flatMap(({ step, value }) => {
    if (value && step.gain.gain > 0) return [{ step, value }];
    left.push({ key: step.key, why: value ? 'no gain' : 'not known', of: null });
    return [];
  });
  for (;;) {
    const done = new Set(placed.map((p) => p.step.key));
    const free = waiting.filter(({ step }) => step.after.every((key) => done.has(key)));
    if (free.length === 0) break;
    const best = free.reduce((a, b) => (b.value.gain > a.value.gain ? b : a));
    placed.push(best);
    const insteadOf = ({ step }: typeof best): boolean =>
      !step.after.includes(best.step.key) && step.parts.some((part) => best.step.parts.includes(part));
    waiting = waiting.filter((one) => {
      if (one === best) return false;
      if (!insteadOf(one)) return true;
      left.push({ key: one.step.key, why: 'instead of', of: best.step.key });
      return false;
    });
  }
  for (const { step } of waiting)
    left.push({
      key: step.key,
      why: 'needs',
      of: step.after.find((key) => !placed.some((p) => p.step.key === key)) ?? null,
    });
  return { steps: placed.map((one, i) => ordered(one, placed[i + 1])), left };
}

/** A step that has to come first is proven by that; otherwise by the limits of both. */
function ordered(
  { step, value }: { step: UpgradeStep; value: Interval },
  next?: { step: UpgradeStep; value: Interval },
): OrderedStep {
  if (!next) return { key: step.key, value, proven: null, decidedBy: null };
  const half = Math.hypot(halfOf(value), halfOf(next.value));
  const proven = next.step.after.includes(step.key) || Math.abs(value.gain - next.value.gain) > half;
  const wider = halfOf(value) >= halfOf(next.value) ? step.key : next.step.key;
  return { key: step.key, value, proven, decidedBy: proven ? null : wider };
}
