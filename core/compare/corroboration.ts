/**
 * What the engine's own log says of a gain: the flows against the power over the same band, and what the kind of part
 * acts upon. Every number has the interval of the repeated pulls (rule S without the dyno's own level, of which a log
 * knows nothing). As observed: what flows is not corrected for air either.
 */
import { pctFromLp } from '../base/units.ts';
import type { ChannelCurves } from '../correct/channel-curves.ts';
import type { PartCategory } from '../register/parts.ts';
import { meanOf } from './means.ts';
import type { Corroboration, Interval, LogEvidence, LogSays, Mechanism } from './result.ts';
import type { ScalarGain } from './scalar-gain.ts';

/** One pull with what its log holds; curves on the grid of the test. */
export interface EvidencePull {
  readonly curves: ChannelCurves;
  /** Mean of the power as observed over the range compared, lp. */
  readonly power: number;
  /** How rough the airflow signal is over its samples, as a share of its mean; left out where it is not logged. */
  readonly airRoughness?: number | undefined;
}
export interface EvidenceInput {
  readonly pulls: readonly EvidencePull[];
  /** Indices of the grid that are compared: from, and up to but without. */
  readonly range: { readonly from: number; readonly to: number };
  /** Kinds of parts in which the arms differ. */
  readonly categories: readonly PartCategory[];
  /** Interval of one number per pull that no level of the dyno enters. */
  readonly scalar: (values: readonly number[]) => ScalarGain;
}

/** Percentage points within which a flow goes with the power (the method's gate “log agrees”). */
export const WITHIN_POINTS = 3;

type Direct = (typeof DIRECT)[number];
/** What a kind of part acts upon by itself, and which way a part that works moves it. Common practice. */
const DIRECT = [
  { of: 'inlet pressure', way: 1, parts: ['intake', 'inlet', 'filter', 'throttle body'] },
  { of: 'charge temperature', way: -1, parts: ['intercooler'] },
  { of: 'intercooler pressure drop', way: -1, parts: ['intercooler'] },
  { of: 'manifold pressure', way: 1, parts: ['supercharger', 'pulley'] },
  { of: 'drive speed', way: 1, parts: ['supercharger', 'pulley'] },
  { of: 'back-pressure', way: -1, parts: ['header', 'downpipe', 'exhaust section'] },
] as const satisfies readonly {
  of: LogEvidence['of'];
  way: 1 | -1;
  parts: readonly PartCategory[];
}[];

/** Nothing where the logs hold none of it. */
export function corroboration(input: EvidenceInput): Corroboration | null {
  const { pulls, scalar, categories } = input;
  const power = scalar(pulls.map((p) => p.power));
  const flows = (['massAirFlow', 'fuelFlow'] as const).flatMap((channel) => flowEvidence(input, channel));
  const acts = DIRECT.filter(({ parts }) => parts.some((part) => categories.includes(part)));
  const direct = acts.flatMap((one) => directEvidence(input, one));
  const beside = besides(
    input,
    direct.map((row) => row.of),
  );
  const rows = [...direct, ...flows, ...beside];
  if (rows.length === 0) return null;
  return { mechanism: mechanismOf(direct, flows), power: inPercent(power), rows };
}

/** Measured where what the part acts upon has moved as it should; else what the flows allow; else a hypothesis. */
function mechanismOf(direct: readonly LogEvidence[], flows: readonly LogEvidence[]): Mechanism {
  const says = (rows: readonly LogEvidence[], what: LogSays): boolean =>
    rows.some((row) => row.says === what);
  if (says(direct, 'against') || says(flows, 'against')) return 'hypothesis';
  if (says(direct, 'supports')) return 'measured';
  return says(flows, 'supports') ? 'consistent with the log' : 'hypothesis';
}

const inPercent = ({ d, lower, upper }: ScalarGain): Interval => ({
  gain: pctFromLp(d),
  lower: pctFromLp(lower),
  upper: pctFromLp(upper),
});
const asItIs = ({ d, lower, upper }: ScalarGain): Interval => ({ gain: d, lower, upper });

/** Mean of a channel of every pull over the range; null where one of them has a gap in it. */
function means(
  { pulls, range: { from, to } }: EvidenceInput,
  of: (curves: ChannelCurves, j: number) => number | null | undefined,
): number[] | null {
  const all = pulls.map(({ curves }) =>
    Array.from({ length: to - from }, (_, k) => of(curves, from + k) ?? NaN),
  );
  return all.every((row) => row.every(Number.isFinite)) ? all.map((row) => meanOf(row)) : null;
}

/** A flow and the power over the same band: their ratios, and by how much they differ. */
function flowEvidence(input: EvidenceInput, channel: 'massAirFlow' | 'fuelFlow'): LogEvidence[] {
  const logs = means(input, (curves, j) => {
    const flow = curves[channel]?.[j];
    return flow && flow > 0 ? 100 * Math.log(flow) : null;
  });
  if (!logs) return [];
  const change = inPercent(input.scalar(logs));
  const toPower = inPercent(input.scalar(logs.map((v, i) => v - input.pulls[i].power)));
  const apart = toPower.lower > WITHIN_POINTS || toPower.upper < -WITHIN_POINTS;
  const within = Math.abs(toPower.gain) <= WITHIN_POINTS;
  const moved = change.lower > 0 || change.upper < 0;
  const of = channel === 'massAirFlow' ? 'airflow' : 'fuel flow';
  const says: LogSays = apart ? 'against' : within && moved ? 'supports' : 'open';
  return [{ of, unit: '%', change, toPower, direct: false, says }];
}

/** Channels of which the difference counts, in kelvin, hPa or rpm. */
function valuesOf(input: EvidenceInput, of: LogEvidence['of']): number[] | null {
  const hPa = (pa: number | null | undefined): number | null => (pa == null ? null : pa / 100);
  switch (of) {
    case 'inlet pressure':
      return means(input, (c, j) => hPa(c.inletPressure?.[j]));
    case 'manifold pressure':
      return means(input, (c, j) => hPa(c.manifoldPressure?.[j]));
    case 'back-pressure':
      return means(input, (c, j) => hPa(c.exhaustPressure?.[j]));
    case 'charge temperature':
      return means(input, (c, j) => c.intakeAirTemperature?.[j]);
    case 'intercooler pressure drop':
      return means(input, (c, j) => {
        const [before, after] = [hPa(c.chargePressure?.[j]), hPa(c.manifoldPressure?.[j])];
        return before === null || after === null ? null : before - after;
      });
    case 'drive speed':
      return means(input, (c, j) => c.superchargerSpeed?.[j]);
    default:
      return null;
  }
}
const UNITS: Partial<Record<LogEvidence['of'], LogEvidence['unit']>> = {
  'charge temperature': 'K',
  'drive speed': 'rpm',
};

function directEvidence(input: EvidenceInput, { of, way }: Pick<Direct, 'of' | 'way'>): LogEvidence[] {
  const values = valuesOf(input, of);
  if (!values) return [];
  const change = asItIs(input.scalar(values));
  const forIt = way > 0 ? change.lower > 0 : change.upper < 0;
  const against = way > 0 ? change.upper < 0 : change.lower > 0;
  const says: LogSays = forIt ? 'supports' : against ? 'against' : 'open';
  return [{ of, unit: UNITS[of] ?? 'hPa', change, direct: true, says }];
}

/** What stands beside: boost, the air that is drawn in, and how steady its flow is; told, and settles nothing. */
function besides(input: EvidenceInput, told: readonly LogEvidence['of'][]): LogEvidence[] {
  const rough = input.pulls.map((pull) => pull.airRoughness);
  const roughness: LogEvidence[] = rough.every((v) => v !== undefined && v > 0)
    ? [
        {
          of: 'airflow roughness',
          unit: '%',
          change: inPercent(input.scalar(rough.map((v) => 100 * Math.log(v!)))),
          direct: false,
          says: 'open',
        },
      ]
    : [];
  const rest = (['manifold pressure', 'charge temperature'] as const)
    .filter((of) => !told.includes(of))
    .flatMap((of): LogEvidence[] => {
      const values = valuesOf(input, of);
      return values
        ? [
            {
              of,
              unit: UNITS[of] ?? 'hPa',
              change: asItIs(input.scalar(values)),
              direct: false,
              says: 'open',
            },
          ]
        : [];
    });
  return [...rest, ...roughness];
}
