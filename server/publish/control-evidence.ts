/** The control vehicle's files behind a claim without return: public with it, byte for byte. */
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import type { TestDefinition } from '../../core/judge/analyse-test.ts';
import type { Evidence } from '../../contract/publish/claim.ts';
import type { Queryable } from '../base/db.ts';
import { controlCheckPulls, controlChecks, controlStruck } from '../capture/control-tables.ts';
import { rawFiles } from '../capture/tables.ts';

type Controls = NonNullable<Evidence['controls']>;

/** Checks that the analysis rests on, with their files; undefined for a test that returned to its baseline. */
export async function controlsOf(
  tx: Queryable,
  controlId: string | null,
  { oneWay }: Pick<TestDefinition, 'oneWay'>,
): Promise<Controls | undefined> {
  if (controlId === null || !oneWay || oneWay.checks.length === 0) return undefined;
  const moments = oneWay.checks.map(({ at }) => new Date(at));
  const rows = await tx
    .select({ check: controlChecks, pull: controlCheckPulls, size: rawFiles.size })
    .from(controlChecks)
    .innerJoin(controlCheckPulls, eq(controlCheckPulls.checkId, controlChecks.id))
    .innerJoin(rawFiles, eq(rawFiles.sha256, controlCheckPulls.sha256))
    .leftJoin(controlStruck, eq(controlStruck.checkId, controlChecks.id))
    .where(
      and(
        eq(controlChecks.controlId, controlId),
        inArray(controlChecks.at, moments),
        isNull(controlStruck.checkId),
      ),
    )
    .orderBy(asc(controlChecks.at), asc(controlCheckPulls.position));
  const byCheck = new Map<string, Controls[number]>();
  for (const { check, pull, size } of rows) {
    const known = byCheck.get(check.id) ?? {
      control: oneWay.control,
      at: check.at.toISOString(),
      warmUps: check.warmUps,
      files: [],
    };
    const air = `${pull.temperatureC} °C, ${pull.pressureHpa} hPa, ${pull.humidityPct} % RH`;
    known.files.push({ name: pull.name, sha256: pull.sha256, size, air });
    byCheck.set(check.id, known);
  }
  return [...byCheck.values()];
}
