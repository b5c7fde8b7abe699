import type { TestDefinition } from '../../capture/test-definition.ts';
import { found, type Found } from '../finding.ts';

const gate = 'control vehicle' as const;

/**
 * The dyno’s own control vehicle, where the check before or after the session was out of its limits, or where something
 * of its chart was set aside beside it: whoever reviews the claim reads why.
 */
export const controlVehicleGate = ({
  control,
  setAside = [],
}: Pick<TestDefinition, 'control' | 'setAside'>): Found[] => [
  ...(control ? [found(gate, 'fail', 'CONTROL_OUT_OF_LIMITS', control)] : []),
  ...(setAside.length > 0 ? [found(gate, 'caution', 'CONTROL_SET_ASIDE', setAside)] : []),
];
