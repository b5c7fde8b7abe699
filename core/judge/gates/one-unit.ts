/**
 * Is torque read alike in every pull? Another unit in the header of one arm's files is a gain of 36 % that nothing in
 * any single file contradicts; torque of one arm against power of the other may be two bases.
 */
import type { PullFile } from '../../capture/pull-file-types.ts';
import { found, type Found } from '../finding.ts';
import type { HeldPull } from './held-pull.ts';

const QUANTITY = { torque: 'torque', power: 'power', 'roller force': 'rollerForce' } as const;

/** “torque in N·m”: what the curve of a pull is read from. */
function readFrom(file: PullFile): string {
  const column = file.columns.find((c) => c.quantity === QUANTITY[file.torqueFrom]);
  return `${file.torqueFrom} in ${column?.unit ?? 'no unit'}`;
}

export function units(pulls: readonly HeldPull[]): Found[] {
  const ways = new Map<string, HeldPull[]>();
  for (const pull of pulls) {
    const way = readFrom(pull.file);
    ways.set(way, [...(ways.get(way) ?? []), pull]);
  }
  if (ways.size < 2) return [];
  const arms = new Set(pulls.map((pull) => pull.arm));
  // Where every arm has pulls of each kind, a wrong unit would show as scatter; where it has not, as a gain.
  const alike = [...ways.values()].every((list) => new Set(list.map((pull) => pull.arm)).size === arms.size);
  const told = [...ways].map(([way, list]) => ({ way, ids: list.map((pull) => pull.id) }));
  return [found('plausible', alike ? 'caution' : 'fail', 'READ_FROM_DIFFERENT', told)];
}
