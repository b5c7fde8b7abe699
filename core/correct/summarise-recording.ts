/** One recording boiled down to what the bench holds it against the others by. */
import type { Quantity } from '../base/quantities.ts';
import { ENGINE_CHANNELS, QUANTITY_NAMES } from '../base/quantities.ts';
import type { BoostedSchool, Engine, Standard } from '../base/standards.ts';
import { lp } from '../base/units.ts';
import type { AirReading } from '../capture/air-reading.ts';
import { doubtsIn } from '../capture/doubts/doubts-in.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import type { ChannelSummary, RecordingSummary } from '../capture/session/recording-summary.ts';
import { findSweep } from '../capture/sweep.ts';
import { airState } from './air.ts';
import { correctPull } from './pull-correction.ts';
import { appliedFactor, correctionFactor } from './standards.ts';
import { hollowIn } from './hollow.ts';
import { slipIn } from './speed-ratio.ts';
import { startsOf } from './starts.ts';
import { curveReader, rpmGrid } from './torque-curve.ts';

export interface SummariseAs {
  readonly engine: Engine;
  readonly standard: Standard;
  /** House policy for boosted engines. */ readonly school: BoostedSchool;
  /** Standard the dyno applies on its own. */ readonly applied: Standard;
  readonly band: { readonly fromRpm: number; readonly toRpm: number; readonly stepRpm: number };
  readonly air: AirReading | null;
  /** Samples that were lost on the way. */ readonly lost: number;
}

/** Channels that never stand still in a sweep: one that does is stuck. */
const MOVES: ReadonlySet<Quantity> = new Set(['lambda', 'manifoldPressure', 'massAirFlow', 'fuelFlow']);
const fixed = (value: number, digits: number): number => Number(value.toFixed(digits));
/** So many digits of a curve as a screen can show. */
const CURVE_DIGITS = 2;

/** @throws PullFileError when there is no sweep; AirError when the air cannot be right */
export function summariseRecording(file: PullFile, as: SummariseAs): RecordingSummary {
  const { fromRpm, toRpm, stepRpm } = as.band;
  const grid = rpmGrid(fromRpm, toRpm, stepRpm);
  const { sweep, torqueNm, factor, curveOf } = corrected(file, as, grid);
  const inBand = [...sweep.indices].filter((i) => file.rpm[i] >= fromRpm && file.rpm[i] <= toRpm);
  const channels: Partial<Record<Quantity, ChannelSummary>> = {};
  const dead: string[] = [];
  for (const quantity of ENGINE_CHANNELS) {
    const values = file.channels[quantity];
    if (!values) continue;
    const summary = channelSummary(values, file.rpm, inBand, MOVES.has(quantity));
    if (summary) channels[quantity] = summary;
    else dead.push(QUANTITY_NAMES[quantity]);
  }
  const whole = [...torqueNm].every(Number.isFinite);
  return {
    samples: file.samples,
    lost: as.lost,
    beganRpm: Math.round(sweep.beganRpm),
    endedRpm: Math.round(sweep.toRpm),
    rampRpmPerS: Number.isFinite(sweep.rampRpmPerS) ? fixed(sweep.rampRpmPerS, 1) : null,
    liftedRpm: sweep.toRpm < toRpm ? Math.round(sweep.toRpm) : null,
    slip: slipIn(file, sweep),
    powerTorque: file.findings.find((f) => f.code === 'POWER_TORQUE_MISMATCH')?.share ?? null,
    hollow: hollowIn(file, grid, torqueNm, curveOf, stepRpm),
    // What lies beside the range decides nothing.
    doubts: doubtsIn(file, sweep)
      .filter((doubt) => doubt.toRpm >= fromRpm && doubt.fromRpm <= toRpm)
      .map((doubt) => doubt.message),
    starts: startsOf(file, sweep),
    channels,
    dead,
    air: airShown(as.air),
    factor,
    curve: Array.from(torqueNm, (t) => (Number.isFinite(t) ? fixed(t, CURVE_DIGITS) : null)),
    level: whole ? fixed(torqueNm.reduce((sum, t) => sum + lp(t), 0) / torqueNm.length, 4) : null,
  };
}

function corrected(file: PullFile, as: SummariseAs, grid: readonly number[]) {
  if (!as.air) {
    const sweep = findSweep({
      timeS: file.channels.time,
      rpm: file.rpm,
      throttlePct: file.channels.throttle,
    });
    const curveOf = curveReader(file.rpm, sweep, grid, as.band.stepRpm);
    return { sweep, curveOf, torqueNm: curveOf(file.torqueNm), factor: null };
  }
  const state = airState(as.air);
  const applied = { standard: as.applied };
  const { sweep, torqueNm, curveOf } = correctPull(
    file,
    state,
    as.engine,
    { standard: as.standard, school: as.school },
    applied,
    grid,
    as.band.stepRpm,
  );
  const factor =
    correctionFactor(as.standard, state, as.engine, as.school).factor /
    appliedFactor(applied, state, as.engine);
  return { sweep, torqueNm, curveOf, factor: fixed(factor, 5) };
}

function airShown(air: AirReading | null): RecordingSummary['air'] {
  if (!air) return null;
  const { temperatureC, relativeHumidityPct } = airState(air);
  return { temperatureC, pressureHpa: air.pressureHpa, humidityPct: fixed(relativeHumidityPct, 1) };
}

function channelSummary(
  values: Float64Array,
  rpm: Float64Array,
  at: readonly number[],
  moves: boolean,
): ChannelSummary | undefined {
  const known = at.filter((i) => Number.isFinite(values[i]));
  if (known.length === 0) return undefined;
  let [least, most] = [known[0], known[0]];
  let sum = 0;
  for (const i of known) {
    sum += values[i];
    if (values[i] < values[least]) least = i;
    if (values[i] > values[most]) most = i;
  }
  return {
    mean: fixed(sum / known.length, 5),
    least: fixed(values[least], 5),
    leastRpm: Math.round(rpm[least]),
    most: fixed(values[most], 5),
    mostRpm: Math.round(rpm[most]),
    stuck: moves && values[least] === values[most],
  };
}
