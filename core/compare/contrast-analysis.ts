/**
 * One arm against another: from corrected curves on a grid to the gain with its band, the metrics that may be
 * claimed, the uncertainty budget and what the common shortcuts would have said. Curves only: nothing here knows a
 * file, a plan or a part.
 */
import { powerW } from '../base/units.ts';
import type { Layout } from '../plan/contrast-weights.ts';
import { byTemperature, widerBand, widerScalar, type ByTemperature } from './by-temperature.ts';
import { designOf, type Design } from '../plan/design.ts';
import { absoluteResult, peaksOf } from './absolute-result.ts';
import { commonGrid, type CommonGrid, type Rows } from './common-grid.ts';
import type { ComparedPull } from './compared-pull.ts';
import type { ContrastInput } from './contrast-input.ts';
import { runResiduals } from './contrast.ts';
import { hasScatter, LEAST_FREEDOM } from './edge-codes.ts';
import { furtherMetrics, type FurtherInput } from './further-metrics.ts';
import { gainBand, type GainBand } from './gain-band.ts';
import { meanOf } from './means.ts';
import { settleMounts, type MountSetting } from './mount-setting.ts';
import { gainByUse, peakRpm } from './gain-by-use.ts';
import { nextBuys } from './next-buys.ts';
import { noisyEnd } from './noisy-end.ts';
import { oneWayOf, type OneWay } from './one-way.ts';
import { relativeResult } from './relative-result.ts';
import type {
  Buys,
  ContrastCode,
  ContrastResult,
  FurtherMetrics,
  Interval,
  Refusal,
  ScatterResult,
} from './result.ts';
import { returnCheck, type ReturnCheck } from './return-check.ts';
import { scalarGain, type ScalarGain } from './scalar-gain.ts';
import { shortcutsOf } from './shortcuts.ts';
import { smoothedRows } from './smoothing.ts';
import type { UsePoint } from '../register/use-profile.ts';
import type { Terms } from './terms.ts';

/** A contrast with the working the gates look at. */
export interface AnalysedContrast {
  readonly result: ContrastResult;
  readonly design: Design;
  readonly band: GainBand;
  readonly average: ScalarGain;
  readonly common: CommonGrid;
  /** Smoothed power curves in lp, one per counted pull, in the order of `pulls`. */
  readonly smoothedPower: Rows;
  readonly pulls: readonly ComparedPull[];
  readonly returned: ReturnCheck | null;
  /** Where nothing returned to the baseline and the plan says it cannot: what stands in for it. */
  readonly oneWay: OneWay | null;
  /** What the start temperature did; null where the plan names none or a pull has none. */
  readonly heat: ByTemperature | null;
  /** Band averages of the pulls, lp, and the run of each: what single pulls are held against the others by. */
  readonly averages: readonly number[];
  readonly runs: readonly number[];
  /** Worked out when they are asked for: of parts over the baseline only. */
  readonly further: () => FurtherMetrics;
  readonly buys: () => Buys;
  readonly byUse: (points: readonly UsePoint[]) => { covered: number; gain: Interval | null };
  /** Interval of one number per pull of the dyno’s own reading, lp, in the order of `pulls`. */
  readonly ofPull: (values: readonly number[]) => ScalarGain;
  /** Interval of one number per pull, in the order of `pulls`, that the dyno's own level does not enter. */
  readonly ofLog: (values: readonly number[]) => ScalarGain;
}

export type ContrastOutcome =
  { readonly ok: true; readonly value: AnalysedContrast } | { readonly ok: false; readonly refused: Refusal };

export function analyseContrast(input: ContrastInput): ContrastOutcome {
  const pulls = input.runs.flatMap((run) => run.counted);
  const design = designOf(input.runs, input.against);
  const layout = layoutOf(input, pulls);
  const ready = settled(input, pulls, design, layout);
  if (typeof ready === 'string') return { ok: false, refused: refusal(input, pulls, design, ready) };
  const { power, xp, averages, setting, oneWay } = ready;

  const heat = byTemperature(input.slope ?? null, pulls, layout, setting, averages);
  const { band, scalar, plain } = intervals(input, ready, heat);
  const average = scalar(averages);
  const torque = commonGrid(
    pulls.map((pull) => pull.torqueNm),
    input.grid,
  );
  const xt = smoothedRows(torque.rows, input.stepRpm, input.smoothingRpm);
  const shared = { arm: layout.arm, band, average, scalar };
  const result: ContrastResult = {
    ...headOf(input, pulls, design),
    rule: setting.unit === 'pulls' ? 'pooled, guarded' : 'mounting means',
    df: band.df,
    criticalValue: band.u,
    roughness: band.tau,
    scatter: scatterOf(input, band),
    relative: relativeResult(band, average),
    power: absoluteResult({ ...shared, unit: 'kW', perSi: 1e-3, smoothed: xp, raw: power.rows }),
    torque: absoluteResult({ ...shared, unit: 'N·m', perSi: 1, smoothed: xt, raw: torque.rows }),
    budget: budgetOf(average),
    ...(heat ? { startTemperature: heatResult(heat, plain.band, plain.scalar(averages)) } : {}),
    shortcuts: shortcutsOf(pulls, input.arm, peaksOf(xp), power.rows),
  };
  const moved = heat ? averages.map((v, i) => v - heat.shift[i]) : averages;
  const returned = returnCheck(input, moved, average, setting.terms.mount);
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
      returned,
      oneWay,
      heat,
      averages: moved,
      runs: layout.run,
      further: () => furtherOf(input, ready, { ...shared, torque, smoothed: xt }, layout),
      byUse: (points) => gainByUse(points, power, peakRpm(xp, layout.arm, power.rpm), scalar),
      ofPull: scalar,
      ofLog: logScalar(input, setting),
      buys: () => nextBuys(average, runCounts(input), result.pulls, input, bought(input, setting)),
    },
  };
}

type Torque = Pick<FurtherInput, 'torque' | 'smoothed' | 'scalar'> & { readonly band: GainBand };
const furtherOf = (
  input: ContrastInput,
  { setting }: Ready,
  { band, ...torque }: Torque,
  { arm }: Layout,
): FurtherMetrics =>
  furtherMetrics({
    ...torque,
    pulls: input.runs.flatMap((run) => run.counted),
    arm,
    gain: band.d,
    alpha: input.alpha,
    scalarOfLog: logScalar(input, setting),
  });

/** An interval of one number per pull that the dyno’s own level does not enter. */
const logScalar =
  ({ alpha, family, guard }: ContrastInput, { layout, reduce }: MountSetting) =>
  (values: readonly number[]): ScalarGain =>
    scalarGain(
      reduce(values.map((v) => Float64Array.of(v))).map((row) => row[0]),
      null,
      layout,
      { alpha, family },
      guard,
    );
const runCounts = ({ runs, arm }: ContrastInput) => {
  const own = runs.filter((run) => run.arm === arm).length;
  return { arm: own, against: runs.length - own };
};
const bought = ({ repeatability }: ContrastInput, { unit }: MountSetting) => ({
  unit,
  day: repeatability.day,
});

interface Intervals {
  readonly band: GainBand;
  readonly scalar: (values: readonly number[]) => ScalarGain;
}
/** The wider limits of two ways. */
const wider = (one: Intervals, other: Intervals): Intervals => ({
  band: widerBand(one.band, other.band),
  scalar: (values) => widerScalar(one.scalar(values), other.scalar(values)),
});

/**
 * Band and intervals with pulls brought to one start temperature, and without; where nothing returns to the baseline,
 * with what the control vehicle moved left in and taken off, whichever says less.
 */
function intervals(
  { guard }: ContrastInput,
  { power, setting, rows, oneWay, layout: own }: Ready,
  heat: ByTemperature | null,
): Intervals & { readonly plain: Intervals } {
  const { layout, terms, reduce } = setting;
  const under = (held: Terms, shift: readonly number[] | null): Intervals => {
    const down = shift && reduce(shift.map((v) => Float64Array.of(v))).map((row) => row[0]);
    const curves = down ? rows.map((row, i) => row.map((v) => v - down[i])) : rows;
    return {
      band: gainBand(curves, power.rpm, layout, held),
      scalar: (values) => {
        const reduced = reduce(values.map((v, i) => Float64Array.of(v - (shift?.[i] ?? 0))));
        return scalarGain(
          reduced.map((row) => row[0]),
          curves,
          layout,
          held,
          guard,
        );
      },
    };
  };
  const plain = under(terms, null);
  const heated = heat ? { ...terms, temperature: heat.term } : terms;
  const brought = heat ? under(heated, heat.shift) : plain;
  const settled = heat?.check?.disagrees ? wider(brought, plain) : brought;
  if (!oneWay?.moved) return { ...settled, plain };
  const { difference, own: control } = oneWay.moved;
  const less = own.arm.map((arm, i) => (heat?.shift[i] ?? 0) + arm * difference);
  // A day that moves the car moves the control vehicle too.
  return { ...wider(settled, under({ ...heated, day: undefined, control }, less)), plain };
}

function heatResult(
  { slope, term, check }: ByTemperature,
  band: GainBand,
  average: ScalarGain,
): NonNullable<ContrastResult['startTemperature']> {
  return {
    apartK: term.dT,
    slope: slope.b,
    variance: term.variance,
    ...(check ? { own: { slope: check.b, limit: check.limit, disagrees: check.disagrees } } : {}),
    unadjusted: relativeResult(band, average).bandAverage,
  };
}

const layoutOf = (input: ContrastInput, pulls: readonly ComparedPull[]): Layout => ({
  arm: pulls.map((pull) => (pull.arm === input.arm ? 1 : 0)),
  run: input.runs.flatMap((run, i) => run.counted.map(() => i)),
  mount: pulls.map((pull) => pull.mount),
  order: pulls.map((pull) => pull.order),
  covariate: input.drift === 'linear',
});

const headOf = (input: ContrastInput, pulls: readonly ComparedPull[], design: Design) => {
  const arm = pulls.filter((pull) => pull.arm === input.arm).length;
  return {
    arm: input.arm,
    against: input.against,
    pulls: { arm, against: pulls.length - arm },
    design: design.label,
  };
};
const refusal = (
  input: ContrastInput,
  pulls: readonly ComparedPull[],
  design: Design,
  code: ContrastCode,
): Refusal => ({ ...headOf(input, pulls, design), code });

interface Ready {
  readonly power: CommonGrid;
  /** Smoothed power, lp; band average of each pull. */
  readonly xp: Rows;
  readonly averages: readonly number[];
  readonly setting: MountSetting;
  /** The values compared: smoothed power of every pull, or of every mounting. */
  readonly rows: Rows;
  readonly oneWay: OneWay | null;
  /** Where each pull stands. */ readonly layout: Layout;
}

/** Curves, mountings and layout ready for the rules; or the code of what keeps them from it. */
function settled(
  input: ContrastInput,
  pulls: readonly ComparedPull[],
  design: Design,
  layout: Layout,
): Ready | ContrastCode {
  if (!layout.arm.includes(0) || !layout.arm.includes(1)) return 'ERROR_NO_DATA';
  if (layout.covariate && design.driftConfounded) return 'DRIFT_CONFOUNDED';
  if (pulls.length - input.runs.length - (layout.covariate ? 1 : 0) < LEAST_FREEDOM)
    return 'NOT_ENOUGH_PULLS';
  const power = commonGrid(
    pulls.map((pull) => pull.torqueNm.map((t, j) => powerW(t, input.grid[j]))),
    input.grid,
  );
  if (power.status !== 'ok') return 'TOO_SHORT';
  if (hasTwins(power.rows)) return 'DUPLICATE_PULLS';
  const xp = smoothedRows(power.rows, input.stepRpm, input.smoothingRpm);
  const averages = power.rows.map((row) => meanOf([...row]));
  const oneWay = design.driftConfounded && input.oneWay ? oneWayOf(input.oneWay, input) : null;
  const setting = settleMounts(input, layout, averages, design, oneWay);
  if (!setting) return 'NO_CLAIM_MOUNT_UNKNOWN';
  const rows = setting.reduce(xp);
  return hasScatter(runResiduals(rows, setting.layout).rows)
    ? { power, xp, averages, setting, rows, oneWay, layout }
    : 'DUPLICATE_PULLS';
}

/** Two rows alike to the last digit: a file was used twice. */
const hasTwins = (rows: Rows): boolean =>
  rows.some((row, i) => rows.slice(i + 1).some((other) => row.every((value, j) => value === other[j])));

const scatterOf = ({ guard }: ContrastInput, band: GainBand): ScatterResult => ({
  guard,
  nu: band.split.nu,
  pooledDf: band.pooling * band.split.nu,
  armRatio: band.split.known ? band.ratio.q : null,
  timesPooled: band.variance / band.variances.pooled,
  armsDiffer: band.armsDiffer,
  noisyEnd: noisyEnd(band.sm, band.rpm),
});

function budgetOf({ parts }: ScalarGain): ContrastResult['budget'] {
  const total = parts.reduce((sum, part) => sum + part.variance, 0);
  return parts
    .filter((part) => part.variance > 0)
    .map(({ source, variance }) => ({ source, variance, share: variance / total }));
}
