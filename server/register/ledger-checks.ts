/** What an entry of a vehicle's ledger must be before it is written. */
import { eq } from 'drizzle-orm';
import type { LedgerRequest } from '../../contract/register/register.ts';
import type { LedgerChange } from '../../core/register/ledger.ts';
import type { Queryable } from '../base/db.ts';
import { conflict, notFound, RefusalError } from '../base/refusals.ts';
import { calibrations, partRevisions, parts, type vehicleLedger } from './tables.ts';

type Fitted = Extract<LedgerChange, { kind: 'part fitted' }>;

/** The part is in the register, goes where the entry says, and has the settings it names. */
async function settingIsKnown(tx: Queryable, change: Fitted): Promise<void> {
  const [known] = await tx
    .select({ category: parts.category, options: partRevisions.options })
    .from(partRevisions)
    .innerJoin(parts, eq(parts.id, partRevisions.partId))
    .where(eq(partRevisions.id, change.partRevisionId));
  if (!known)
    throw new RefusalError(
      422,
      'UNKNOWN_PART',
      'This part revision is not in the register.',
      'Choose one from the list.',
      { path: 'change.partRevisionId' },
    );
  if (known.category !== change.category)
    throw new RefusalError(
      422,
      'OTHER_PLACE',
      `This part is of category “${known.category}”.`,
      `Enter it under “${known.category}”.`,
      { path: 'change.category' },
    );
  for (const [name, setting] of Object.entries(change.settings))
    if (!known.options.find((o) => o.name === name)?.settings.includes(setting))
      throw new RefusalError(
        422,
        'UNKNOWN_SETTING',
        `The part has no setting “${name} ${setting}”.`,
        'Choose one of its settings.',
        { path: 'change.settings' },
      );
}

/** What the entry names is in the register. */
export async function changeIsKnown(tx: Queryable, change: LedgerChange | null): Promise<void> {
  if (change?.kind === 'part fitted') await settingIsKnown(tx, change);
  if (
    change?.kind === 'calibration' &&
    change.calibrationId &&
    (
      await tx
        .select({ id: calibrations.id })
        .from(calibrations)
        .where(eq(calibrations.id, change.calibrationId))
    ).length === 0
  )
    throw new RefusalError(
      422,
      'UNKNOWN_CALIBRATION',
      'This calibration is not in the register.',
      'Choose one from the list.',
      { path: 'change.calibrationId' },
    );
}

/** The entry puts right one that stands, and its kilometres lie between those around it. */
export function entryFits(
  entries: readonly (typeof vehicleLedger.$inferSelect)[],
  request: LedgerRequest,
  at: Date,
): void {
  if (request.supersedes) {
    const wrong = entries.find((e) => e.id === request.supersedes);
    if (!wrong) throw notFound('ledger entry');
    if (entries.some((e) => e.supersedes === wrong.id))
      throw conflict(
        'SUPERSEDED_ALREADY',
        'This entry has been put right already.',
        'Put right the entry that replaced it.',
      );
  }
  if (request.odometerKm !== null) {
    // Kilometres only grow: a reading below an earlier one, or above a later one, is a slip.
    const gone = new Set(entries.flatMap((e) => (e.supersedes ? [e.supersedes] : [])));
    if (request.supersedes) gone.add(request.supersedes);
    const standing = entries.filter((e) => e.odometerKm !== null && !gone.has(e.id));
    const before = Math.max(0, ...standing.filter((e) => e.at <= at).map((e) => e.odometerKm!));
    const after = Math.min(Infinity, ...standing.filter((e) => e.at > at).map((e) => e.odometerKm!));
    if (request.odometerKm < before || request.odometerKm > after)
      throw new RefusalError(
        422,
        'ODOMETER_RUNS_BACK',
        `${request.odometerKm} km does not lie between the readings around it (${before} and ${after === Infinity ? 'open' : after} km).`,
        'Check the reading, or put the other entry right first.',
        { path: 'odometerKm' },
      );
  }
}
