/** Units of the columns of the air table: the one a person reads in, and those that may be typed after a number. */
import type { TypedUnit } from '../../core/base/typed-number.ts';
import { toInternal, UNITS } from '../../core/base/units.ts';
import type { AirRequest } from '../../contract/capture/capture.ts';
import type { Units } from '../base/format.ts';
import type { AirColumn } from './air-columns.ts';

const NAMES: Readonly<Record<'temperature' | 'pressure', Readonly<Record<string, readonly string[]>>>> = {
  temperature: { '°C': ['°C', 'C', 'degC'], '°F': ['°F', 'F', 'degF'], K: ['K'] },
  pressure: {
    hPa: ['hPa', 'mbar', 'mb'],
    kPa: ['kPa'],
    Pa: ['Pa'],
    bar: ['bar'],
    inHg: ['inHg', '"Hg'],
    mmHg: ['mmHg', 'Torr'],
    psi: ['psi'],
  },
};
type HumidityKind = AirRequest['humidityKind'];

/** The unit a column is shown in. */
export const unitOf = (column: AirColumn, humidityKind: HumidityKind, units: Units): string => {
  if (column === 'pressure') return units.pressure.unit;
  return column === 'humidity' && humidityKind === 'relative' ? '%' : units.temperature.unit;
};
/** A value in one unit as a value in another of the same quantity; undefined where there is no way between them. */
export function between(value: number, from: string, to: string): number | undefined {
  if (from === to) return value;
  const [a, b] = [UNITS[from], UNITS[to]];
  return a && b && a.dimension === b.dimension ? (toInternal(value, a) - b.offset) / b.scale : undefined;
}
/** Units that may be typed in a column, each turned into the one it is shown in. */
export function typedUnits(column: AirColumn, humidityKind: HumidityKind, units: Units): TypedUnit[] {
  const shown = unitOf(column, humidityKind, units);
  if (shown === '%') return [{ names: ['%', '% RH', '%rh'] }];
  const names = NAMES[column === 'pressure' ? 'pressure' : 'temperature'];
  // The one that is shown comes first: a refusal names it first.
  return Object.keys(names)
    .sort((a, b) => Number(b === shown) - Number(a === shown))
    .map((id) => ({ names: names[id], toField: (value) => between(value, id, shown)! }));
}
