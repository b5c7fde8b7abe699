export const FIELD_NAMES: Record<string, string> = {
  question: 'question',
  gear: 'gear',
  fuel: 'fuel',
  metrics: 'metrics',
  band: 'rpm range',
  standard: 'standard',
  controls: 'controls',
  coolDownMinutes: 'cool-down',
  addedRun: 'runs',
  photographs: 'photographs',
  logs: 'logs',
  fitmentId: 'fitment',
  vehicleId: 'vehicle',
  dynoId: 'dyno',
  partnerId: 'assigned to',
  protocol: 'protocol',
  arms: 'arms',
  order: 'run order',
  pullsPerRun: 'pulls a run',
  warmUps: 'warm-ups',
  remount: 'strapped down anew',
  notBefore: 'not before',
  due: 'due',
  priority: 'priority',
};

export type Field_ =
  'coolDownMinutes' | 'gear' | 'fuel' | 'question' | 'metrics' | 'band' | 'standard' | 'addedRun';

export const DECISIVE: readonly Field_[] = ['question', 'metrics', 'band', 'standard'];
