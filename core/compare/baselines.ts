/**
 * The baseline of one test against those of others on the same car or the same fitment: a difference as large as the
 * gain tells of the car, the dyno and the day, and says what a comparison over days would have been worth.
 */
import { meanOf } from './means.ts';

export interface BaselineCurve {
  readonly rpm: readonly number[];
  readonly kw: readonly number[];
}
export interface BaselineDifference {
  readonly fromRpm: number;
  readonly toRpm: number;
  /** This one over the other, mean of the ratio over the rpm both have, per cent. */
  readonly pct: number;
}
/** Fewest rpm in common over which two baselines are held against each other. */
const LEAST_SPAN_RPM = 1000;

/** Undefined where too little is in common. Between the other’s points it is read off along straight lines. */
export function baselineDifference(own: BaselineCurve, other: BaselineCurve): BaselineDifference | undefined {
  const rpm = own.rpm.filter((r) => r >= other.rpm[0] && r <= other.rpm[other.rpm.length - 1]);
  if (rpm.length < 2 || rpm[rpm.length - 1] - rpm[0] < LEAST_SPAN_RPM) return undefined;
  const logs = rpm.map((r) => Math.log(own.kw[own.rpm.indexOf(r)] / at(other, r)));
  return { fromRpm: rpm[0], toRpm: rpm[rpm.length - 1], pct: 100 * Math.expm1(meanOf(logs)) };
}

function at({ rpm, kw }: BaselineCurve, r: number): number {
  const above = rpm.findIndex((v) => v >= r);
  if (rpm[above] === r) return kw[above];
  const share = (r - rpm[above - 1]) / (rpm[above] - rpm[above - 1]);
  return kw[above - 1] + share * (kw[above] - kw[above - 1]);
}
