/** Writing into a vehicle’s ledger, for whoever knows what was done: its own page, or the bench. */
import { eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { LedgerRequest } from '../../contract/register/register.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { notFound, RefusalError } from '../base/refusals.ts';
import { changeIsKnown, entryFits } from './ledger-checks.ts';
import { changeText, namesFor } from './ledger-names.ts';
import { vehicleLedger, vehicles } from './tables.ts';

/** @param request with its texts kept already */
export async function writeLedger(
  tx: Queryable,
  { now, newId }: Pick<Needs, 'now' | 'newId'>,
  person: Person,
  vehicleId: string,
  request: LedgerRequest,
): Promise<void> {
  const { change, note, odometerKm, supersedes } = request;
  const [vehicle] = await tx.select().from(vehicles).where(eq(vehicles.id, vehicleId)).for('update');
  if (!vehicle) throw notFound('vehicle');
  const at = new Date(request.at);
  if (at.getTime() > now().getTime() + 60_000)
    throw new RefusalError(
      422,
      'IN_THE_FUTURE',
      'The entry lies in the future.',
      'Write down what was done, when it was done; what is planned belongs into a plan.',
      { path: 'at' },
    );
  await changeIsKnown(tx, change);
  const entries = await tx.select().from(vehicleLedger).where(eq(vehicleLedger.vehicleId, vehicleId));
  entryFits(entries, request, at);
  await tx.insert(vehicleLedger).values({
    id: newId(),
    vehicleId,
    at,
    odometerKm,
    change,
    note,
    supersedes,
    enteredAt: now(),
    enteredBy: person.id,
  });
  if (odometerKm !== null && odometerKm > vehicle.odometerKm)
    await tx.update(vehicles).set({ odometerKm }).where(eq(vehicles.id, vehicleId));
  await recordAudit(
    tx,
    now(),
    person,
    supersedes ? 'put ledger entry right' : 'wrote ledger entry',
    'vehicle',
    vehicleId,
    {
      tag: vehicle.tag,
      entry: changeText(change, await namesFor(tx, [change])),
      at: at.toISOString(),
      ...(note ? { note } : {}),
    },
  );
}
