/** Control vehicles of a dyno as they are shown: checks with what their files are, the chart, and what they tell of scatter. */
import { asc, eq, inArray } from 'drizzle-orm';
import type { ControlCheckShown, ControlVehicleShown } from '../../contract/register/control.ts';
import { dayAt } from '../../core/base/site-time.ts';
import { chartOf, checkLevel, REFERENCE_CHECKS, registeredDay } from '../../core/register/control-state.ts';
import { controlStudy } from '../../core/register/dyno-health.ts';
import type { Queryable } from '../base/db.ts';
import { people } from '../base/tables.ts';
import { controlCheckPulls, controlChecks, controlStruck } from '../capture/control-tables.ts';
import { controlVehicles, dynos, vehicles } from '../register/tables.ts';

type CheckRow = typeof controlChecks.$inferSelect;
interface Row {
  readonly control: typeof controlVehicles.$inferSelect;
  readonly vehicle: typeof vehicles.$inferSelect;
  readonly dyno: typeof dynos.$inferSelect;
}

interface Shown {
  readonly check: CheckRow;
  readonly by: string;
  readonly files: ControlCheckShown['files'];
  readonly struck: ControlCheckShown['struck'];
}

export async function checksShown(db: Queryable, controlIds: readonly string[]): Promise<Shown[]> {
  if (controlIds.length === 0) return [];
  const rows = await db
    .select({ check: controlChecks, by: people.name, struck: controlStruck })
    .from(controlChecks)
    .innerJoin(people, eq(people.id, controlChecks.enteredBy))
    .leftJoin(controlStruck, eq(controlStruck.checkId, controlChecks.id))
    .where(inArray(controlChecks.controlId, [...controlIds]))
    .orderBy(asc(controlChecks.at), asc(controlChecks.id));
  const ids = rows.map(({ check }) => check.id);
  const files = ids.length
    ? await db
        .select()
        .from(controlCheckPulls)
        .where(inArray(controlCheckPulls.checkId, ids))
        .orderBy(asc(controlCheckPulls.position))
    : [];
  const strikers = rows.flatMap(({ struck }) => (struck ? [struck.by] : []));
  const names = new Map(
    strikers.length
      ? (await db.select().from(people).where(inArray(people.id, strikers))).map((p) => [p.id, p.name])
      : [],
  );
  return rows.map(({ check, by, struck }) => ({
    check,
    by,
    files: files
      .filter((f) => f.checkId === check.id)
      .map(({ position, name, sha256 }) => ({ position, name, sha256 })),
    struck: struck && {
      reason: struck.reason,
      at: struck.at.toISOString(),
      by: names.get(struck.by) ?? 'somebody',
    },
  }));
}

/** Its checks that count, on its chart. */
function charted(standing: readonly CheckRow[]) {
  const means = standing.map(({ values }) => checkLevel(values));
  const chart = chartOf(means);
  const center =
    chart?.reference.center ?? (means.length > 0 ? checkLevel(means.slice(0, REFERENCE_CHECKS)) : 0);
  const placeOf = (id: string): ControlCheckShown['chart'] => {
    const at = standing.findIndex((c) => c.id === id) - REFERENCE_CHECKS;
    const point = at >= 0 ? chart?.points[at] : undefined;
    if (!point) return null;
    const { ewma, upper, alarm, single } = point;
    return { ewma: ewma - center, limit: upper - center, alarm, single };
  };
  return { center, placeOf };
}

function studyOf(standing: readonly CheckRow[], timeZone: string): ControlVehicleShown['study'] {
  const study = controlStudy(
    standing.flatMap(({ id, at, values }) =>
      values.map((y) => ({ y, day: dayAt(at.getTime(), timeZone), mount: id })),
    ),
  );
  return study
    ? {
        pull: { variance: study.pull, df: study.df[2] },
        mount: study.registered,
        day: registeredDay(study),
        days: study.df[0] + 1,
      }
    : null;
}

export function vehicleShown(
  { control, vehicle, dyno }: Row,
  replaced: boolean,
  all: readonly Shown[],
): ControlVehicleShown {
  const own = all.filter(({ check }) => check.controlId === control.id);
  const standing = own.filter(({ struck }) => struck === null).map(({ check }) => check);
  const { center, placeOf } = charted(standing);
  const { id, standard, fromRpm, toRpm, gear, reason } = control;
  return {
    id,
    vehicleId: vehicle.id,
    tag: vehicle.tag,
    standard,
    fromRpm,
    toRpm,
    gear,
    since: control.enteredAt.toISOString(),
    reason,
    replaced,
    levelW: standing.length > 0 ? Math.exp(center / 100) : null,
    checks: own.map(({ check, by, files, struck }) => ({
      id: check.id,
      at: check.at.toISOString(),
      timed: check.timed,
      warmUps: check.warmUps,
      note: check.note,
      off: checkLevel(check.values) - center,
      sd: sdOf(check.values),
      enteredAt: check.enteredAt.toISOString(),
      enteredBy: by,
      files,
      struck,
      chart: placeOf(check.id),
    })),
    missing: Math.max(0, REFERENCE_CHECKS - standing.length),
    study: studyOf(standing, dyno.timeZone),
  };
}

const sdOf = (values: readonly number[]): number => {
  const mean = checkLevel(values);
  return Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / (values.length - 1));
};
