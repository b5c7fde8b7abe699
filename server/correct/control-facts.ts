/** Checks of control vehicles as they are held against tests: only those that count, in order of time. */
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { dayAt } from '../../core/base/site-time.ts';
import type { TestDefinition } from '../../core/capture/test-definition.ts';
import type { ControlCheck } from '../../core/plan/one-way.ts';
import { CHECK_WITHIN_HOURS } from '../../core/plan/one-way.ts';
import {
  alarmAround,
  checkLevel,
  setAsideBeside,
  type ChartedControl,
} from '../../core/register/control-state.ts';
import type { Queryable } from '../base/db.ts';
import { controlChecks, controlStruck } from '../capture/control-tables.ts';
import { controlVehicles, vehicleLedger, vehicles } from '../register/tables.ts';

type Check = typeof controlChecks.$inferSelect;

/** Checks of a control vehicle that nobody has crossed out. */
const standingChecks = async (db: Queryable, controlId: string): Promise<Check[]> =>
  (
    await db
      .select({ check: controlChecks })
      .from(controlChecks)
      .leftJoin(controlStruck, eq(controlStruck.checkId, controlChecks.id))
      .where(and(eq(controlChecks.controlId, controlId), isNull(controlStruck.checkId)))
      .orderBy(asc(controlChecks.at), asc(controlChecks.id))
  ).map((row) => row.check);

/** Every control vehicle of a dyno with all its checks, crossed out or not. */
async function chartedControls(db: Queryable, dynoId: string): Promise<ChartedControl[]> {
  const rows = await db
    .select({ control: controlVehicles, tag: vehicles.tag })
    .from(controlVehicles)
    .innerJoin(vehicles, eq(vehicles.id, controlVehicles.vehicleId))
    .where(eq(controlVehicles.dynoId, dynoId))
    .orderBy(asc(controlVehicles.enteredAt));
  if (rows.length === 0) return [];
  const checks = await db
    .select({ check: controlChecks, reason: controlStruck.reason })
    .from(controlChecks)
    .innerJoin(controlVehicles, eq(controlVehicles.id, controlChecks.controlId))
    .leftJoin(controlStruck, eq(controlStruck.checkId, controlChecks.id))
    .where(eq(controlVehicles.dynoId, dynoId))
    .orderBy(asc(controlChecks.at), asc(controlChecks.id));
  return rows.map(({ control: { id, replaces, enteredAt, reason }, tag }) => ({
    id,
    control: tag,
    replaces,
    since: enteredAt.getTime(),
    reason,
    checks: checks
      .filter(({ check }) => check.controlId === id)
      .map(({ check, reason: crossedOut }) => ({
        at: check.at.getTime(),
        value: checkLevel(check.values),
        crossedOut,
      })),
  }));
}

/** What the control vehicles of a dyno say around a session, as its analysis takes it; nothing where all is as it belongs. */
export async function controlAround(
  db: Queryable,
  dyno: { readonly id: string; readonly timeZone: string },
  { first, last }: { readonly first: Date | null; readonly last: Date | null },
): Promise<Pick<TestDefinition, 'control' | 'setAside'>> {
  if (!first || !last) return {};
  const controls = await chartedControls(db, dyno.id);
  const session = { first: first.getTime(), last: last.getTime() };
  const alarm = alarmAround(controls, session);
  const setAside = setAsideBeside(controls, session);
  return {
    ...(alarm ? { control: alarm } : {}),
    ...(setAside.length > 0
      ? { setAside: setAside.map(({ at, ...one }) => ({ ...one, day: dayAt(at, dyno.timeZone) })) }
      : {}),
  };
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
    checks: checks.map(({ at, warmUps, values }) => ({
      at: at.toISOString(),
      day: dayAt(at.getTime(), timeZone),
      warmUps,
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
      ),
    )
    .limit(1);
  return found !== undefined;
}
