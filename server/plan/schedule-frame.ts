/** What the calendar is laid out in: openings, sessions that stand, tests that wait. */
import { and, asc, count, gt, inArray, sql, type SQL } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { dayAt, nextDay, startOfDayAt } from '../../core/base/site-time.ts';
import { openingSpans } from '../../core/plan/opening-hours.ts';
import { without, type Placement, type ScheduledPlan, type Span } from '../../core/plan/schedule.ts';
import type { Queryable } from '../base/db.ts';
import { dynos, vehicles } from '../register/tables.ts';
import { listTests, type TestRow } from './repository.ts';
import { begunTests, bookingBlocks, bookings, closures, tests } from './tables.ts';

export const planOf = (row: TestRow): ScheduledPlan => {
  const { test, dyno } = row;
  const blocks =
    test.blocks.length > 0
      ? test.blocks
      : [{ minutes: 240, pulls: test.runOrder.length * (test.pullsPerRun + test.warmUps) }];
  return {
    id: test.id,
    dynoIds: [test.dynoId],
    vehicleId: test.vehicleId,
    blocks,
    gapMinutes: test.gapMinutes,
    baselineKey: `${test.vehicleId} ${test.dynoId} ${test.fuel}`,
    priority: test.priority,
    notBefore: test.notBefore ? startOfDayAt(test.notBefore, dyno.timeZone) : null,
    due: test.due ? startOfDayAt(nextDay(test.due), dyno.timeZone) : null,
  };
};
export const pullsIn = (plan: ScheduledPlan): number =>
  plan.blocks.reduce((sum, block) => sum + block.pulls, 0);

/** Openings less closures, and when each vehicle is there, over some days. */
export async function frame(tx: Queryable, from: number, days: number) {
  const list = await tx.select().from(dynos).orderBy(asc(dynos.name));
  const shut = await tx
    .select()
    .from(closures)
    .where(gt(closures.endsAt, new Date(from - 86_400_000)));
  const openings = new Map(
    list.map((dyno) => [
      dyno.id,
      without(
        openingSpans(dyno.opening, dyno.timeZone, dayAt(from, dyno.timeZone), days),
        shut
          .filter((c) => c.dynoId === dyno.id)
          .map((c) => ({ start: c.startsAt.getTime(), end: c.endsAt.getTime() })),
      ),
    ]),
  );
  const dated = await tx
    .select()
    .from(vehicles)
    .where(sql`${vehicles.availableFrom} is not null or ${vehicles.availableTo} is not null`);
  const dates = new Map(dated.map((v) => [v.id, v]));
  const zones = new Map(list.map((dyno) => [dyno.id, dyno.timeZone]));
  // A vehicle's days are days at the site it would be tested at.
  const whenThere = (vehicleId: string, dynoId: string): Span[] | undefined => {
    const vehicle = dates.get(vehicleId);
    if (!vehicle) return undefined;
    const zone = zones.get(dynoId) ?? 'UTC';
    return [
      {
        start: vehicle.availableFrom ? startOfDayAt(vehicle.availableFrom, zone) : -Infinity,
        end: vehicle.availableTo ? startOfDayAt(nextDay(vehicle.availableTo), zone) : Infinity,
      },
    ];
  };
  return { dynos: list, openings, whenThere, closures: shut };
}
/** Where every session stands from a moment on. */
export async function standing(tx: Queryable, from: number): Promise<Placement[]> {
  const rows = await tx
    .select()
    .from(bookings)
    .where(gt(bookings.endsAt, new Date(from)));
  const blocks = rows.length
    ? await tx
        .select()
        .from(bookingBlocks)
        .where(
          inArray(
            bookingBlocks.testId,
            rows.map((b) => b.testId),
          ),
        )
        .orderBy(asc(bookingBlocks.block))
    : [];
  return rows.map((b) => ({
    planId: b.testId,
    dynoId: b.dynoId,
    vehicleId: b.vehicleId,
    start: b.startsAt.getTime(),
    end: b.endsAt.getTime(),
    blocks: blocks
      .filter((k) => k.testId === b.testId)
      .map((k) => ({ start: k.startsAt.getTime(), end: k.endsAt.getTime() })),
  }));
}
/** Tests without a place: not begun and not placed. */
const isWaiting = and(
  sql`not exists (select 1 from ${bookings} where ${bookings.testId} = ${tests.id})`,
  sql`not exists (select 1 from ${begunTests} where ${begunTests.testId} = ${tests.id})`,
);
/** Tests that wait for a place, those due first; all of them, or the first few. */
export async function waitingRows(tx: Queryable, most?: number): Promise<TestRow[]> {
  const first = tx
    .select({ id: tests.id })
    .from(tests)
    .where(isWaiting)
    .orderBy(sql`${tests.due} nulls last`, asc(tests.number));
  const ids = (await (most === undefined ? first : first.limit(most))).map((row) => row.id);
  if (ids.length === 0) return [];
  const byId = new Map(
    (await listTests(tx, undefined, inArray(tests.id, ids))).map((row) => [row.test.id, row]),
  );
  return ids.flatMap((id) => byId.get(id) ?? []);
}
export async function waitingTotal(tx: Queryable): Promise<number> {
  const [{ total }] = await tx.select({ total: count() }).from(tests).where(isWaiting);
  return total;
}
/** Placed tests that a condition on their bookings picks, in order of time. */
export const placedRows = async (tx: Queryable, person: Person | undefined, where: SQL | undefined) => {
  const placed = await tx.select().from(bookings).where(where).orderBy(asc(bookings.startsAt));
  if (placed.length === 0) return [];
  const rows = new Map(
    (
      await listTests(
        tx,
        person,
        inArray(
          tests.id,
          placed.map((b) => b.testId),
        ),
      )
    ).map((row) => [row.test.id, row]),
  );
  return placed.flatMap((booking) => {
    const row = rows.get(booking.testId);
    return row ? [{ ...row, booking }] : [];
  });
};
