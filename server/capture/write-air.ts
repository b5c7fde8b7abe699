import { and, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { tests } from '../plan/tables.ts';
import type { InputsChanged } from './service.ts';
import { airReadings } from './tables.ts';

export type NewReading = Omit<
  typeof airReadings.$inferInsert,
  'id' | 'pullId' | 'enteredAt' | 'enteredBy' | 'current'
>;

/**
 * Writes the air reading of a pull; a former one stays, no longer current, and what rests on it is told. In the
 * transaction of the caller, who holds the test’s lock.
 */
export async function writeAir(
  tx: Queryable,
  { now, newId }: Pick<Needs, 'now' | 'newId'>,
  inputsChanged: InputsChanged,
  person: Person,
  pull: { readonly id: string; readonly testId: string; readonly label: string },
  reading: NewReading,
): Promise<void> {
  const [former] = await tx
    .update(airReadings)
    .set({ current: false })
    .where(and(eq(airReadings.pullId, pull.id), eq(airReadings.current, true)))
    .returning();
  await tx
    .insert(airReadings)
    .values({ ...reading, id: newId(), pullId: pull.id, enteredAt: now(), enteredBy: person.id });
  await recordAudit(
    tx,
    now(),
    person,
    former ? 'corrected air reading' : 'entered air reading',
    'test',
    pull.testId,
    { pull: pull.label, ...reading },
  );
  await tx.update(tests).set({ updatedAt: now() }).where(eq(tests.id, pull.testId));
  if (former)
    await inputsChanged(tx, pull.testId, person, `the air reading of pull ${pull.label} was corrected`);
}
