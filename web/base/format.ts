/** How numbers and times are written: true minus, thin space in thousands, always with what they are. */
import { useMemo } from 'react';
import type { UnitsChoice } from '../../contract/base/choices.ts';
import { DISPLAY_UNITS, PA_PER_INHG, PA_PER_PSI } from '../../core/base/units.ts';
import { useAppSelector } from './store.ts';

export const THIN = '\u202f';
export function number(value: number, digits = 1): string {
  const [whole, rest] = Math.abs(value).toFixed(digits).split('.') as [string, string?];
  const isZero = Number(value.toFixed(digits)) === 0;
  return `${value < 0 && !isZero ? '−' : ''}${whole.replace(/\B(?=(\d{3})+(?!\d))/g, THIN)}${rest ? `.${rest}` : ''}`;
}
/** With its sign, plus included: for gains. */
export const signed = (value: number, digits = 1): string =>
  Number(value.toFixed(digits)) > 0 ? `+${number(value, digits)}` : number(value, digits);
export const rpm = (value: number): string => `${number(value, 0)} rpm`;
export { day, dayTime } from './shown-dates.ts';
export const bytes = (size: number): string =>
  size < 1024
    ? `${size} B`
    : size < 1048576
      ? `${number(size / 1024, 0)} kB`
      : `${number(size / 1048576)} MB`;

const HPA_PER = { hPa: 1, kPa: 10, inHg: PA_PER_INHG / 100, psi: PA_PER_PSI / 100 } as const;
/** Conversions into chosen units. */
export function unitsFor({ power, torque, temperature, pressure }: Omit<UnitsChoice, 'keys'>) {
  const powerPerKw = 1000 * DISPLAY_UNITS.power[power];
  const torquePerNm = DISPLAY_UNITS.torque[torque];
  const hpaPer = HPA_PER[pressure];
  return {
    power: {
      unit: power,
      of: (kw: number): number => kw * powerPerKw,
      toKw: (shown: number): number => shown / powerPerKw,
    },
    torque: {
      unit: torque,
      of: (nm: number): number => nm * torquePerNm,
      toNm: (shown: number): number => shown / torquePerNm,
    },
    temperature: {
      unit: temperature,
      of: (c: number): number => (temperature === '°C' ? c : c * 1.8 + 32),
      /** A difference of temperatures. */
      ofDifference: (c: number): number => (temperature === '°C' ? c : c * 1.8),
      toC: (shown: number): number => (temperature === '°C' ? shown : (shown - 32) / 1.8),
    },
    pressure: {
      unit: pressure,
      of: (hpa: number): number => hpa / hpaPer,
      toHpa: (shown: number): number => shown * hpaPer,
      digits: { hPa: 1, kPa: 2, inHg: 2, psi: 3 }[pressure],
    },
  };
}
export type Units = ReturnType<typeof unitsFor>;
/** Conversions into the units the person chose. */
export function useUnits(): Units {
  const chosen = useAppSelector((state) => state.preferences);
  return useMemo(() => unitsFor(chosen), [chosen]);
}
