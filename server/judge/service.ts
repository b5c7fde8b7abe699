import { createHash } from 'node:crypto';
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AirShown, AnalysisState } from '../../contract/judge/analysis.ts';
import { glyphOf } from '../../core/compare/glyph.ts';
import { EvidentiaError } from '../../core/base/errors.ts';
import { STANDARDS, type Engine } from '../../core/base/standards.ts';
import { airState } from '../../core/correct/air.ts';
import { correctionFactor } from '../../core/correct/standards.ts';
import { analyseTest, type TestDefinition } from '../../core/judge/analyse-test.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { listPulls, type PullRow } from '../capture/repository.ts';
import { airReadingOf } from '../capture/service.ts';
import { rawFiles } from '../capture/tables.ts';
import { driftModel } from '../../core/plan/protocols.ts';
import { findTest, titleOf, type TestRow } from '../plan/repository.ts';
import { amendmentsOf, armsOf, type ArmRow } from '../plan/service.ts';
import type { Amendment } from '../../core/plan/amendment.ts';
import { analyses } from './tables.ts';

export type JudgeService = ReturnType<typeof createJudgeService>;

export const engineOf = (fitment: TestRow['fitment']): Engine => ({
  ignition: fitment.ignition,
  aspiration: fitment.aspiration,
});

/** Definition of a test as the core takes it; files are named by their hash. */
export function definitionOf(
  row: TestRow,
  arms: readonly ArmRow[],
  pullRows: readonly PullRow[],
  amendments: readonly Amendment[],
): TestDefinition {
  const { test, fitment, dyno } = row;
  const attached = pullRows.flatMap((p) => (p.file ? [p.file.attachedAt.getTime()] : []));
  return {
    title: titleOf(row),
    standard: test.standard,
    engine: engineOf(fitment),
    band: { fromRpm: test.fromRpm, toRpm: test.toRpm, stepRpm: test.stepRpm },
    smoothingRpm: test.smoothingRpm,
    confidence: test.confidence,
    model: { drift: driftModel(test.runOrder), driftBound: test.driftBound },
    repeatability: dyno.repeatability,
    arms: arms.map((arm) => ({ id: arm.key, role: arm.role })),
    metric: test.metric,
    ...(test.metrics.length > 1 ? { metrics: test.metrics } : {}),
    plan: {
      lockedAt: test.lockedAt?.toISOString() ?? null,
      firstPullAt: attached.length ? new Date(Math.min(...attached)).toISOString() : null,
      ...(amendments.length ? { amendments } : {}),
    },
    pulls: pullRows.map(({ pull, file, air }) => ({
      id: pull.label,
      arm: pull.arm,
      order: pull.position,
      mount: pull.mount,
      counted: pull.counted,
      ...(file ? { file: file.sha256, columns: file.columns ?? undefined } : {}),
      ...(air ? { air: airReadingOf(air, dyno.siteHeightM) } : {}),
      applied: { standard: dyno.appliesStandard },
      ...(pull.excludedReason ? { excluded: pull.excludedReason } : {}),
    })),
  };
}

/** What an analysis still needs, in words for the person at the screen. */
export function missingFor(pullRows: readonly PullRow[]): string[] {
  const counted = pullRows.filter(({ pull }) => pull.counted && !pull.excludedReason);
  const list = (rows: readonly PullRow[]): string => rows.map(({ pull }) => pull.label).join(', ');
  const noFile = counted.filter((row) => !row.file);
  const noAir = counted.filter((row) => !row.air);
  return [
    ...(noFile.length ? [`the files of ${list(noFile)}`] : []),
    ...(noAir.length ? [`the air readings of ${list(noAir)}`] : []),
  ];
}

export function createJudgeService({ db, now, newId, softwareVersion, log }: Needs) {
  const latest = async (tx: Queryable, testId: string) =>
    (
      await tx
        .select()
        .from(analyses)
        .where(eq(analyses.testId, testId))
        .orderBy(desc(analyses.number))
        .limit(1)
    )[0];

  /** Inputs put back as they were meet their former analysis again, under its own number. */
  const analysisOf = async (tx: Queryable, testId: string, inputsHash: string) =>
    (
      await tx
        .select()
        .from(analyses)
        .where(and(eq(analyses.testId, testId), eq(analyses.inputsHash, inputsHash)))
    )[0];

  /** Computes the analysis of the present inputs, or finds it: the same inputs are never analysed twice. */
  async function current(testId: string, person?: Person) {
    const row = await findTest(db, testId, person);
    const pullRows = await listPulls(db, [testId]);
    const waitsFor = missingFor(pullRows);
    if (waitsFor.length > 0) return { row, pullRows, waitsFor, analysis: undefined, problem: null };
    const definition = definitionOf(row, await armsOf(db, testId), pullRows, await amendmentsOf(db, testId));
    const inputs = { definition, policy: DEFAULT_POLICY, softwareVersion };
    const inputsHash = createHash('sha256').update(JSON.stringify(inputs)).digest('hex');
    const known = await analysisOf(db, testId, inputsHash);
    if (known) return { row, pullRows, waitsFor, analysis: known, problem: null };
    const hashes = definition.pulls.flatMap((pull) => (pull.file ? [pull.file] : []));
    const bytes = new Map(
      (
        await db
          .select({ sha256: rawFiles.sha256, bytes: rawFiles.bytes })
          .from(rawFiles)
          .where(inArray(rawFiles.sha256, hashes))
      ).map((file) => [file.sha256, file.bytes]),
    );
    try {
      const started = performance.now();
      const { result, curves } = analyseTest(definition, (file) => bytes.get(file), {
        policy: DEFAULT_POLICY,
      });
      log.info({ testId, ms: Math.round(performance.now() - started) }, 'analysed');
      const analysis = await db.transaction(async (tx) => {
        await tx.execute(sql`select 1 from tests where id = ${testId} for update`);
        const twin = await analysisOf(tx, testId, inputsHash);
        if (twin) return twin;
        const last = await latest(tx, testId);
        const [kept] = await tx
          .insert(analyses)
          .values({
            id: newId(),
            testId,
            number: (last?.number ?? 0) + 1,
            inputsHash,
            inputs: inputs,
            result: plainJson(result),
            curves: plainJson({ rpm: [...curves.rpm], pulls: [...curves.pulls] }),
            glyphs: Object.fromEntries(result.contrasts.map((c) => [c.arm, glyphOf(c)])),
            policy: DEFAULT_POLICY,
            softwareVersion,
            computedAt: now(),
          })
          .returning();
        return kept;
      });
      return { row, pullRows, waitsFor, analysis, problem: null };
    } catch (error) {
      if (!(error instanceof EvidentiaError)) throw error;
      return {
        row,
        pullRows,
        waitsFor,
        analysis: undefined,
        problem: { code: String(error.code), message: error.message },
      };
    }
  }

  return {
    current,
    latest,
    hasResult: async (testId: string): Promise<boolean> => (await latest(db, testId)) !== undefined,

    /** The analysis of the present inputs with the air of every pull, or what it waits for. */
    async state(testId: string, person: Person): Promise<AnalysisState> {
      const { row, pullRows, waitsFor, analysis, problem } = await current(testId, person);
      const air = Object.fromEntries(
        pullRows.flatMap(({ pull, air: reading }) =>
          reading
            ? [[pull.label, airShown(airReadingOf(reading, row.dyno.siteHeightM), engineOf(row.fitment))]]
            : [],
        ),
      );
      return {
        analysis: analysis
          ? {
              id: analysis.id,
              number: analysis.number,
              at: analysis.computedAt.toISOString(),
              softwareVersion: analysis.softwareVersion,
              policyVersion: analysis.policy.version,
              inputsHash: analysis.inputsHash,
              result: analysis.result,
              curves: analysis.curves,
            }
          : null,
        waitsFor,
        problem,
        air,
      };
    },
  };
}

/** What every standard would say of one reading; null where a standard does not cover the engine. */
function airShown(reading: Parameters<typeof airState>[0], engine: Engine): AirShown {
  const state = airState(reading);
  const factor = (standard: (typeof STANDARDS)[number]): number | null => {
    try {
      return correctionFactor(standard, state, engine).factor;
    } catch (error) {
      if (error instanceof EvidentiaError) return null;
      throw error;
    }
  };
  return {
    temperatureC: state.temperatureC,
    pressureHpa: state.pressurePa / 100,
    dryPressureHpa: state.dryPressurePa / 100,
    vapourPressureHpa: state.vapourPressurePa / 100,
    relativeHumidityPct: state.relativeHumidityPct,
    densityAltitudeM: state.densityAltitudeM,
    factors: Object.fromEntries(STANDARDS.map((s) => [s, factor(s)])),
  };
}

/** As JSON keeps it: typed arrays as lists, no value where a number is not finite. */
const plainJson = <T>(value: T): T =>
  JSON.parse(
    JSON.stringify(value, (_, v: unknown) => (typeof v === 'number' && !Number.isFinite(v) ? null : v)),
  ) as T;
