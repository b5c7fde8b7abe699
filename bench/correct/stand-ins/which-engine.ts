import type { BenchCommand } from '../../../contract/capture/device-protocol.ts';
import type { EngineKind } from '../../../core/capture/simulated/engines.ts';

/** The invented engine that is most like the one on the rollers. */
export function engineLike({
  ignition,
  aspiration,
  ratedPowerKw,
}: Extract<BenchCommand, { type: 'car' }>): EngineKind {
  if (ignition === 'compression') return 'diesel4';
  if (aspiration.startsWith('turbo')) return ratedPowerKw < 130 ? 'turbo3' : 'turbo5';
  if (ratedPowerKw < 150) return 'na4';
  return ratedPowerKw < 230 ? 'v6' : 'v8';
}
