import { and, asc, eq, gt, inArray, lt, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type {
  Booking,
  PlaceRequest,
  ScheduleShown,
  Suggestion,
  Waiting,
} from '../../contract/plan/schedule.ts';

import {
  blocksAt,
  nextPlace,
  placementProblems,
  suggestSchedule,
  type Placement,
  type PlacementProblem,
  type Span,
  type Unplaced,
} from '../../core/plan/schedule.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound, RefusalError } from '../base/refusals.ts';
import { dynos } from '../register/tables.ts';
import { findTest, titleOf, type TestRow } from './repository.ts';
import { frame, placedRows, planOf, pullsIn, standing, waitingRows, waitingTotal } from './schedule-frame.ts';
import { begunTests, bookingBlocks, bookings, closures, tests } from './tables.ts';

export type ScheduleService = ReturnType<typeof createScheduleService>;

const REFUSED: Record<PlacementProblem, [string, string]> = {
  OUTSIDE_OPENING: [
    'The session does not lie in the opening hours of the dyno.',
    'Move it into one opening, or change the opening hours or the closure.',
  ],
  DYNO_TAKEN: ['The dyno is taken by another session then.', 'Choose another time.'],
  VEHICLE_TAKEN: ['The vehicle is in another session then.', 'Choose another time.'],
  VEHICLE_NOT_THERE: [
    'The vehicle is not available then.',
    'Choose a day on which it is there, or change its dates in the register.',
  ],
};
const UNPLACED: Record<Unplaced, string> = {
  NO_DYNO: 'its dyno has no opening hours',
  LONGER_THAN_ANY_DAY:
    'it takes longer than any one day, and a session is not split over days, because the day ' +
    'is an error of its own; plan fewer pulls, have the part fitted quicker, or open longer',
  VEHICLE_NOT_THERE: 'the vehicle is not there while the dyno is open',
  NO_ROOM: 'no room is left in these days',
  NO_ROOM_BEFORE_DUE: 'no room is left before it is due',
};
const iso = (ms: number): string => new Date(ms).toISOString();
const isoSpan = (span: Span) => ({ start: iso(span.start), end: iso(span.end) });

/** How far ahead a place for one test is looked for, days. */
const FREE_DAYS = 62;
/** Waiting tests that a reading of the calendar carries, those due first; the suggestion considers all of them. */
const WAITING_SHOWN = 100;

/** Which of some tests have been begun. */
async function begunOf(db: Queryable, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db
    .select({ id: begunTests.testId })
    .from(begunTests)
    .where(inArray(begunTests.testId, [...ids]));
  return new Set(rows.map((row) => row.id));
}

function bookingShown(
  row: Awaited<ReturnType<typeof placedRows>>[number],
  blocks: readonly (typeof bookingBlocks.$inferSelect)[],
  begun: boolean,
): Booking {
  return {
    testId: row.test.id,
    number: row.test.number,
    title: titleOf(row),
    vehicleId: row.vehicle.id,
    vehicle: row.vehicle.tag,
    dynoId: row.booking.dynoId,
    start: row.booking.startsAt.toISOString(),
    end: row.booking.endsAt.toISOString(),
    blocks: blocks
      .filter((b) => b.testId === row.test.id)
      .map((b) => ({ start: b.startsAt.toISOString(), end: b.endsAt.toISOString() })),
    pulls: pullsIn(planOf(row)),
    placedBy: row.booking.placedBy,
    locked: row.test.lockedAt !== null,
    begun,
  };
}

function waitingShown(row: TestRow): Waiting {
  const plan = planOf(row);
  const dynoMinutes = plan.blocks.reduce((sum, b) => sum + b.minutes, 0);
  return {
    testId: row.test.id,
    number: row.test.number,
    title: titleOf(row),
    vehicle: row.vehicle.tag,
    vehicleId: row.vehicle.id,
    dynoId: row.test.dynoId,
    dynoMinutes,
    minutes: dynoMinutes + plan.gapMinutes.reduce((sum, g) => sum + g, 0),
    pulls: pullsIn(plan),
    priority: row.test.priority,
    notBefore: row.test.notBefore,
    due: row.test.due,
    locked: row.test.lockedAt !== null,
  };
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createScheduleService({ db, now, newId }: Needs) {
  /** Where a test would fit next, from a moment on and never in the past. */
  async function nextFree(tx: Queryable, row: TestRow, from: number): Promise<string | null> {
    const begin = Math.max(from, now().getTime());
    const { openings, whenThere } = await frame(tx, begin, FREE_DAYS);
    const fixed = await standing(tx, begin - 86_400_000);
    const found = nextPlace(planOf(row), { openings, whenThere, fixed, from: begin });
    return found ? iso(found.start) : null;
  }

  // eslint-disable-next-line max-lines-per-function -- one transaction, in the order its locks are taken
  async function place(
    tx: Queryable,
    person: Person,
    { testId, dynoId, start, placedBy }: PlaceRequest,
  ): Promise<void> {
    await tx.execute(sql`select 1 from tests where id = ${testId} for update`);
    const row = await findTest(tx, testId, person);
    if (row.test.dynoId !== dynoId)
      throw conflict(
        'OTHER_DYNO',
        'The plan is made for another dyno.',
        row.test.lockedAt
          ? 'A locked plan keeps its dyno; plan a new test for the other one.'
          : 'Change the dyno in the plan first: hours, scatter and what can be detected depend on it.',
      );
    if (
      (
        await tx.execute(
          sql`select 1 from pull_files f join pulls p on p.id = f.pull_id where p.test_id = ${testId} limit 1`,
        )
      ).rows.length > 0
    )
      throw conflict(
        'SESSION_BEGUN',
        'The session has begun: it stands where it was run.',
        'Nothing needs to be moved.',
      );
    const plan = planOf(row);
    const at = Date.parse(start);
    const blocks = blocksAt(plan, at);
    const placement: Placement = {
      planId: testId,
      dynoId,
      vehicleId: row.test.vehicleId,
      start: at,
      end: blocks.at(-1)!.end,
      blocks,
    };
    const around = await frame(tx, at - 86_400_000, 3);
    const fixed = await standing(tx, at - 86_400_000);
    const [problem] = placementProblems(placement, {
      openings: around.openings,
      whenThere: around.whenThere,
      fixed,
    });
    if (problem) {
      const free = await nextFree(tx, row, at);
      throw conflict(
        problem,
        REFUSED[problem][0],
        REFUSED[problem][1],
        free === null ? {} : { wouldFit: free },
      );
    }
    await tx.delete(bookings).where(eq(bookings.testId, testId));
    await tx.insert(bookings).values({
      testId,
      vehicleId: row.test.vehicleId,
      dynoId,
      startsAt: new Date(at),
      endsAt: new Date(placement.end),
      placedBy: placedBy ?? 'person',
      personId: person.id,
      placedAt: now(),
    });
    await tx.insert(bookingBlocks).values(
      blocks.map((block, i) => ({
        testId,
        block: i + 1,
        dynoId,
        startsAt: new Date(block.start),
        endsAt: new Date(block.end),
      })),
    );
    await recordAudit(tx, now(), person, 'placed session', 'test', testId, {
      start: iso(at),
      placedBy: placedBy ?? 'person',
    });
  }

  return {
    async read(fromDate: string, days: number): Promise<ScheduleShown> {
      const from = Date.parse(`${fromDate}T00:00:00Z`) - 14 * 3_600_000;
      const to = from + (days + 1) * 86_400_000 + 12 * 3_600_000;
      const around = await frame(db, Date.parse(`${fromDate}T12:00:00Z`), days);
      const rows = await placedRows(
        db,
        undefined,
        and(lt(bookings.startsAt, new Date(to)), gt(bookings.endsAt, new Date(from))),
      );
      const blocks = rows.length
        ? await db
            .select()
            .from(bookingBlocks)
            .where(
              inArray(
                bookingBlocks.testId,
                rows.map((r) => r.test.id),
              ),
            )
            .orderBy(asc(bookingBlocks.block))
        : [];
      const begun = await begunOf(
        db,
        rows.map((row) => row.test.id),
      );
      return {
        from: iso(from),
        to: iso(to),
        dynos: around.dynos.map((d) => ({
          id: d.id,
          name: d.name,
          timeZone: d.timeZone,
          openings: around.openings.get(d.id)!.map(isoSpan),
        })),
        bookings: rows.map((row) => bookingShown(row, blocks, begun.has(row.test.id))),
        waiting: (await waitingRows(db, WAITING_SHOWN)).map(waitingShown),
        waitingTotal: await waitingTotal(db),
        closures: around.closures.map((c) => ({
          id: c.id,
          dynoId: c.dynoId,
          start: c.startsAt.toISOString(),
          end: c.endsAt.toISOString(),
          reason: c.reason,
        })),
      };
    },

    /** Where one test would fit next. */
    async free(person: Person, testId: string, from: string): Promise<{ start: string | null }> {
      return { start: await nextFree(db, await findTest(db, testId, person), Date.parse(from)) };
    },
    /** Where the waiting tests could go; nothing is placed by asking. */
    async suggest(from: string, days: number): Promise<Suggestion> {
      const begin = Math.max(Date.parse(from), now().getTime());
      const rows = await waitingRows(db);
      const around = await frame(db, begin, days);
      const plans = rows.map(planOf);
      const schedule = suggestSchedule({
        plans,
        openings: around.openings,
        whenThere: around.whenThere,
        fixed: await standing(db, begin - 86_400_000),
        from: begin,
      });
      const byId = new Map(rows.map((row) => [row.test.id, row]));
      const planById = new Map(plans.map((plan) => [plan.id, plan]));
      return {
        placements: schedule.placements.map((p) => {
          const row = byId.get(p.planId)!;
          return {
            testId: p.planId,
            number: row.test.number,
            title: titleOf(row),
            vehicle: row.vehicle.tag,
            dynoId: p.dynoId,
            dyno: row.dyno.name,
            ...isoSpan(p),
            blocks: p.blocks.map(isoSpan),
            pulls: pullsIn(planById.get(p.planId)!),
          };
        }),
        unplaced: schedule.unplaced.map((u) => {
          const row = byId.get(u.planId)!;
          return {
            testId: u.planId,
            number: row.test.number,
            title: titleOf(row),
            pulls: u.pulls,
            reason: UNPLACED[u.code],
          };
        }),
      };
    },

    /** Places or moves sessions; all of them, or none. */
    async place(person: Person, requests: readonly PlaceRequest[]): Promise<void> {
      await db.transaction(async (tx) => {
        for (const request of requests) await place(tx, person, request);
      });
    },
    async remove(person: Person, testId: string): Promise<void> {
      await db.transaction(async (tx) => {
        if (
          (
            await tx.execute(
              sql`select 1 from pull_files f join pulls p on p.id = f.pull_id where p.test_id = ${testId} limit 1`,
            )
          ).rows.length > 0
        )
          throw conflict(
            'SESSION_BEGUN',
            'The session has begun: it stands where it was run.',
            'Nothing needs to be moved.',
          );
        if ((await tx.delete(bookings).where(eq(bookings.testId, testId)).returning()).length === 0)
          throw notFound('session in the calendar');
        await recordAudit(tx, now(), person, 'took session out of the calendar', 'test', testId);
      });
    },
    async close(
      person: Person,
      closure: { dynoId: string; start: string; end: string; reason: string },
    ): Promise<void> {
      await db.transaction(async (tx) => {
        // Who places a session takes this row too (trigger of booking_blocks), so one of the two sees the other.
        const [dyno] = await tx.select().from(dynos).where(eq(dynos.id, closure.dynoId)).for('update');
        if (!dyno) throw notFound('dyno');
        const [start, end] = [new Date(closure.start), new Date(closure.end)];
        const [hit] = await tx
          .select({ number: tests.number })
          .from(bookingBlocks)
          .innerJoin(tests, eq(tests.id, bookingBlocks.testId))
          .where(
            and(
              eq(bookingBlocks.dynoId, closure.dynoId),
              lt(bookingBlocks.startsAt, end),
              gt(bookingBlocks.endsAt, start),
            ),
          );
        if (hit) throw conflict('SESSIONS_THERE', `Test ${hit.number} is placed then.`, 'Move it first.');
        await tx.insert(closures).values({
          id: newId(),
          dynoId: closure.dynoId,
          startsAt: start,
          endsAt: end,
          reason: closure.reason,
        });
        await recordAudit(tx, now(), person, 'closed dyno', 'dyno', closure.dynoId, {
          ...closure,
          name: dyno.name,
        });
      });
    },
    async reopen(person: Person, id: string): Promise<void> {
      await db.transaction(async (tx) => {
        const [row] = await tx.delete(closures).where(eq(closures.id, id)).returning();
        if (!row) throw notFound('closure');
        await recordAudit(tx, now(), person, 'reopened dyno', 'dyno', row.dynoId, {
          start: row.startsAt.toISOString(),
          end: row.endsAt.toISOString(),
          reason: row.reason,
        });
      });
    },
    /** Sessions from a day on, for a calendar file. */
    async upcoming(person: Person, fromDate: string, testId?: string) {
      const rows = await placedRows(
        db,
        person,
        testId ? eq(bookings.testId, testId) : gt(bookings.endsAt, new Date(`${fromDate}T00:00:00Z`)),
      );
      if (testId && rows.length === 0)
        throw new RefusalError(
          404,
          'NOT_PLACED',
          'This test has no place in the calendar yet.',
          'Place it on a dyno day first.',
        );
      return rows.map((row) => ({
        row,
        start: row.booking.startsAt,
        end: row.booking.endsAt,
        placedAt: row.booking.placedAt,
      }));
    },
  };
}
