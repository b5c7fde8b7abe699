import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { ByStandard } from '../../contract/correct/by-standard.ts';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import { glyphOf } from '../../core/compare/glyph.ts';
import type { Policy } from '../../core/base/policy.ts';
import { EvidentiaError } from '../../core/base/errors.ts';
import { type TestAnalysis } from '../../core/judge/analyse-test.ts';
import { tests } from '../plan/tables.ts';
import type { Queryable } from '../base/db.ts';
import { lockTest } from '../base/house.ts';
import { whoeverWaits } from '../base/under-way.ts';
import { withRest } from '../base/unhurried.ts';
import type { Needs } from '../base/needs.ts';
import type { StartSlopes } from '../../contract/register/start-slopes.ts';
import { otherBaselines } from './baselines.ts';
import { historyOf } from './own-history.ts';
import { startSlopesOf } from './start-slopes.ts';
import { conflict } from '../base/refusals.ts';
import type { PullRow } from '../capture/repository.ts';
import { airReadingOf } from '../capture/service.ts';
import { rawFiles } from '../capture/tables.ts';
import { airShown, sensorsOf } from '../correct/air-shown.ts';
import { engineOf, readInputs, type Inputs } from './inputs.ts';
import { analyseTask, byStandardTask, byUseTask, inWindowTask } from './tasks.ts';
import type { OtherBaselines } from '../../contract/compare/baselines.ts';
import type { GainsByUse } from '../../contract/register/use-profiles.ts';
import { useProfiles } from '../register/use-profiles.ts';
import type { Beside } from '../../contract/judge/beside.ts';
import { findingsBeside } from './beside.ts';
import { everyTest } from './every-test.ts';
import type { TogetherShown } from '../../contract/compare/together.ts';
import { togetherOf } from './together.ts';
import type { InWindowShown } from '../../contract/compare/in-window.ts';
import type { Window } from '../../core/judge/in-window.ts';
import { contrastRows } from './contrast-rows.ts';
import { analyses, analysisInputs, contrasts, failedAnalyses } from './tables.ts';

export type JudgeService = ReturnType<typeof createJudgeService>;
export type AnalysisRow = typeof analyses.$inferSelect;

/** How often a test is computed again because its inputs changed while it was computed. */
const TRIES = 4;

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

interface Problem {
  readonly code: string;
  readonly message: string;
}
export interface Current {
  readonly row: Inputs['row'];
  readonly pullRows: readonly PullRow[];
  readonly inputs: Inputs;
  readonly waitsFor: string[];
  readonly analysis: AnalysisRow | undefined;
  readonly problem: Problem | null;
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createJudgeService(
  { db, now, newId, softwareVersion, log, threads }: Needs,
  /** Told when another result stands for a test. */ stands: (testId: string) => Promise<void>,
) {
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

  const inputsOf = (tx: Queryable, testId: string, person?: Person): Promise<Inputs> =>
    readInputs(tx, testId, softwareVersion, now(), person);

  const setCurrent = (tx: Queryable, testId: string, analysisId: string) =>
    tx.update(tests).set({ currentAnalysisId: analysisId }).where(eq(tests.id, testId));

  /** Raw bytes of the files of a test, by hash. */
  async function bytesOf(inputs: Inputs): Promise<Map<string, Buffer>> {
    const hashes = inputs.definition.pulls.flatMap((pull) => [
      ...(pull.file ? [pull.file] : []),
      ...(pull.log ? [pull.log.file] : []),
    ]);
    const stored = hashes.length
      ? await db
          .select({ sha256: rawFiles.sha256, bytes: rawFiles.bytes })
          .from(rawFiles)
          .where(inArray(rawFiles.sha256, hashes))
      : [];
    return new Map(stored.map((file) => [file.sha256, file.bytes]));
  }
  async function compute(inputs: Inputs): Promise<TestAnalysis> {
    const bytes = await bytesOf(inputs);
    const started = performance.now();
    const analysis = await threads.run(analyseTask, inputs.definition, bytes, inputs.policy);
    log.info({ testId: inputs.row.test.id, ms: Math.round(performance.now() - started) }, 'analysed');
    return analysis;
  }

  /** Why inputs cannot be analysed, when that is known already. */
  async function failureOf(testId: string, inputsHash: string): Promise<Problem | undefined> {
    const [row] = await db
      .select({ code: failedAnalyses.code, message: failedAnalyses.message })
      .from(failedAnalyses)
      .where(and(eq(failedAnalyses.testId, testId), eq(failedAnalyses.inputsHash, inputsHash)));
    return row;
  }
  const rememberFailure = (testId: string, inputsHash: string, problem: Problem) =>
    db
      .insert(failedAnalyses)
      .values({ testId, inputsHash, ...problem, failedAt: now() })
      .onConflictDoNothing();

  /** Keeps what was computed, under the test's lock and only if the inputs are still those it was computed from. */
  async function keep(inputs: Inputs, computed: TestAnalysis | undefined): Promise<AnalysisRow | undefined> {
    const testId = inputs.row.test.id;
    return db.transaction(async (tx) => {
      await lockTest(tx, testId);
      const again = await inputsOf(tx, testId);
      if (again.hash !== inputs.hash) return undefined;
      const known = await analysisOf(tx, testId, inputs.hash);
      if (known) {
        if (again.row.test.currentAnalysisId !== known.id) await setCurrent(tx, testId, known.id);
        return known;
      }
      if (!computed) return undefined;
      const { result, curves } = computed;
      const last = await latest(tx, testId);
      const [kept] = await tx
        .insert(analyses)
        .values({
          id: newId(),
          testId,
          number: (last?.number ?? 0) + 1,
          inputsHash: inputs.hash,
          inputs: inputs.content,
          result: plainJson(result),
          curves: plainJson({ rpm: [...curves.rpm], pulls: [...curves.pulls] }),
          glyphs: Object.fromEntries(result.contrasts.map((c) => [c.arm, glyphOf(c)])),
          policy: inputs.policy,
          softwareVersion,
          computedAt: now(),
          until: inputs.until,
        })
        .returning();
      await tx
        .insert(analysisInputs)
        .values(inputs.versions.map((version) => ({ analysisId: kept.id, ...version })));
      await tx.insert(contrasts).values(contrastRows(kept.id, kept.result));
      await setCurrent(tx, testId, kept.id);
      return kept;
    });
  }

  /** Computes the analysis of the present inputs, or finds it: the same inputs are never analysed twice. */
  async function current(testId: string, person?: Person): Promise<Current> {
    for (let tries = 1; ; tries++) {
      const inputs = await inputsOf(db, testId, person);
      const { row, pullRows } = inputs;
      const waitsFor = missingFor(pullRows);
      const base = { row, pullRows, inputs, waitsFor };
      if (waitsFor.length > 0) return { ...base, analysis: undefined, problem: null };
      const known = await analysisOf(db, testId, inputs.hash);
      if (known && row.test.currentAnalysisId === known.id)
        return { ...base, analysis: known, problem: null };
      const failed = known ? undefined : await failureOf(testId, inputs.hash);
      if (failed) return { ...base, analysis: undefined, problem: failed };
      try {
        const analysis = await keep(inputs, known ? undefined : await compute(inputs));
        if (analysis) {
          await whoeverWaits(() => stands(testId));
          return { ...base, analysis, problem: null };
        }
      } catch (error) {
        if (!(error instanceof EvidentiaError)) throw error;
        const problem = { code: String(error.code), message: error.message };
        await rememberFailure(testId, inputs.hash, problem);
        return { ...base, analysis: undefined, problem };
      }
      if (tries >= TRIES)
        throw conflict(
          'INPUTS_KEEP_CHANGING',
          'The inputs of this test changed each time while it was computed.',
          'Wait until whoever is entering them has finished, then look again.',
        );
    }
  }

  async function completeInputs(testId: string, person: Person): Promise<Inputs> {
    const inputs = await inputsOf(db, testId, person);
    const missing = missingFor(inputs.pullRows);
    if (missing.length > 0)
      throw conflict(
        'NOT_COMPLETE',
        `The test waits for ${missing.join(', ')}.`,
        'Look again when every pull has its file and its air.',
      );
    return inputs;
  }

  return {
    ownHistory: (dynoId: string) => historyOf(db, dynoId),
    startSlopes: async (dynoId: string, vehicleId?: string): Promise<StartSlopes> => ({
      slopes: await startSlopesOf(db, dynoId, vehicleId),
    }),
    otherBaselines: (testId: string, person: Person): Promise<OtherBaselines> =>
      otherBaselines(db, testId, person),
    /** Gates that look beyond the session, for an arm of the present result. */
    async beside(testId: string, arm: string, person: Person): Promise<Beside> {
      const inputs = await inputsOf(db, testId, person);
      const every = await everyTest(db, inputs.row.test, arm, person);
      return { findings: (await findingsBeside(db, inputs, arm, every, person)) as Beside['findings'] };
    },
    /**
     * Computes again what has had a result and has none at present: after a new policy nobody has to open a test for
     * it to be counted again. One that cannot be computed is told where it is opened.
     * @returns how many were computed
     */
    async catchUp(goOn: () => boolean = () => true): Promise<number> {
      const waiting = await db
        .select({ id: tests.id })
        .from(tests)
        .where(
          and(
            isNull(tests.currentAnalysisId),
            sql`exists (select from analyses x where x.test_id = ${tests.id})`,
          ),
        )
        .orderBy(desc(tests.number));
      let done = 0;
      for (const { id } of waiting) {
        if (!goOn()) break;
        try {
          if ((await withRest(() => current(id))).analysis) done += 1;
        } catch (error) {
          log.error(
            { testId: id, error: error instanceof Error ? error.message : String(error) },
            'not caught up',
          );
        }
      }
      return done;
    },
    together: (testId: string, arm: string, person: Person): Promise<TogetherShown> =>
      togetherOf(db, testId, arm, person),
    current,
    inputsOf,
    hasResult: async (tx: Queryable, testId: string): Promise<boolean> =>
      (await latest(tx, testId)) !== undefined,

    /** The present inputs of a test judged by another policy; nothing of it is kept. Null where nothing can be computed. */
    async under(
      testId: string,
      policy: Policy,
    ): Promise<{ inputs: Inputs; analysis: AnalysisRow; failing: string[] } | null> {
      const { analysis } = await current(testId);
      if (!analysis) return null;
      const inputs = { ...(await inputsOf(db, testId)), policy };
      const { result } = await compute(inputs);
      const failing = result.findings.filter((f) => f.state === 'fail').map((f) => f.gate);
      return { inputs, analysis: { ...analysis, result: plainJson(result), policy }, failing };
    },

    /** The analysis that stands for a test inside a transaction that holds its lock; undefined when it must be computed first. */
    async standing(tx: Queryable, testId: string): Promise<{ inputs: Inputs; analysis?: AnalysisRow }> {
      const inputs = await inputsOf(tx, testId);
      const analysis = missingFor(inputs.pullRows).length
        ? undefined
        : await analysisOf(tx, testId, inputs.hash);
      return analysis ? { inputs, analysis } : { inputs };
    },

    /** Averages over a window chosen after the result was seen; nothing of it is kept, nothing can be claimed from it. */
    async inWindow(testId: string, person: Person, window: Window): Promise<InWindowShown> {
      const inputs = await completeInputs(testId, person);
      const { fromRpm, toRpm, stepRpm } = inputs.definition.band;
      const onGrid = (rpm: number): number => fromRpm + Math.round((rpm - fromRpm) / stepRpm) * stepRpm;
      // Beyond the planned range nothing was planned to be measured.
      const within = {
        fromRpm: Math.max(fromRpm, onGrid(window.fromRpm)),
        toRpm: Math.min(toRpm, onGrid(window.toRpm)),
      };
      if (within.toRpm - within.fromRpm < 1000)
        throw conflict(
          'WINDOW_TOO_SHORT',
          'Less than 1 000 rpm of the window lie in the planned range.',
          'Choose a wider one.',
        );
      const all = await threads.run(
        inWindowTask,
        inputs.definition,
        await bytesOf(inputs),
        inputs.policy,
        within,
      );
      return { ...all, averages: [...all.averages], refused: [...all.refused] };
    },

    /** Gains by the use profiles as they are now; nothing of it is kept, nothing can be claimed from it. */
    async byUse(testId: string, person: Person): Promise<GainsByUse> {
      const inputs = await completeInputs(testId, person);
      const { profiles } = await useProfiles(db);
      const used = profiles.filter((profile) => !profile.retired);
      const arms = await threads.run(
        byUseTask,
        inputs.definition,
        await bytesOf(inputs),
        inputs.policy,
        used.map((profile) => profile.points),
      );
      return {
        profiles: used.map(({ id, name, version }) => ({ id, name, version })),
        arms: arms.map(({ arm, uses }) => ({ arm, uses: [...uses] })),
      };
    },

    /** What every standard would say of the present inputs; nothing of it is kept, and nothing can be claimed from it. */
    async byStandard(testId: string, person: Person): Promise<ByStandard> {
      const inputs = await completeInputs(testId, person);
      const all = await threads.run(byStandardTask, inputs.definition, await bytesOf(inputs), inputs.policy);
      return { standards: all.map((under) => ({ ...under, gains: [...under.gains] })) };
    },

    /** The analysis of the present inputs with the air of every pull, or what it waits for. */
    async state(testId: string, person: Person): Promise<AnalysisState> {
      const { row, pullRows, inputs, waitsFor, analysis, problem } = await current(testId, person);
      const known = await sensorsOf(db, row.dyno.id, inputs.until ?? now());
      const air = Object.fromEntries(
        pullRows.flatMap(({ pull, air: reading }) =>
          reading
            ? [
                [
                  pull.label,
                  airShown(
                    airReadingOf(reading, inputs.dyno.siteHeightM),
                    engineOf(row.fitment),
                    row.test.boostedSchool,
                    {
                      standard: row.test.standard,
                      sensors: known,
                    },
                  ),
                ],
              ]
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

/** As JSON keeps it: typed arrays as lists, no value where a number is not finite. */
const plainJson = <T>(value: T): T =>
  JSON.parse(
    JSON.stringify(value, (_, v: unknown) => (typeof v === 'number' && !Number.isFinite(v) ? null : v)),
  ) as T;
