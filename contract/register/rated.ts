import type { z } from 'zod';
import { grouped } from '../../core/base/grouped.ts';
import { ratedDoubt } from '../../core/register/rated.ts';

interface Rated {
  readonly ratedPowerKw: number;
  readonly ratedTorqueNm: number;
  readonly ignition: 'spark' | 'compression';
}
/** Refuses a rated power and torque that no engine of the kind could have together, typed or imported. */
export function ratedAgree(
  { ratedPowerKw: kW, ratedTorqueNm: Nm, ignition }: Rated,
  context: z.RefinementCtx,
): void {
  const doubt = ratedDoubt(kW, Nm, ignition);
  if (!doubt) return;
  const rpm = grouped(Math.round(doubt.rpm));
  const what =
    doubt.side === 'high'
      ? `${kW} kW from ${Nm} N·m would take ${rpm} rpm`
      : `With ${Nm} N·m, ${kW} kW is reached at ${rpm} rpm already`;
  context.addIssue({
    code: 'custom',
    path: ['ratedTorqueNm'],
    message: `${what}: one of the two is in another unit, or mistyped.`,
  });
}
