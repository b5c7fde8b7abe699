/** What a gain costs: per hundred of money, and per hour of work. */
import type { Interval } from './result.ts';

/** Of all parts an arm fits beside the baseline; money in hundredths of the currency. */
export interface ArmCost {
  /** Null where a part has no price, or they are in several currencies. */
  readonly priceCents: number | null;
  readonly currency: string | null;
  readonly installHours: number;
  /** Whether a calibration belongs to it, which has no price in the register. */
  readonly calibration: boolean;
}
export interface Value {
  /** In the unit of the gain; null where the price or the hours are not known. */
  readonly perHundred: Interval | null;
  readonly perHour: Interval | null;
}

const times = ({ gain, lower, upper }: Interval, k: number): Interval => ({
  gain: gain * k,
  lower: lower * k,
  upper: upper * k,
});
export const valueOf = (gain: Interval, { priceCents, installHours }: ArmCost): Value => ({
  perHundred: priceCents ? times(gain, 10_000 / priceCents) : null,
  perHour: installHours > 0 ? times(gain, 1 / installHours) : null,
});

/** A part that an arm fits, as the register has it. */
export interface CostedPart {
  readonly priceCents: number | null;
  readonly currency: string;
  readonly installHours: number;
}
/** Several parts together; undefined where an arm fits none. */
export function armCost(parts: readonly CostedPart[], calibration: boolean): ArmCost | undefined {
  if (parts.length === 0) return undefined;
  const currencies = new Set(parts.map((p) => p.currency));
  const isPriced = currencies.size === 1 && parts.every((p) => p.priceCents !== null && p.priceCents > 0);
  return {
    priceCents: isPriced ? parts.reduce((sum, p) => sum + p.priceCents!, 0) : null,
    currency: isPriced ? parts[0].currency : null,
    installHours: parts.reduce((sum, p) => sum + p.installHours, 0),
    calibration,
  };
}
