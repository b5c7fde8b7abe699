import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { UnitsChoice } from '../../contract/base/choices.ts';
import { UNITS } from '../../contract/base/units-choice.ts';

/** How a person wants to read. Units are kept with the account, the light with the device; values are stored in SI. */
export interface Preferences extends UnitsChoice {
  theme: 'paper' | 'cell';
}
const STANDARD: Preferences = {
  power: 'kW',
  torque: 'N·m',
  temperature: '°C',
  pressure: 'hPa',
  theme: 'paper',
  keys: 'on',
};
const KEY = 'evidentia-preferences';

export const CHOICES = {
  ...UNITS,
  theme: ['paper', 'cell'],
  keys: ['on', 'off'],
} as const satisfies { [K in keyof Preferences]: readonly Preferences[K][] };

function kept(): Preferences {
  try {
    const read = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, unknown>;
    const known = Object.entries(read).filter(
      ([key, value]) =>
        key in CHOICES && (CHOICES[key as keyof Preferences] as readonly unknown[]).includes(value),
    );
    return { ...STANDARD, ...Object.fromEntries(known) };
  } catch {
    return STANDARD;
  }
}

export const preferences = createSlice({
  name: 'preferences',
  initialState: kept,
  reducers: {
    preferred: (state, { payload }: PayloadAction<Partial<Preferences>>) => ({ ...state, ...payload }),
  },
});
export const { preferred } = preferences.actions;
export const keepPreferences = (state: Preferences): void => {
  localStorage.setItem(KEY, JSON.stringify(state));
};
/** What of it belongs to the account. */
export const unitsOf = ({ theme: _device, ...units }: Preferences): UnitsChoice => units;
