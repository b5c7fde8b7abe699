/** Checks of a dyno with its control vehicle over time: whether it still measures as it did. */

/** The reference: centre and spread of the first checks, lp. */
export interface ChartReference {
  readonly center: number;
  readonly sd: number;
  /** Mean difference of neighbouring checks, and the spread it stands for. */
  readonly movingRange: number;
  readonly sigma: number;
  readonly lower: number;
  readonly upper: number;
  /** Checks it rests on. */ readonly checks: number;
}
export interface ChartPoint {
  readonly value: number;
  readonly ewma: number;
  readonly lower: number;
  readonly upper: number;
  /** Moving mean outside its limits; the single check outside those of single checks. */
  readonly alarm: boolean;
  readonly single: boolean;
}

/** Weight of the newest check, width of the limits; both of the method. */
const EWMA = { weight: 0.2, width: 2.962 } as const;
/** Mean range of two over their standard deviation, and three of those over it (Shewhart’s constants, from memory). */
const RANGE = { ofTwo: 1.128, limit: 2.66 } as const;

/** @returns undefined with fewer than two checks */
export function chartReference(checks: readonly number[]): ChartReference | undefined {
  const m = checks.length;
  if (m < 2) return undefined;
  const center = checks.reduce((a, b) => a + b, 0) / m;
  const sd = Math.sqrt(checks.reduce((s, v) => s + (v - center) ** 2, 0) / (m - 1));
  const movingRange = checks.slice(1).reduce((s, v, i) => s + Math.abs(v - checks[i]), 0) / (m - 1);
  return {
    center,
    sd,
    movingRange,
    sigma: movingRange / RANGE.ofTwo,
    lower: center - RANGE.limit * movingRange,
    upper: center + RANGE.limit * movingRange,
    checks: m,
  };
}

/**
 * Later checks against the reference: exponentially weighted mean, whose limits carry that the centre is itself only
 * estimated, and each check alone.
 */
export function controlChart(reference: ChartReference, checks: readonly number[]): ChartPoint[] {
  const { center, sd, checks: m } = reference;
  let ewma = center;
  return checks.map((value, i) => {
    ewma = EWMA.weight * value + (1 - EWMA.weight) * ewma;
    const left = (1 - EWMA.weight) ** (i + 1);
    const variance = (EWMA.weight / (2 - EWMA.weight)) * (1 - left ** 2) + (1 - left) ** 2 / m;
    const half = EWMA.width * sd * Math.sqrt(variance);
    const [lower, upper] = [center - half, center + half];
    return {
      value,
      ewma,
      lower,
      upper,
      alarm: ewma < lower || ewma > upper,
      single: value < reference.lower || value > reference.upper,
    };
  });
}
