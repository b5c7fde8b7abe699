/** Stand-in for a weather station in the cell. */
import { seededRng } from '../../../core/base/rng.ts';
import type { FaultName } from './faults.ts';
import { listen, type StandIn, type StandInOptions } from './listen.ts';
import { airAt } from './weather.ts';

/** By how much a station warms that somebody puts beside the exhaust, K. */
const MOVED_K = 4;

export async function startStation(options: StandInOptions): Promise<StandIn> {
  const faults = new Set<FaultName>();
  const rng = seededRng(options.seed);
  let stuck: number[] | null = null;
  const read = (): number[] => {
    const air = airAt(Date.now());
    const moved = faults.has('air moved') ? MOVED_K : 0;
    return [
      Number((air.temperatureC + moved + 0.06 * rng.normal()).toFixed(2)),
      Number((air.pressureHpa + 0.04 * rng.normal()).toFixed(2)),
      Number((air.humidityPct + 0.3 * rng.normal()).toFixed(1)),
    ];
  };
  const listening = await listen(options, faults, {
    device: 'station',
    name: 'Stand-in weather station',
    channels: [
      { name: 'Air temperature', unit: '°C' },
      { name: 'Station pressure', unit: 'hPa' },
      { name: 'Relative humidity', unit: '%' },
    ],
    clock: Date.now,
    now: () => (stuck = faults.has('sensor stuck') ? (stuck ?? read()) : null) ?? read(),
  });
  return { port: listening.port, faults, close: () => listening.close() };
}
