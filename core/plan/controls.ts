/** What is held equal between the arms, and what is wanted beside the pulls. */

export interface Control {
  readonly quantity: string;
  readonly target: number | null;
  readonly tolerance: number;
  readonly unit: string;
}

/** Start values and tolerances of the gates (docs/method.md); the plan may tighten them. */
export const USUAL_CONTROLS: readonly Control[] = [
  { quantity: 'coolant at start', target: 88, tolerance: 4, unit: '°C' },
  { quantity: 'intake air at start', target: null, tolerance: 3, unit: '°C' },
  { quantity: 'oil at start', target: 95, tolerance: 5, unit: '°C' },
  { quantity: 'tyre pressure', target: 2.4, tolerance: 0.1, unit: 'bar' },
];
export const PHOTOGRAPHS = [
  'strapping',
  'part fitted',
  'stock part',
  'engine bay',
  'tyres',
  'air station',
] as const;
export const LOGS = [
  'lambda',
  'ignition advance',
  'knock retard',
  'boost pressure',
  'intake air temperature',
  'mass air flow',
  'fuel flow',
  'throttle',
] as const;
