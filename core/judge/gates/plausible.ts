/**
 * Is each pull what it is held to be? Copies, pulls that are read in different units, files that say otherwise of
 * themselves, and pressures that the site cannot have. Each is a finding; it fails where it would change a claim.
 */
import { found, type Found } from '../finding.ts';
import { copies } from './copies.ts';
import type { HeldPull, NamedArm } from './held-pull.ts';
import { units } from './one-unit.ts';
import { days } from './recorded-days.ts';
import { saysOfArm, saysOfCorrection, saysOfPull } from './says-of-itself.ts';
import { pressures } from './site-pressure.ts';

/** Everything that is not as it is held to be; a single pass where nothing was found. */
export function plausibleGate(pulls: readonly HeldPull[], arms: readonly NamedArm[]): Found[] {
  const all = [
    ...copies(pulls),
    ...units(pulls),
    ...pulls.flatMap((pull) => [
      ...saysOfCorrection(pull),
      ...saysOfArm(pull, arms),
      ...saysOfPull(pull, pulls),
    ]),
    ...days(pulls),
    ...pressures(pulls),
  ];
  return all.length > 0 ? all : [found('plausible', 'pass', 'PULLS_AS_HELD')];
}
