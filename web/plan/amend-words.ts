export const FIELD_NAMES: Record<string, string> = {
  question: 'question',
  gear: 'gear',
  fuel: 'fuel',
  metrics: 'metrics',
  band: 'window',
  standard: 'standard',
  controls: 'controls',
  coolDownMinutes: 'cool-down',
  addedRun: 'runs',
  photographs: 'photographs',
  logs: 'logs',
};

export type Field_ =
  'coolDownMinutes' | 'gear' | 'fuel' | 'question' | 'metrics' | 'band' | 'standard' | 'addedRun';

export const DECISIVE: readonly Field_[] = ['question', 'metrics', 'band', 'standard'];
