/** Sentences and facts that come with SI units, told in the units of whoever reads them. */
import { number, useUnits, type Units } from './format.ts';

type Known = 'kW' | 'N·m' | '°C' | 'hPa';
const NUMBER = String.raw`[+−-]?\d+(?:[\u202f ]\d{3})*(?:\.\d+)?`;
/** “a unit”, or several numbers of one unit in a row: “10 to 40 °C”, “88 ± 4 °C”. */
const MEASURE = new RegExp(
  String.raw`((?:± ?)?${NUMBER}(?:(?: to | and | ± |±| or )${NUMBER})*)([\u202f\u00a0 ])(kW|N·m|°C|hPa)(?![\w·/²³])`,
  'g',
);
const ONE = new RegExp(`(± ?)?(${NUMBER})`, 'g');

function inUnit(
  kind: Known,
  units: Units,
): { unit: string; of: (value: number, isDifference: boolean) => number } {
  if (kind === 'kW') return units.power;
  if (kind === 'N·m') return units.torque;
  if (kind === 'hPa') return units.pressure;
  const { unit, of, ofDifference } = units.temperature;
  return { unit, of: (value, isDifference) => (isDifference ? ofDifference(value) : of(value)) };
}
/** How many more decimals a number needs in a unit that is so much larger than the one it was written in. */
const FINER: Readonly<Record<string, number>> = { kPa: 1, inHg: 1, psi: 2 };

/**
 * A text with its powers, torques, temperatures and pressures in the reader's units; what is in them already, and every
 * other number, stays as it is. A number keeps its decimals, or gets those its new unit needs.
 */
export function retold(text: string, units: Units): string {
  return text.replace(MEASURE, (whole, numbers: string, blank: string, kind: Known, at: number) => {
    // What a fitment is called by holds its power (“Oriel Tern 1.8 estate, 103 kW”): a name is told as it is.
    if (kind === 'kW' && text.slice(0, at).endsWith(', ')) return whole;
    const { unit, of } = inUnit(kind, units);
    if (unit === kind) return whole;
    const told = numbers.replace(ONE, (_all, plusMinus: string | undefined, digits: string) => {
      const value = Number(digits.replace(/[\u202f ]/g, '').replace('−', '-'));
      const decimals = (/\.(\d+)/.exec(digits)?.[1].length ?? 0) + (FINER[unit] ?? 0);
      const sign = digits.startsWith('+') ? '+' : '';
      return `${plusMinus ?? ''}${sign}${number(of(value, plusMinus !== undefined), decimals)}`;
    });
    return `${told}${blank}${unit}`;
  });
}
/** Tells texts in the reader's units. */
export function useRetold(): (text: string) => string {
  const units = useUnits();
  return (text) => retold(text, units);
}
