/** What the parts of an arm cost and take to fit, as the register has it now. */
import { eq, inArray } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { armCost, type ArmCost } from '../../core/compare/value.ts';
import { driveOf, settingsOf, type DriveOf } from '../../core/plan/drive-speed.ts';
import type { LedgerChange } from '../../core/register/ledger.ts';
import type { Queryable } from '../base/db.ts';
import { isWithheld } from '../register/embargo.ts';
import { partRevisions, parts } from '../register/tables.ts';

interface ArmChanges {
  readonly key: string;
  readonly role: string;
  readonly changes: readonly LedgerChange[];
}
/** Of the last driven thing an arm fits: how fast its head turns for the engine, and the most it may. */
export async function armDrives(
  db: Queryable,
  arms: readonly ArmChanges[],
  person: Person,
  now: Date,
): Promise<Map<string, DriveOf>> {
  const ids = [...new Set(arms.flatMap(fitted))];
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ revision: partRevisions, part: parts })
    .from(partRevisions)
    .innerJoin(parts, eq(parts.id, partRevisions.partId))
    .where(inArray(partRevisions.id, ids));
  return new Map(
    arms.flatMap((arm) => {
      const driven = fitted(arm).flatMap((id) => {
        const row = rows.find(({ revision }) => revision.id === id);
        if (!row || isWithheld(row.part, person, now)) return [];
        return driveOf(row.revision, settingsOf(arm.changes, id)) ?? [];
      });
      const last = driven.at(-1);
      return last ? [[arm.key, last] as const] : [];
    }),
  );
}

const fitted = ({ changes }: ArmChanges): string[] =>
  changes.flatMap((c) => (c.kind === 'part fitted' ? [c.partRevisionId] : []));

/** By arm; an arm that fits nothing of its own has none, and neither has one with a part the person may not know. */
export async function armCosts(
  db: Queryable,
  arms: readonly ArmChanges[],
  person: Person,
  now: Date,
): Promise<Map<string, ArmCost>> {
  const shared = new Set(arms.filter((a) => a.role === 'baseline').flatMap(fitted));
  const ids = [...new Set(arms.flatMap(fitted))].filter((id) => !shared.has(id));
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ id: partRevisions.id, installHours: partRevisions.installHours, part: parts })
    .from(partRevisions)
    .innerJoin(parts, eq(parts.id, partRevisions.partId))
    .where(inArray(partRevisions.id, ids));
  const known = new Map(rows.map((row) => [row.id, row]));
  return new Map(
    arms.flatMap((arm) => {
      const own = fitted(arm).flatMap((id) => known.get(id) ?? []);
      if (arm.role === 'baseline' || own.some(({ part }) => isWithheld(part, person, now))) return [];
      const cost = armCost(
        own.map(({ installHours, part: { priceCents, currency } }) => ({
          installHours,
          priceCents,
          currency,
        })),
        arm.changes.some((c) => c.kind === 'calibration' && c.calibrationId !== null),
      );
      return cost ? [[arm.key, cost] as const] : [];
    }),
  );
}
