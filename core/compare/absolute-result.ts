import { pctFromLp } from '../base/units.ts';
import type { Rows } from './common-grid.ts';
import type { GainBand } from './gain-band.ts';
import { columnMeans, meanOf } from './means.ts';
import { scalarIn, upToOf, worstOf } from './relative-result.ts';
import type { AbsoluteResult, PeakToPeak } from './result.ts';
import type { ScalarGain } from './scalar-gain.ts';

/** What the contrast is in kW or N·m: the relative gain on the baseline's geometric mean. */
export interface AbsoluteInput {
  readonly unit: AbsoluteResult['unit'];
  /** Shown unit per SI unit. */
  readonly perSi: number;
  /** Curves of every pull in lp of the SI unit, smoothed and before smoothing. */
  readonly smoothed: Rows;
  readonly raw: Rows;
  /** 0 baseline, 1 the other arm; one entry per pull. */
  readonly arm: readonly (0 | 1)[];
  readonly band: GainBand;
  readonly average: ScalarGain;
  /** Interval of one number per pull. */
  readonly scalar: (values: readonly number[]) => ScalarGain;
}

const inUnit = (level: number, d: number): number => level * (Math.exp(d / 100) - 1);
export const peaksOf = (rows: Rows): number[] => rows.map((row) => Math.max(...row));

export function absoluteResult(input: AbsoluteInput): AbsoluteResult {
  const { unit, perSi, smoothed, raw, arm, band, average } = input;
  const stock = (_: unknown, i: number): boolean => arm[i] === 0;
  const baseline = columnMeans(smoothed.filter(stock)).map((v) => perSi * Math.exp(v / 100));
  const curve = Array.from(band.rpm, (rpm, j) => ({
    rpm,
    arm: baseline[j] * Math.exp(band.d[j] / 100),
    against: baseline[j],
    gain: inUnit(baseline[j], band.d[j]),
    lower: inUnit(baseline[j], band.lower[j]),
    upper: inUnit(baseline[j], band.upper[j]),
  }));
  const level = perSi * Math.exp(meanOf(raw.filter(stock).map((row) => meanOf([...row]))) / 100);
  return {
    unit,
    curve,
    bandAverage: scalarIn(average, (d) => inUnit(level, d)),
    upTo: upToOf(curve),
    worst: worstOf(curve.map(({ rpm, gain, lower, upper }) => ({ rpm, gain, lower, upper }))),
    peakToPeak: peakToPeak(input),
  };
}

/** Each arm's own peak, pull by pull; both engine speeds stated. */
function peakToPeak({ perSi, smoothed, arm, band, scalar }: AbsoluteInput): PeakToPeak {
  const peaks = peaksOf(smoothed);
  const peak = scalar(peaks);
  const level = perSi * Math.exp(meanOf(peaks.filter((_, i) => arm[i] === 0)) / 100);
  const at = (which: 0 | 1): number => {
    const mean = columnMeans(smoothed.filter((_, i) => arm[i] === which));
    return mean.indexOf(Math.max(...mean));
  };
  const [againstAt, armAt] = [at(0), at(1)];
  const edge = (index: number): boolean => index === 0 || index === band.rpm.length - 1;
  return {
    ...scalarIn(peak, (d) => inUnit(level, d)),
    gainPct: pctFromLp(peak.d),
    lowerPct: pctFromLp(peak.lower),
    upperPct: pctFromLp(peak.upper),
    armRpm: band.rpm[armAt],
    againstRpm: band.rpm[againstAt],
    atEdge: edge(armAt) || edge(againstAt),
  };
}
