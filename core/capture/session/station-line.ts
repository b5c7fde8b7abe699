/** Air from what a live station says, by the names and units of its channels: the same words as in a station's file. */
import { toInternal } from '../../base/units.ts';
import { readAirHeader, type AirQuantity } from '../air-columns.ts';
import type { AirReading, Humidity } from '../air-reading.ts';
import type { RecordedChannel } from './channel-meaning.ts';

export type StationAir = Omit<AirReading, 'siteHeightM' | 'pressureKind'> & {
  readonly pressureKind: 'station' | 'sea level';
};
const PA_PER_HPA = 100;

/**
 * @returns undefined where temperature, pressure or humidity is missing, or where the pressure does not say whether it
 *   is the station's own or reduced to sea level: that is never guessed
 */
export function airOfStation(
  channels: readonly RecordedChannel[],
  values: readonly (number | null)[],
): StationAir | undefined {
  const columns = channels.map(({ name, unit }, index) => readAirHeader(name, unit, index));
  const read = (quantity: AirQuantity): number | undefined => {
    const column = columns.find((c) => c.quantity === quantity && !c.elsewhere);
    const value = column && values[column.index];
    return column?.unit && value !== null && value !== undefined ? toInternal(value, column.unit) : undefined;
  };
  const pressureKind = columns.find((c) => c.quantity === 'pressure')?.pressureKind;
  const [temperatureC, pressurePa] = [read('temperature'), read('pressure')];
  const humidity = humidityOf(read);
  if (temperatureC === undefined || pressurePa === undefined || !humidity || !pressureKind) return undefined;
  return { temperatureC, pressureHpa: pressurePa / PA_PER_HPA, pressureKind, humidity };
}
function humidityOf(read: (quantity: AirQuantity) => number | undefined): Humidity | undefined {
  const percent = read('relative humidity');
  if (percent !== undefined) return { kind: 'relative', percent };
  for (const kind of ['dew point', 'wet bulb'] as const) {
    const temperatureC = read(kind);
    if (temperatureC !== undefined) return { kind, temperatureC };
  }
  return undefined;
}
