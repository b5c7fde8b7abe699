/** How much each engine speed counts when a vehicle is used in some way: towing, street, hill road, track. */

/** A weight at an engine speed, which is told in per cent of that of the baseline's largest power. */
export interface UsePoint {
  readonly at: number;
  readonly weight: number;
}
export const MOST_POINTS = 20;
/** Speeds a profile can speak of, per cent. */
export const USE_RANGE = { from: 5, to: 150 } as const;

/** Between its points a weight runs straight; outside them it is nothing. */
export function useWeight(points: readonly UsePoint[], at: number): number {
  if (points.length === 0 || at < points[0].at || at > points[points.length - 1].at) return 0;
  const next = points.findIndex((p) => p.at >= at);
  const [b, a] = [points[next], points[Math.max(0, next - 1)]];
  return b.at === a.at ? b.weight : a.weight + ((at - a.at) / (b.at - a.at)) * (b.weight - a.weight);
}

/** What a profile gives the whole of, in weight times per cent of speed. */
export function wholeWeight(points: readonly UsePoint[]): number {
  return points
    .slice(1)
    .reduce((sum, b, i) => sum + ((points[i].weight + b.weight) / 2) * (b.at - points[i].at), 0);
}

export interface WeightedGrid {
  /** Weight of each grid point; they add up to one. */
  readonly weights: readonly number[];
  /** Share of the profile's whole weight that lies within the grid, 0 to 1. */
  readonly covered: number;
}

/**
 * A profile on the engine speeds that were compared.
 * @param rpm evenly spaced
 * @param peakRpm where the baseline makes its largest power
 * @returns null where no weight lies within them
 */
export function weightsOn(
  points: readonly UsePoint[],
  rpm: readonly number[],
  peakRpm: number,
): WeightedGrid | null {
  const own = rpm.map((r) => useWeight(points, (100 * r) / peakRpm));
  const sum = own.reduce((a, b) => a + b, 0);
  if (!(sum > 0)) return null;
  // Trapezoids, as the whole is counted: half a step at either end.
  const step = (100 * (rpm[1] - rpm[0])) / peakRpm;
  const within = step * (sum - (own[0] + own[own.length - 1]) / 2);
  return { weights: own.map((w) => w / sum), covered: Math.min(1, within / wholeWeight(points)) };
}
