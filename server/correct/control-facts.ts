/** Checks of control vehicles as they are held against tests: only those that count, in order of time. */
import { and, asc, eq, isNull, ne, sql } from 'drizzle-orm';
import { dayAt } from '../../core/base/site-time.ts';
import type { ControlAlarm, CrossedOutCheck } from '../../core/capture/test-definition.ts';
import type { ControlCheck } from '../../core/plan/one-way.ts';
import { CHECK_WITHIN_HOURS } from '../../core/plan/one-way.ts';
import { alarmAround } from '../../core/register/control-state.ts';
import type { Queryable } from '../base/db.ts';
import { controlChecks, controlStruck } from '../capture/control-tables.ts';
import { controlVehicles, vehicleLedger, vehicles } from '../register/tables.ts';

type Check = typeof controlChecks.$inferSelect;

/** Checks of a control vehicle that nobody has crossed out. */
export const standingChecks = async (db: Queryable, controlId: string): Promise<Check[]> =>
  (
    await db
      .select({ check: controlChecks })
      .from(controlChecks)
      .leftJoin(controlStruck, eq(controlStruck.checkId, controlChecks.id))
      .where(and(eq(controlChecks.controlId, controlId), isNull(controlStruck.checkId)))
      .orderBy(asc(controlChecks.at), asc(controlChecks.id))
  ).map((row) => row.check);

export const meanOf = (values: readonly number[]): number =>
  values.reduce((sum, v) => sum + v, 0) / values.length;

/** The first control vehicle of the dyno that was out of its limits around a session; null where none was. */
export async function controlAlarm(
  db: Queryable,
  dynoId: string,
  session: { readonly first: Date | null; readonly last: Date | null },
): Promise<ControlAlarm | null> {
  if (!session.first || !session.last) return null;
  const rows = await db
    .select({
      control: controlVehicles,
      tag: vehicles.tag,
      replacedAt: sql<
        string | null
      >`(select r.entered_at from control_vehicles r where r.replaces = ${controlVehicles.id})`,
    })
    .from(controlVehicles)
    .innerJoin(vehicles, eq(vehicles.id, controlVehicles.vehicleId))
    .where(eq(controlVehicles.dynoId, dynoId))
    .orderBy(asc(controlVehicles.enteredAt));
  const [first, last] = [session.first.getTime(), session.last.getTime()];
  for (const { control, tag, replacedAt } of rows) {
    // Begun anew before the session: the former chart is no longer that of this dyno.
    if (replacedAt !== null && Date.parse(replacedAt) <= first) continue;
    const checks = await standingChecks(db, control.id);
    const alarm = alarmAround(
      checks.map((c) => ({ at: c.at.getTime(), value: meanOf(c.values) })),
      first,
      last,
    );
    if (alarm) return { control: tag, ...alarm };
  }
  return null;
}

/** Checks that were crossed out between the session and the next that stands, before it and after it. */
export async function crossedOutBeside(
  db: Queryable,
  dyno: { readonly id: string; readonly timeZone: string },
  session: { readonly first: Date | null; readonly last: Date | null },
): Promise<CrossedOutCheck[]> {
  if (!session.first || !session.last) return [];
  const rows = await db
    .select({ check: controlChecks, struck: controlStruck, tag: vehicles.tag })
    .from(controlChecks)
    .innerJoin(controlVehicles, eq(controlVehicles.id, controlChecks.controlId))
    .innerJoin(vehicles, eq(vehicles.id, controlVehicles.vehicleId))
    .leftJoin(controlStruck, eq(controlStruck.checkId, controlChecks.id))
    .where(eq(controlVehicles.dynoId, dyno.id))
    .orderBy(asc(controlChecks.at), asc(controlChecks.id));
  const [first, last] = [session.first.getTime(), session.last.getTime()];
  const controls = [...new Set(rows.map(({ check }) => check.controlId))];
  return controls.flatMap((controlId) => {
    const own = rows.filter(({ check }) => check.controlId === controlId);
    const before = own.filter(({ check }) => check.at.getTime() <= first);
    const after = own.filter(({ check }) => check.at.getTime() >= last);
    const standing = before.findLastIndex(({ struck }) => struck === null);
    const next = after.findIndex(({ struck }) => struck === null);
    return [...before.slice(standing + 1), ...(next < 0 ? after : after.slice(0, next))].map(
      ({ check, struck, tag }) => ({
        control: tag,
        day: dayAt(check.at.getTime(), dyno.timeZone),
        reason: struck!.reason,
      }),
    );
  });
}

/** Typed long after the time it speaks of, a check says nothing of that shift. */
const isInTime = ({ timed, at, enteredAt }: Check): boolean =>
  timed === 'file' || enteredAt.getTime() - at.getTime() <= CHECK_WITHIN_HOURS * 3_600_000;

/** Checks of the control vehicle a plan names, and whether anything was done on that car between them. */
export async function checksFor(
  db: Queryable,
  controlId: string,
  timeZone: string,
  session: { readonly from: number; readonly to: number },
): Promise<{ tag: string; checks: ControlCheck[]; changed: boolean }> {
  const [row] = await db
    .select({ vehicleId: controlVehicles.vehicleId, tag: vehicles.tag })
    .from(controlVehicles)
    .innerJoin(vehicles, eq(vehicles.id, controlVehicles.vehicleId))
    .where(eq(controlVehicles.id, controlId));
  const reach = CHECK_WITHIN_HOURS * 3_600_000;
  const checks = (await standingChecks(db, controlId)).filter(
    (c) => isInTime(c) && c.at.getTime() >= session.from - reach && c.at.getTime() <= session.to + reach,
  );
  return {
    tag: row.tag,
    checks: checks.map(({ at, values }) => ({
      at: at.toISOString(),
      day: dayAt(at.getTime(), timeZone),
      values: [...values],
    })),
    changed: await wasWorkedOn(db, row.vehicleId, checks),
  };
}

async function wasWorkedOn(db: Queryable, vehicleId: string, checks: readonly Check[]): Promise<boolean> {
  const [first, last] = [checks[0]?.at, checks.at(-1)?.at];
  if (!first || !last) return false;
  const [found] = await db
    .select({ id: vehicleLedger.id })
    .from(vehicleLedger)
    .where(
      and(
        eq(vehicleLedger.vehicleId, vehicleId),
        sql`${vehicleLedger.at} > ${first.toISOString()}::timestamptz and ${vehicleLedger.at} < ${last.toISOString()}::timestamptz`,
        sql`${vehicleLedger.change} is not null`,
        sql`not exists (select from vehicle_ledger s where s.supersedes = ${vehicleLedger.id})`,
        ne(sql`coalesce(${vehicleLedger.change} ->> 'kind', '')`, ''),
      ),
    )
    .limit(1);
  return found !== undefined;
}
