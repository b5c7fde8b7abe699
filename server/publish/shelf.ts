import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { SHELF_EVENTS, type Shelf, type ShelfItem } from '../../contract/publish/shelf.ts';
import { recordAudit } from '../base/audit.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound } from '../base/refusals.ts';
import { people } from '../base/tables.ts';
import { inQuestion } from './states.ts';
import { claimEvents, claims, takenOver } from './tables.ts';

/** Shown of each list. */
const MOST = { open: 500, done: 50 };

/** The newest thing that happened to each claim in the eyes of a shop. */
const newest = (db: Db) =>
  db
    .selectDistinctOn([claimEvents.claimId], {
      id: claimEvents.id,
      claimId: claimEvents.claimId,
      at: claimEvents.at,
      what: claimEvents.toState,
    })
    .from(claimEvents)
    .where(inArray(claimEvents.toState, [...SHELF_EVENTS]))
    .orderBy(claimEvents.claimId, desc(claimEvents.id))
    .as('newest');

const listed = (db: Db, event: ReturnType<typeof newest>) =>
  db
    .select({
      eventId: event.id,
      what: event.what,
      at: event.at,
      inQuestion: sql<boolean>`${claims.state} = 'published' and ${inQuestion}`,
      claim: claims.publicClaim,
      reason: claims.staleReason,
      by: people.name,
      doneAt: takenOver.at,
    })
    .from(event)
    .innerJoin(claims, eq(claims.id, event.claimId))
    .leftJoin(takenOver, eq(takenOver.eventId, event.id))
    .leftJoin(people, eq(people.id, takenOver.personId));

const itemOf = (row: Awaited<ReturnType<typeof listed>>[number]): ShelfItem => ({
  eventId: row.eventId,
  what: row.what as ShelfItem['what'],
  at: row.at.toISOString(),
  inQuestion: row.inQuestion,
  // What the public reads is kept as it was approved; where the claim stands now is told beside it.
  claim: {
    ...row.claim!,
    staleReason: row.reason,
    state: row.inQuestion ? 'in question' : row.what,
  },
  takenOver: row.by && row.doneAt ? { by: row.by, at: row.doneAt.toISOString() } : null,
});

export async function shelf(db: Db): Promise<Shelf> {
  const event = newest(db);
  const shown = isNotNull(claims.publicClaim);
  const [open, done] = await Promise.all([
    listed(db, event)
      .where(and(shown, isNull(takenOver.at)))
      .orderBy(asc(event.id))
      .limit(MOST.open),
    listed(db, event)
      .where(and(shown, isNotNull(takenOver.at)))
      // What stands on a shelf and has come into question is not lost among the rest.
      .orderBy(sql`${claims.state} = 'published' and ${inQuestion} desc`, desc(takenOver.at))
      .limit(MOST.done),
  ]);
  return { open: open.map(itemOf), done: done.map(itemOf) };
}

/** Marks that it has been taken over; once, by whoever did it first. */
export async function takeOver({ db, now }: Needs, person: Person, eventId: number): Promise<void> {
  await db.transaction(async (tx) => {
    const [event] = await tx
      .select({ id: claimEvents.id, claimId: claimEvents.claimId, what: claimEvents.toState })
      .from(claimEvents)
      .where(and(eq(claimEvents.id, eventId), inArray(claimEvents.toState, [...SHELF_EVENTS])));
    if (!event) throw notFound('event of a claim');
    const [later] = await tx
      .select({ what: claimEvents.toState })
      .from(claimEvents)
      .where(
        and(
          eq(claimEvents.claimId, event.claimId),
          inArray(claimEvents.toState, [...SHELF_EVENTS]),
          sql`${claimEvents.id} > ${event.id}`,
        ),
      )
      .orderBy(desc(claimEvents.id))
      .limit(1);
    if (later)
      throw conflict(
        'MOVED_ON',
        `The claim is ${later.what} since.`,
        'Reload and take over how it stands now.',
      );
    const made = await tx
      .insert(takenOver)
      .values({ eventId, personId: person.id, at: now() })
      .onConflictDoNothing()
      .returning({ eventId: takenOver.eventId });
    if (made.length > 0)
      await recordAudit(tx, now(), person, 'taken over', 'claim', event.claimId, { what: event.what });
  });
}
