import { useAddress } from './address.ts';

export const GAIN_UNITS = ['%', 'power', 'torque'] as const;
export type GainUnit = (typeof GAIN_UNITS)[number];
const KEY = 'evidentia-gain-in';
const known = (text: string | null): GainUnit | undefined => GAIN_UNITS.find((unit) => unit === text);
const kept = (): GainUnit | undefined => {
  try {
    return known(localStorage.getItem(KEY));
  } catch {
    return undefined;
  }
};

/** Whether gains are read in per cent or as power or torque: in the address, else as it was last chosen on this device. */
export function useGainUnit(): [GainUnit, (unit: GainUnit) => void] {
  const [params, change] = useAddress();
  const choose = (unit: GainUnit): void => {
    try {
      localStorage.setItem(KEY, unit);
    } catch {
      // Without storage the address alone holds it.
    }
    change((now) => now.set('in', unit));
  };
  return [known(params.get('in')) ?? kept() ?? '%', choose];
}
