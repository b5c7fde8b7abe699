import { eq, inArray } from 'drizzle-orm';
import {
  type LedgerChange,
  type LedgerEntry,
  type Names,
  type StockSpecification,
} from '../../core/register/ledger.ts';
import { partName } from '../../core/register/parts.ts';
import { partReference } from '../../core/register/references.ts';
import type { Queryable } from '../base/db.ts';
import { calibrations, fitments, partRevisions, parts, vehicleLedger } from './tables.ts';

type LedgerRow = typeof vehicleLedger.$inferSelect;

export const entryOf = (row: LedgerRow): LedgerEntry => ({
  id: row.id,
  at: row.at.toISOString(),
  enteredAt: row.enteredAt.toISOString(),
  odometerKm: row.odometerKm,
  supersedes: row.supersedes,
  change: row.change,
});

export const stockOf = (fitment: typeof fitments.$inferSelect): StockSpecification => ({
  tyres: fitment.stockTyres,
  fuel: fitment.fuel,
});

/** Words for the parts and calibrations that some changes name; parts by reference, so that each reader is given the name they may know. */
export async function namesFor(db: Queryable, changes: readonly (LedgerChange | null)[]): Promise<Names> {
  const revisionIds = [
    ...new Set(changes.flatMap((c) => (c?.kind === 'part fitted' ? [c.partRevisionId] : []))),
  ];
  const calibrationIds = [
    ...new Set(
      changes.flatMap((c) => (c?.kind === 'calibration' && c.calibrationId ? [c.calibrationId] : [])),
    ),
  ];
  const revisions = revisionIds.length
    ? await db
        .select({ revision: partRevisions, part: parts })
        .from(partRevisions)
        .innerJoin(parts, eq(parts.id, partRevisions.partId))
        .where(inArray(partRevisions.id, revisionIds))
    : [];
  const tunes = calibrationIds.length
    ? await db.select().from(calibrations).where(inArray(calibrations.id, calibrationIds))
    : [];
  const byRevision = new Map(
    revisions.map(({ revision, part }) => [
      revision.id,
      { name: partReference(part.id), revision: revision.revision },
    ]),
  );
  const byCalibration = new Map(tunes.map((c) => [c.id, `${c.name}, revision ${c.revision}`]));
  return {
    part: (id, settings) => {
      const known = byRevision.get(id);
      return known ? partName(known, settings) : 'a part that is not in the register';
    },
    calibration: (id) => byCalibration.get(id) ?? 'a calibration that is not in the register',
  };
}

export function changeText(change: LedgerChange | null, names: Names): string {
  switch (change?.kind) {
    case 'part fitted':
      return `${names.part(change.partRevisionId, change.settings)} fitted`;
    case 'option set':
      return `${change.category}: ${Object.entries(change.settings)
        .map(([k, v]) => `${k} ${v}`)
        .join(', ')}`;
    case 'returned to stock':
      return `${change.category} back to stock`;
    case 'calibration':
      return change.calibrationId
        ? `Calibration ${names.calibration(change.calibrationId)}`
        : 'Stock calibration';
    case 'tyres':
      return `Tyres ${change.text}`;
    case 'fuel':
      return `Fuel ${change.text}`;
    case 'service':
      return `Service: ${change.item} renewed`;
    case 'other change':
      return change.text;
    case 'other change undone':
      return `Undone: ${change.text}`;
    case undefined:
      return 'Entry taken back';
  }
}
