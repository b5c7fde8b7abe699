/** Air of a pull from the readings of a station around it. */
import { AirError } from '../base/errors.ts';
import type { StationReading } from '../capture/air-file.ts';
import type { AirReading, Humidity } from '../capture/air-reading.ts';

/** A reading further away than this says nothing of a pull. */
export const FARTHEST_MS = 10 * 60_000;

export interface JoinedAir {
  readonly reading: Omit<AirReading, 'siteHeightM'>;
  /** Lines of the file it comes from: one, or the two on either side. */
  readonly lines: readonly number[];
  /** How far the nearest reading is away, s. */
  readonly nearestS: number;
}

const between = (a: number, b: number, share: number): number => a + share * (b - a);
function humidityBetween(a: Humidity, b: Humidity, share: number): Humidity {
  if (a.kind === 'relative' && b.kind === 'relative')
    return { kind: 'relative', percent: between(a.percent, b.percent, share) };
  if (a.kind !== 'relative' && b.kind === a.kind)
    return { kind: a.kind, temperatureC: between(a.temperatureC, b.temperatureC, share) };
  return share < 0.5 ? a : b;
}
const alone = ({
  temperatureC,
  pressureHpa,
  pressureKind,
  humidity,
}: StationReading): JoinedAir['reading'] => ({
  temperatureC,
  pressureHpa,
  ...(pressureKind ? { pressureKind } : {}),
  humidity,
});

/**
 * The air at a moment (ms since 1970): between two readings, both no further than ten minutes away, in proportion to
 * the time; beside one such reading, that reading as it is. Nothing is carried further: `AirError` AIR_TOO_FAR with how
 * far the nearest is. `readings` in the order of their time.
 */
export function airAt(readings: readonly StationReading[], at: number): JoinedAir {
  let after = readings.findIndex((r) => r.at >= at);
  if (after < 0) after = readings.length;
  const [left, right] = [readings[after - 1], readings[after]];
  const near = (r: StationReading | undefined): r is StationReading =>
    r !== undefined && Math.abs(r.at - at) <= FARTHEST_MS;
  if (near(left) && near(right)) {
    const share = (at - left.at) / (right.at - left.at);
    return {
      reading: {
        temperatureC: between(left.temperatureC, right.temperatureC, share),
        pressureHpa: between(left.pressureHpa, right.pressureHpa, share),
        ...(left.pressureKind ? { pressureKind: left.pressureKind } : {}),
        humidity: humidityBetween(left.humidity, right.humidity, share),
      },
      lines: right.at === at ? [right.line] : [left.line, right.line],
      nearestS: Math.min(at - left.at, right.at - at) / 1000,
    };
  }
  const one = near(left) ? left : near(right) ? right : undefined;
  if (one) return { reading: alone(one), lines: [one.line], nearestS: Math.abs(one.at - at) / 1000 };
  const nearest = Math.min(...[left, right].flatMap((r) => (r ? [Math.abs(r.at - at)] : [])));
  throw new AirError(
    'AIR_TOO_FAR',
    Number.isFinite(nearest)
      ? `The nearest reading of the station is ${Math.round(nearest / 60_000)} minutes away from the pull.`
      : 'The station has no readings.',
    'A reading counts for ten minutes at the most: enter the air by hand, or send the file of the right day.',
    {},
    { nearestMs: nearest },
  );
}
