import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** How a person wants to read: units and theme. Kept in the browser; values are stored in SI. */
export interface Preferences {
  power: 'kW' | 'hp' | 'PS';
  torque: 'N·m' | 'lb·ft';
  temperature: '°C' | '°F';
  pressure: 'hPa' | 'kPa' | 'inHg';
  theme: 'paper' | 'cell';
  /** Whether a single key does something where nothing is typed (WCAG 2.1.4). */ keys: 'on' | 'off';
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
  power: ['kW', 'hp', 'PS'],
  torque: ['N·m', 'lb·ft'],
  temperature: ['°C', '°F'],
  pressure: ['hPa', 'kPa', 'inHg'],
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
