/** Units a person may read in; values are stored in SI. Apart from its contract: pages that only read need no more. */
export const UNITS = {
  power: ['kW', 'hp', 'PS'],
  torque: ['N·m', 'lb·ft'],
  temperature: ['°C', '°F'],
  pressure: ['hPa', 'kPa', 'inHg', 'psi'],
} as const;
