/**
 * Whether the engine was in danger while it was measured: a lean mixture or knock. Nothing is published of such a test
 * until a person has answered for it. Limits are common practice on petrol.
 */
import type { Engine } from '../../base/standards.ts';
import type { LoggedPull } from '../../compare/arm-logs.ts';
import { KNOCK_DEG, safeLambda } from '../../correct/engine-limits.ts';
import { found, type Found } from '../finding.ts';

const gate = 'safe mixture' as const;

export interface Extreme {
  readonly id: string;
  readonly value: number;
  readonly rpm: number;
}

/** A diesel has no such limit: what harms it is not told by λ. */
export function safeMixtureGate(
  pulls: readonly LoggedPull[],
  grid: readonly number[],
  engine: Engine,
): Found[] {
  if (engine.ignition !== 'spark') return [];
  const limit = safeLambda(engine);
  const mixtures = largest(pulls, grid, 'lambda');
  const lean = mixtures.filter((p) => p.value > limit);
  const retards = largest(pulls, grid, 'knockRetard');
  const knock = retards.filter((p) => p.value > KNOCK_DEG);
  return [
    ...(lean.length > 0 ? [found(gate, 'fail', 'LEAN_MIXTURE', lean, limit)] : []),
    ...(knock.length > 0 ? [found(gate, 'fail', 'KNOCK_SEEN', knock)] : []),
    ...(lean.length === 0 && mixtures.length < pulls.length
      ? [found(gate, 'caution', 'MIXTURE_NOT_LOGGED', pulls.length - mixtures.length)]
      : []),
    ...(lean.length + knock.length === 0 && mixtures.length === pulls.length && pulls.length > 0
      ? [
          found(
            gate,
            'pass',
            'MIXTURE_SAFE',
            Math.max(...mixtures.map((p) => p.value)),
            limit,
            retards.length === pulls.length,
          ),
        ]
      : []),
  ];
}

function largest(
  pulls: readonly LoggedPull[],
  grid: readonly number[],
  channel: 'lambda' | 'knockRetard',
): Extreme[] {
  return pulls.flatMap(({ id, curves }) => {
    let most = -1;
    const values = curves[channel];
    values?.forEach((v, j) => {
      if (v !== null && (most < 0 || v > values[most]!)) most = j;
    });
    return most < 0 ? [] : [{ id, value: values![most]!, rpm: grid[most] }];
  });
}
