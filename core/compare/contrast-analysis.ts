/**
 * One arm against the baseline: from corrected curves on a grid to the gain with its band, the
 * metrics that may be claimed, the uncertainty budget and what the common shortcuts would have said.
 */
import { tUpperQuantile } from '../base/distributions.ts';
import { pctFromLp, powerW } from '../base/units.ts';
import type { KnownVariance, Repeatability } from '../register/repeatability.ts';
import { designOf, type Design, type Run } from '../plan/design.ts';
import { commonGrid, type CommonGrid } from './common-grid.ts';
import { contrastWeights, mountLoad, type Layout } from '../plan/contrast-weights.ts';
import { runResiduals, sumOfSquares } from './contrast.ts';
import { hasScatter, LEAST_FREEDOM } from './edge-codes.ts';
import { gainBand, type GainBand } from './gain-band.ts';
import { guardedMountVariance } from './mount-guard.ts';
import { noisyEnd, type NoisyEnd } from './noisy-end.ts';
import { scalarGain, type Candidate, type ScalarGain } from './scalar-gain.ts';
import { smoothedRows } from './smoothing.ts';
import { stretches } from './stretches.ts';
import type { Guard } from '../base/guard.ts';
import type { Terms } from './terms.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';

export interface ComparedPull {
  readonly id: string;
  readonly arm: string;
  readonly order: number;
  readonly mount: number | string;
  readonly counted: boolean;
  readonly torqueNm: Float64Array;
}

export interface ContrastInput {
  readonly arm: string;
  readonly against: string;
  /** Runs of the two arms, counted pulls only, in order. */
  readonly runs: readonly Run<ComparedPull>[];
  readonly grid: readonly number[];
  readonly stepRpm: number;
  readonly smoothingRpm: number;
  readonly alpha: number;
  readonly drift: 'none' | 'linear';
  readonly driftBound: number;
  /** Several parts between one opening and one closing baseline: a part off the centre keeps some drift, which the bound covers. */
  readonly bracketed?: boolean;
  /** How wary the intervals of single numbers are of arms that scatter differently. */
  readonly guard: Guard;
  /** Only the mount variance of it enters an interval. */
  readonly repeatability: Repeatability;
}

export type ContrastCode =
  | 'ERROR_NO_DATA'
  | 'NOT_ENOUGH_PULLS'
  | 'DUPLICATE_PULLS'
  | 'TOO_SHORT'
  | 'NO_CLAIM_MOUNT_UNKNOWN'
  | 'DRIFT_CONFOUNDED';

export interface RefusedContrast {
  readonly arm: string;
  readonly against: string;
  readonly pulls: { arm: number; against: number };
  readonly design: string;
  readonly code: ContrastCode;
  readonly message: string;
}

export interface Interval {
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
}
/** Limits of one number per pull, with which of the three intervals was the widest. */
export interface ScalarInterval extends Interval {
  /** Effective degrees of freedom of the interval used. */
  readonly df: number;
  /** Absent in results of older versions. */
  readonly interval?: Candidate['name'];
}
export interface CurvePoint extends Interval {
  readonly rpm: number;
}
export interface UpTo {
  readonly gain: number;
  readonly rpm: number;
  readonly largestMeanGain: number;
  readonly largestMeanGainRpm: number;
}
export interface Stretch {
  readonly fromRpm: number;
  readonly toRpm: number;
}
export interface PeakToPeak extends ScalarInterval {
  readonly gainPct: number;
  readonly lowerPct: number;
  readonly upperPct: number;
  readonly armRpm: number;
  readonly againstRpm: number;
  /** Whether either largest value lies at the end of the window: then it is no peak, and cannot be claimed as one. */
  readonly atEdge: boolean;
}

export interface RelativeResult {
  readonly unit: '%';
  readonly curve: readonly CurvePoint[];
  readonly bandAverage: ScalarInterval;
  readonly upTo: UpTo;
  readonly worst: CurvePoint;
  readonly substantiated: readonly Stretch[];
  readonly losses: readonly (Stretch & { readonly gain: number; readonly rpm: number })[];
}
export interface AbsoluteResult {
  readonly unit: 'kW' | 'N·m';
  readonly curve: readonly (CurvePoint & { readonly arm: number; readonly against: number })[];
  readonly bandAverage: ScalarInterval;
  readonly upTo: UpTo;
  readonly worst: CurvePoint;
  readonly peakToPeak: PeakToPeak;
}

export interface ScatterResult {
  readonly guard: Guard;
  /** Residual degrees of freedom at one rpm, and pooled over rpm. */
  readonly nu: number;
  readonly pooledDf: number;
  /** How many times the baseline's variance the other arm has; null where an arm says nothing of its own scatter. */
  readonly armRatio: number | null;
  /** Variance of the contrast the band uses, mean over rpm, over that of arms taken as alike. */
  readonly timesPooled: number;
  readonly armsDiffer: boolean;
  readonly noisyEnd: NoisyEnd | null;
}

export interface ContrastResult {
  readonly arm: string;
  readonly against: string;
  readonly pulls: { readonly arm: number; readonly against: number };
  readonly design: string;
  /** Which values the intervals rest on: every pull, or one value a mounting. Older versions: see docs/formats.md. */
  readonly rule: 'pooled, guarded' | 'mounting means';
  /** Effective degrees of freedom of the band. */
  readonly df: number;
  readonly criticalValue: number;
  readonly roughness: number;
  /** What the intervals rest on; absent in results of older versions. */
  readonly scatter?: ScatterResult;
  readonly relative: RelativeResult;
  readonly power: AbsoluteResult;
  readonly torque: AbsoluteResult;
  /** Parts of the variance of the band average, lp², and their shares. */
  readonly budget: readonly { readonly source: string; readonly variance: number; readonly share: number }[];
  /** What the shortcuts would have said, % : never publishable. */
  readonly shortcuts: {
    readonly unit: '%';
    readonly bestAgainstBest: number;
    readonly lastAgainstFirst: number;
    readonly largestOverlayDifference: number;
  };
}

/** A contrast as a result holds it. */
export type Contrast = ContrastResult & {
  /** The same contrast with excluded pulls put back, where there are any: the smaller is claimed. */
  readonly withExcluded?: ContrastResult;
};
/** Of a contrast and the same with excluded pulls put back, the one that says less by a measure. */
export const sayingLess = (contrast: Contrast, measure: (c: ContrastResult) => number): ContrastResult =>
  contrast.withExcluded && measure(contrast.withExcluded) < measure(contrast)
    ? contrast.withExcluded
    : contrast;
export const isRefused = (contrast: Contrast | RefusedContrast): contrast is RefusedContrast =>
  'code' in contrast;

/** A contrast with the working the gates look at. */
export interface AnalysedContrast {
  readonly result: ContrastResult;
  readonly design: Design;
  readonly band: GainBand;
  readonly average: ScalarGain;
  readonly common: CommonGrid;
  /** Smoothed power curves in lp, one per counted pull, in the order of `pulls`. */
  readonly smoothedPower: readonly Float64Array[];
  readonly pulls: readonly ComparedPull[];
  readonly returned: { readonly difference: number; readonly limit: number } | null;
}

export type ContrastOutcome =
  | { readonly ok: true; readonly value: AnalysedContrast }
  | { readonly ok: false; readonly refused: RefusedContrast };

const meanOf = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

export function analyseContrast(input: ContrastInput): ContrastOutcome {
  const pulls = input.runs.flatMap((run) => run.counted);
  const design = designOf(input.runs, input.against);
  const isArm = (pull: ComparedPull): boolean => pull.arm === input.arm;
  const nB = pulls.filter(isArm).length;
  const counts = { arm: nB, against: pulls.length - nB };
  const refuse = (code: ContrastCode, message: string): ContrastOutcome => ({
    ok: false,
    refused: { arm: input.arm, against: input.against, pulls: counts, design: design.label, code, message },
  });

  if (counts.arm === 0 || counts.against === 0)
    return refuse(
      'ERROR_NO_DATA',
      `There is no counted pull of “${counts.arm === 0 ? input.arm : input.against}”. Capture its pulls, or restore excluded ones.`,
    );
  const layout: Layout = {
    arm: pulls.map((pull) => (isArm(pull) ? 1 : 0)),
    run: input.runs.flatMap((run, i) => run.counted.map(() => i)),
    mount: pulls.map((pull) => pull.mount),
    order: pulls.map((pull) => pull.order),
    covariate: input.drift === 'linear',
  };
  if (layout.covariate && design.driftConfounded)
    return refuse(
      'DRIFT_CONFOUNDED',
      'A drift term cannot be told from the gain when one arm was run before the other. Return to the baseline, or use the drift bound.',
    );
  if (pulls.length - input.runs.length - (layout.covariate ? 1 : 0) < LEAST_FREEDOM)
    return refuse(
      'NOT_ENOUGH_PULLS',
      'Too few repeats to tell scatter from gain. Run at least three pulls in every run.',
    );

  const power = commonGrid(
    pulls.map((pull) => pull.torqueNm.map((t, j) => powerW(t, input.grid[j]))),
    input.grid,
  );
  if (power.status !== 'ok')
    return refuse(
      'TOO_SHORT',
      'The range that every pull covers is shorter than 1 000 rpm or 11 points. Start every pull lower and hold it to the rev limit, or widen the band.',
    );
  if (hasDuplicates(power.rows))
    return refuse(
      'DUPLICATE_PULLS',
      'Two counted pulls are identical. One of them is a copy: attach the right file.',
    );

  const torque = commonGrid(
    pulls.map((pull) => pull.torqueNm),
    input.grid,
  );
  const xp = smoothedRows(power.rows, input.stepRpm, input.smoothingRpm);
  const xt = smoothedRows(torque.rows, input.stepRpm, input.smoothingRpm);
  const averages = power.rows.map((row) => meanOf([...row]));
  const setting = settleMounts(input, layout, averages, design);
  if (!setting)
    return refuse(
      'NO_CLAIM_MOUNT_UNKNOWN',
      'The vehicle was strapped down anew between the arms and this dyno has no registered mount variance. Register it with a control vehicle, or run both arms on one mounting.',
    );

  const rows = setting.reduce(xp);
  if (!hasScatter(runResiduals(rows, setting.layout).rows))
    return refuse(
      'DUPLICATE_PULLS',
      'The pulls of every run are alike to the last digit. Attach the recording of each pull.',
    );
  const band = gainBand(rows, power.rpm, setting.layout, setting.terms);
  const scalar = (values: readonly number[]): ScalarGain =>
    scalarGain(
      setting.reduce(values.map((v) => Float64Array.of(v))).map((row) => row[0]),
      rows,
      setting.layout,
      setting.terms,
      input.guard,
    );
  const average = scalar(averages);
  const peaks = (rows: readonly Float64Array[]): number[] => rows.map((row) => Math.max(...row));
  const stock = (_: unknown, i: number): boolean => layout.arm[i] === 0;

  const absolute = (
    unit: 'kW' | 'N·m',
    perSi: number,
    rows: readonly Float64Array[],
    raw: readonly Float64Array[],
  ): AbsoluteResult => {
    const baseline = columnMeans(rows.filter(stock)).map((v) => perSi * Math.exp(v / 100));
    const inUnit = (level: number, d: number): number => level * (Math.exp(d / 100) - 1);
    const curve = power.rpm.map((rpm, j) => ({
      rpm,
      arm: baseline[j] * Math.exp(band.d[j] / 100),
      against: baseline[j],
      gain: inUnit(baseline[j], band.d[j]),
      lower: inUnit(baseline[j], band.lower[j]),
      upper: inUnit(baseline[j], band.upper[j]),
    }));
    const level = perSi * Math.exp(meanOf(raw.filter(stock).map((row) => meanOf([...row]))) / 100);
    const peakValues = peaks(rows);
    const peak = scalar(peakValues);
    const peakLevel = perSi * Math.exp(meanOf(peakValues.filter(stock)) / 100);
    const [againstAt, armAt] = ([0, 1] as const).map((which) => {
      const mean = columnMeans(rows.filter((_, i) => layout.arm[i] === which));
      return mean.indexOf(Math.max(...mean));
    }) as [number, number];
    const edge = (index: number): boolean => index === 0 || index === power.rpm.length - 1;
    return {
      unit,
      curve,
      bandAverage: {
        gain: inUnit(level, average.d),
        lower: inUnit(level, average.lower),
        upper: inUnit(level, average.upper),
        df: average.used.dfEffective,
        interval: average.used.name,
      },
      upTo: upToOf(curve),
      worst: worstOf(curve.map(({ rpm, gain, lower, upper }) => ({ rpm, gain, lower, upper }))),
      peakToPeak: {
        gain: inUnit(peakLevel, peak.d),
        lower: inUnit(peakLevel, peak.lower),
        upper: inUnit(peakLevel, peak.upper),
        gainPct: pctFromLp(peak.d),
        lowerPct: pctFromLp(peak.lower),
        upperPct: pctFromLp(peak.upper),
        armRpm: power.rpm[armAt],
        againstRpm: power.rpm[againstAt],
        atEdge: edge(armAt) || edge(againstAt),
        df: peak.used.dfEffective,
        interval: peak.used.name,
      },
    };
  };

  const curve = power.rpm.map((rpm, j) => ({
    rpm,
    gain: pctFromLp(band.d[j]),
    lower: pctFromLp(band.lower[j]),
    upper: pctFromLp(band.upper[j]),
  }));
  const total = average.parts.reduce((sum, part) => sum + part.variance, 0);
  const plainStretch = ({ fromRpm, toRpm }: Stretch): Stretch => ({ fromRpm, toRpm });
  const result: ContrastResult = {
    arm: input.arm,
    against: input.against,
    pulls: counts,
    design: design.label,
    rule: setting.unit === 'pulls' ? 'pooled, guarded' : 'mounting means',
    df: band.df,
    criticalValue: band.u,
    roughness: band.tau,
    scatter: {
      guard: input.guard,
      nu: band.split.nu,
      pooledDf: band.pooling * band.split.nu,
      armRatio: band.split.known ? band.ratio.q : null,
      timesPooled: band.variance / band.variances.pooled,
      armsDiffer: band.armsDiffer,
      noisyEnd: noisyEnd(band.sm, power.rpm),
    },
    relative: {
      unit: '%',
      curve,
      bandAverage: {
        gain: pctFromLp(average.d),
        lower: pctFromLp(average.lower),
        upper: pctFromLp(average.upper),
        df: average.used.dfEffective,
        interval: average.used.name,
      },
      upTo: upToOf(curve),
      worst: worstOf(curve),
      substantiated: stretches(power.rpm, (j) => band.lower[j] > 0).map(plainStretch),
      losses: stretches(power.rpm, (j) => band.upper[j] < 0).map((s) => {
        const deepest = worstOf(curve.slice(s.from, s.to + 1));
        return { ...plainStretch(s), gain: deepest.gain, rpm: deepest.rpm };
      }),
    },
    power: absolute('kW', 1e-3, xp, power.rows),
    torque: absolute('N·m', 1, xt, torque.rows),
    budget: average.parts
      .filter((part) => part.variance > 0)
      .map(({ source, variance }) => ({ source, variance, share: variance / total })),
    shortcuts: shortcutsOf(pulls, input.arm, peaks(xp), power.rows),
  };
  return {
    ok: true,
    value: {
      result,
      design,
      band,
      average,
      common: power,
      smoothedPower: xp,
      pulls,
      returned: returnCheck(input, averages, average, setting.terms.mount),
    },
  };
}

function columnMeans(rows: readonly Float64Array[]): number[] {
  return Array.from(rows[0], (_, j) => meanOf(rows.map((row) => row[j])));
}

/** Two rows alike to the last digit, or no scatter at all: a file was used twice. */
function hasDuplicates(rows: readonly Float64Array[]): boolean {
  return rows.some((row, i) =>
    rows.slice(i + 1).some((other) => row.every((value, j) => value === other[j])),
  );
}

function upToOf(curve: readonly CurvePoint[]): UpTo {
  const best = curve.reduce((a, b) => (b.lower > a.lower ? b : a));
  const mean = curve.reduce((a, b) => (b.gain > a.gain ? b : a));
  return { gain: best.lower, rpm: best.rpm, largestMeanGain: mean.gain, largestMeanGainRpm: mean.rpm };
}
const worstOf = (curve: readonly CurvePoint[]): CurvePoint =>
  curve.reduce((a, b) => (b.gain < a.gain ? b : a));

interface Setting {
  layout: Layout;
  terms: Terms;
  unit: 'pulls' | 'mountings';
  reduce: (rows: readonly Float64Array[]) => Float64Array[];
}

/**
 * What the mountings allow. Arms that share their mountings evenly need no mount term; otherwise the
 * registered variance enters, guarded by what this session shows; without one, mountings become the
 * unit when both arms have two or more of their own. Undefined: nothing can be said.
 */
function settleMounts(
  input: ContrastInput,
  layout: Layout,
  averages: readonly number[],
  design: Design,
): Setting | undefined {
  const orderMean = (arm: 0 | 1): number => meanOf(layout.order.filter((_, i) => layout.arm[i] === arm));
  const driftVariance =
    (design.driftConfounded || input.bracketed) && !layout.covariate
      ? (input.driftBound * Math.abs(orderMean(1) - orderMean(0))) ** 2 / 3
      : 0;
  const terms: Terms = { alpha: input.alpha, driftVariance };
  const asIs = (rows: readonly Float64Array[]): Float64Array[] => [...rows];
  if (mountLoad(contrastWeights(layout), layout.mount) < 1e-12)
    return { layout, terms, unit: 'pulls', reduce: asIs };

  const registered = input.repeatability.mount;
  if (registered && registered.df >= 2) {
    const mounts = new Set(layout.mount);
    const ownMounts = mounts.size === input.runs.length;
    if (!(ownMounts && design.equalRuns && mounts.size >= 4))
      return { layout, terms: { ...terms, mount: registered }, unit: 'pulls', reduce: asIs };
    const runMeans = input.runs.map((_, r) => meanOf(averages.filter((__, i) => layout.run[i] === r)));
    const runArm = input.runs.map((run): 0 | 1 => (run.arm === input.arm ? 1 : 0));
    const within = runVariance(averages, layout);
    const mount = guardedMountVariance(runMeans, runArm, design.pullsPerRun[0], within, registered);
    return { layout, terms: { ...terms, mount }, unit: 'pulls', reduce: asIs };
  }

  const ids = [...new Set(layout.mount)];
  const armsOn = ids.map((id) => new Set(layout.arm.filter((_, i) => layout.mount[i] === id)));
  const own = (arm: 0 | 1): number => armsOn.filter((arms) => arms.size === 1 && arms.has(arm)).length;
  if (armsOn.some((arms) => arms.size > 1) || own(0) < 2 || own(1) < 2) return undefined;
  const members = ids.map((id) => layout.mount.flatMap((m, i) => (m === id ? [i] : [])));
  const arm = members.map((list) => layout.arm[list[0]]);
  return {
    layout: {
      arm,
      run: arm,
      mount: ids,
      order: members.map((list) => meanOf(list.map((i) => layout.order[i]))),
      covariate: false,
    },
    terms,
    unit: 'mountings',
    reduce: (rows) =>
      members.map((list) => Float64Array.from(rows[0], (_, j) => meanOf(list.map((i) => rows[i][j])))),
  };
}

/** Variance of one number per pull about its run, lp². */
function runVariance(values: readonly number[], layout: Layout): number {
  const { rows, nu } = runResiduals(
    values.map((value) => Float64Array.of(value)),
    layout,
  );
  return sumOfSquares(rows)[0] / nu;
}

/** A-B-A: how far the second baseline run lies from the first, and how far scatter and re-mounting could bring it (lp). */
function returnCheck(
  input: ContrastInput,
  averages: readonly number[],
  average: ScalarGain,
  mount: KnownVariance | undefined,
): AnalysedContrast['returned'] {
  const runs = input.runs.map((run, i) => ({ run, i })).filter(({ run }) => run.arm === input.against);
  const [first, last] = [runs[0], runs.at(-1)];
  if (!first || !last || first === last) return null;
  const starts = input.runs.map((_, i) =>
    input.runs.slice(0, i).reduce((sum, run) => sum + run.counted.length, 0),
  );
  const of = (r: { run: Run<ComparedPull>; i: number }): readonly number[] =>
    averages.slice(starts[r.i], starts[r.i] + r.run.counted.length);
  const remounted = first.run.mount !== last.run.mount;
  const { u2, nu } = welchSatterthwaite(
    [
      average.s2 * (1 / first.run.counted.length + 1 / last.run.counted.length),
      remounted ? 2 * (mount?.variance ?? 0) : 0,
    ],
    [average.split.nu, mount?.df ?? Infinity],
  );
  return {
    difference: meanOf(of(last)) - meanOf(of(first)),
    limit: tUpperQuantile(input.alpha, nu) * Math.sqrt(u2),
  };
}

function shortcutsOf(
  pulls: readonly ComparedPull[],
  arm: string,
  peaks: readonly number[],
  raw: readonly Float64Array[],
): ContrastResult['shortcuts'] {
  const of = (part: boolean): number[] =>
    pulls
      .flatMap((pull, i) => ((pull.arm === arm) === part ? [i] : []))
      .sort((a, b) => pulls[a].order - pulls[b].order);
  const [part, stock] = [of(true), of(false)];
  const best = (list: number[]): number => Math.max(...list.map((i) => peaks[i]));
  const [lastPart, lastStock] = [part.at(-1)!, stock.at(-1)!];
  return {
    unit: '%',
    bestAgainstBest: pctFromLp(best(part) - best(stock)),
    lastAgainstFirst: pctFromLp(peaks[lastPart] - peaks[stock[0]]),
    largestOverlayDifference: pctFromLp(
      raw[lastPart].reduce((max, value, j) => Math.max(max, value - raw[lastStock][j]), -Infinity),
    ),
  };
}
