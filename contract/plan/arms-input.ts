import type { ArmsInput, PlannedArm } from '../../core/plan/arm-types.ts';
import { partName, type PartRevision } from '../../core/register/parts.ts';
import type { Planning } from '../register/register.ts';

/** What the core needs to assess arms, from what the register says of a vehicle. Server and planner make the same. */
export function armsInput(planning: Planning, arms: readonly PlannedArm[], fuel: string): ArmsInput {
  const revisions = new Map<string, PartRevision>(planning.revisions.map((r) => [r.id, r]));
  const calibrations = new Map(
    planning.calibrations.map((c) => [
      c.id,
      {
        id: c.id,
        name: `${c.name}, revision ${c.revision}`,
        expectsPartRevisionIds: c.expectsPartRevisionIds,
        fuel: c.fuel,
      },
    ]),
  );
  return {
    arms,
    revisions,
    calibrations,
    at: planning.present.at,
    odometerKm: planning.present.odometerKm,
    // The plan's fuel is what the session runs on; an arm may name another.
    present: { ...planning.present.configuration, fuel: fuel || planning.present.configuration.fuel },
    stock: { tyres: planning.fitment.stockTyres, fuel: planning.fitment.fuel },
    fits: new Set(planning.revisions.flatMap((r) => (r.fits ? [r.partId] : []))),
    names: {
      part: (id, settings) => {
        const r = revisions.get(id);
        return r ? partName(r, settings) : 'a part that is not in the register';
      },
      calibration: (id) => calibrations.get(id)?.name ?? 'a calibration that is not in the register',
    },
  };
}
