import type { NoisyEndSeen } from '../../contract/register/register.ts';

export interface Window {
  readonly fromRpm: number;
  readonly toRpm: number;
  readonly stepRpm: number;
}

/** The window with a noisy end left out, on its own grid; undefined where it is out already. */
export function without<W extends Window>(band: W, { side, rpm: at }: NoisyEndSeen): W | undefined {
  const steps = (at - band.fromRpm) / band.stepRpm;
  const edge = band.fromRpm + band.stepRpm * (side === 'low' ? Math.ceil(steps) : Math.floor(steps));
  if (edge <= band.fromRpm || edge >= band.toRpm) return undefined;
  return side === 'low' ? { ...band, fromRpm: edge } : { ...band, toRpm: edge };
}
