import { sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { isEmbargoed } from '../../core/register/embargo.ts';
import type { Queryable } from '../base/db.ts';
import { parts } from './tables.ts';

/** Day in UTC, as dates are kept. */
export const today = (now: Date): string => now.toISOString().slice(0, 10);

type PartRow = typeof parts.$inferSelect;
/** Whether this person reads the code name. */
export const isWithheld = (
  part: Pick<PartRow, 'embargoUntil'>,
  person: Person | undefined,
  now: Date,
): boolean => !person?.clearance && isEmbargoed(part.embargoUntil, now);

/** The drive of a part under embargo tells which it is. */
export const NO_DRIVE = { driveCrankMm: null, driveHeadMm: null, driveStepUp: null, mostDriveRpm: null };

/** A part as this person may read it: under embargo nothing is left that would tell which one it is. */
export function partShown<P extends Pick<PartRow, 'name' | 'sku' | 'maker' | 'embargoUntil' | 'codeName'>>(
  part: P,
  person: Person | undefined,
  now: Date,
): P {
  if (!isWithheld(part, person, now)) return part;
  const codeName = part.codeName ?? 'withheld part';
  return {
    ...part,
    name: codeName,
    sku: codeName,
    maker: 'withheld',
    ...('note' in part ? { note: '' } : {}),
    ...('priceCents' in part ? { priceCents: null } : {}),
    ...('launchDate' in part ? { launchDate: null } : {}),
    ...('legal' in part ? { legal: [] } : {}),
  };
}

/** SQL for the name a person reads, so that searching and sorting give nothing away either. */
export const shownName = (person: Person, now: Date) =>
  person.clearance
    ? sql<string>`${parts.name}`
    : sql<string>`case when ${parts.embargoUntil} > ${today(now)} then ${parts.codeName} else ${parts.name} end`;
export const shownFoundBy = (person: Person, now: Date) =>
  person.clearance
    ? sql<string>`${parts.foundBy}`
    : sql<string>`case when ${parts.embargoUntil} > ${today(now)} then lower(' ' || ${parts.codeName} || ' ') else ${parts.foundBy} end`;

/** Revisions that the arms of a test are about or put on the car. */
export const revisionsInArms = sql`(select a.test_id, a.part_revision_id as revision_id from test_arms a
  where a.part_revision_id is not null union select a.test_id, (c ->> 'partRevisionId')::uuid
  from test_arms a, jsonb_array_elements(a.changes) c where c ->> 'kind' = 'part fitted')`;

/** Whether a test has an embargoed part in any arm: its raw bytes may name it and cannot be masked. */
export async function testIsEmbargoed(db: Queryable, testId: string, now: Date): Promise<boolean> {
  const { rows } = await db.execute<{ hidden: boolean }>(sql`select exists (
    select 1 from ${revisionsInArms} a join part_revisions r on r.id = a.revision_id join parts p on p.id = r.part_id
      where a.test_id = ${testId} and p.embargo_until > ${today(now)}) as hidden`);
  return rows[0]?.hidden ?? false;
}
