/**
 * What the public reads of a claim, put together once, when it is approved: page, evidence and test file, with the
 * names and records of that day. Later changes of the register do not reach it.
 */
import { and, eq, inArray } from 'drizzle-orm';
import type { AirFileSaid } from '../../contract/capture/air-file.ts';
import type { Claim, ClaimSnapshot, Evidence } from '../../contract/publish/claim.ts';
import type { TestFile } from '../../contract/judge/test-file.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { glyphOf } from '../../core/compare/glyph.ts';
import { isRefused, type TestDefinition } from '../../core/judge/analyse-test.ts';
import { resolveReferences } from '../register/references.ts';
import type { Queryable } from '../base/db.ts';
import { RefusalError } from '../base/refusals.ts';
import { airFiles, airReadings, pullFiles, pullLogs, rawFiles } from '../capture/tables.ts';
import { analyses } from '../judge/tables.ts';
import { findTest } from '../plan/repository.ts';
import { amendmentsShown } from '../plan/plan-document.ts';
import { pulls } from '../plan/tables.ts';
import { fitments } from '../register/tables.ts';
import { controlsOf } from './control-evidence.ts';
import { publicClaim } from './repository.ts';

type AnalysisRow = typeof analyses.$inferSelect;

/** Decimals of the most exact of some readings, one or two, so that a column reads alike. */
const decimalsOf = (values: readonly number[]): number =>
  Math.min(2, Math.max(1, ...values.map((v) => (String(v).split('.')[1] ?? '').length)));
const short = (value: number): string => String(Number(value.toFixed(1)));

/** Readings as they were taken, those of one test to the same decimals. */
function airTexts(pulls: TestDefinition['pulls']): (pull: TestDefinition['pulls'][number]) => string | null {
  const air = pulls.flatMap((p) => p.air ?? []);
  const degrees = decimalsOf(air.map((a) => a.temperatureC));
  const hectopascals = decimalsOf(air.map((a) => a.pressureHpa));
  return ({ air }) => {
    if (!air) return null;
    const { humidity, pressureHpa, pressureKind } = air;
    const damp =
      humidity.kind === 'relative'
        ? `${short(humidity.percent)} % RH`
        : `${humidity.kind} ${short(humidity.temperatureC)} °C`;
    const pressure = `${pressureHpa.toFixed(hectopascals)} hPa${pressureKind === 'sea level' ? ' at sea level' : ''}`;
    return `${air.temperatureC.toFixed(degrees)} °C, ${pressure}, ${damp}`;
  };
}

/** What a person said of a station’s file, and not the file itself. */
const answersOf = ({ clockAheadS, pressureKind, temperature }: AirFileSaid): string[] => [
  ...(clockAheadS ? [`its clock taken as ${clockAheadS} s ahead`] : []),
  ...(pressureKind
    ? [`its pressure said to be ${pressureKind === 'station' ? 'the station’s' : 'reduced to sea level'}`]
    : []),
  ...(temperature ? [`“${temperature}” said to be the air`] : []),
];

/** Which readings of a test were joined from a station’s file: its name, hash and lines, by pull. */
async function airFilesOf(tx: Queryable, testId: string): Promise<Map<string, string>> {
  const rows = await tx
    .select({
      pullId: airReadings.pullId,
      lines: airReadings.airLines,
      name: airFiles.name,
      sha256: airFiles.sha256,
      said: airFiles.said,
    })
    .from(airReadings)
    .innerJoin(airFiles, eq(airFiles.id, airReadings.airFileId))
    .where(and(eq(airFiles.testId, testId), eq(airReadings.current, true)));
  return new Map(
    rows.map(({ pullId, lines, name, sha256, said }) => [
      pullId,
      [
        `${name}, ${lines!.length === 1 ? 'line' : 'lines'} ${lines!.join(' and ')}`,
        `SHA-256 ${sha256.slice(0, 10)}…`,
        ...answersOf(said),
      ].join(', '),
    ]),
  );
}
const withSource = (air: string | null, source: string | undefined): string | null =>
  air !== null && source !== undefined ? `${air} (${source})` : air;

/** Evidence of a claim from its own analysis; names as references where they are names of parts. */
// eslint-disable-next-line max-lines-per-function -- one document, field by field
async function evidenceOf(tx: Queryable, claim: Claim, analysis: AnalysisRow): Promise<Evidence> {
  const definition = analysis.inputs.definition as TestDefinition;
  const airOf = airTexts(definition.pulls);
  const contrast = analysis.result.contrasts.find((c) => c.arm === claim.arm);
  if (!contrast || isRefused(contrast))
    throw new RefusalError(
      500,
      'EVIDENCE_BROKEN',
      'The analysis of this claim is not there.',
      'Tell the test manager.',
    );
  const { test, vehicle, dyno } = await findTest(tx, claim.testId);
  const pullRows = await tx.select().from(pulls).where(eq(pulls.testId, claim.testId));
  const joined = await airFilesOf(tx, claim.testId);
  const hashes = definition.pulls.flatMap((p) => (p.file ? [p.file] : []));
  const logs = await logsOf(tx, definition);
  const controls = await controlsOf(tx, test.controlId, definition);
  const stored = hashes.length
    ? await tx
        .select({
          sha256: rawFiles.sha256,
          size: rawFiles.size,
          name: pullFiles.name,
          pullId: pullFiles.pullId,
        })
        .from(pullFiles)
        .innerJoin(rawFiles, eq(rawFiles.sha256, pullFiles.sha256))
        .where(inArray(rawFiles.sha256, hashes))
    : [];
  return {
    claim: publicClaim(claim),
    vehicle: vehicle.tag,
    dyno: `${dyno.name}, ${dyno.kind}`,
    planLockedAt: test.lockedAt?.toISOString() ?? null,
    planHash: test.planHash,
    approvedBy: claim.reviewer?.name ?? '',
    draftedBy: claim.author.name,
    amendments: await amendmentsShown(tx, claim.testId),
    analysis: {
      number: analysis.number,
      at: analysis.computedAt.toISOString(),
      inputsHash: analysis.inputsHash,
      softwareVersion: analysis.softwareVersion,
      policyVersion: analysis.policy.version,
    },
    curve: glyphOf(contrast)!,
    result: analysis.result,
    ...(controls ? { controls } : {}),
    pulls: definition.pulls.map((pull) => {
      // An extra warm-up pull has no place on the run sheet, and no file that stands for one.
      const row = pullRows.find((p) => p.label === pull.id);
      const file = row && stored.find((s) => s.sha256 === pull.file && s.pullId === row.id);
      const own = analysis.result.pulls.find((p) => p.id === pull.id);
      return {
        id: row?.id ?? pull.id,
        label: pull.id,
        position: pull.order,
        arm: pull.arm,
        counted: pull.counted,
        excluded: pull.excluded ?? null,
        air: withSource(airOf(pull), row && joined.get(row.id)),
        factor: own?.factor ?? null,
        peakKw: own?.peakPower?.kw ?? null,
        file: file ? { name: file.name, sha256: file.sha256, size: file.size } : null,
        ...(pull.log && logs.has(pull.log.file)
          ? { log: { ...logs.get(pull.log.file)!, offsetS: pull.log.offsetS } }
          : {}),
      };
    }),
  };
}

/** Logs that were joined to the pulls of a test, by hash. */
async function logsOf(tx: Queryable, { pulls: list }: TestDefinition) {
  const hashes = list.flatMap((pull) => (pull.log ? [pull.log.file] : []));
  if (hashes.length === 0) return new Map<string, { name: string; sha256: string; size: number }>();
  const rows = await tx
    .select({ name: pullLogs.name, sha256: rawFiles.sha256, size: rawFiles.size })
    .from(pullLogs)
    .innerJoin(rawFiles, eq(rawFiles.sha256, pullLogs.sha256))
    .where(inArray(rawFiles.sha256, hashes));
  return new Map(rows.map((row) => [row.sha256, row]));
}

/** A test as `evidentia-test/1`: with the raw files beside it, the command line computes the same result. */
export function testFileOf(definition: TestDefinition, policy: AnalysisRow['policy']): TestFile {
  const { pulls: list, plan, metrics, ...rest } = definition;
  return {
    format: 'evidentia-test/1',
    ...rest,
    arms: [...rest.arms],
    policy,
    ...(metrics ? { metrics: [...metrics] } : {}),
    ...(plan
      ? {
          plan: {
            lockedAt: plan.lockedAt,
            firstPullAt: plan.firstPullAt,
            ...(plan.amendments
              ? { amendments: plan.amendments.map((a) => ({ ...a, fields: [...a.fields] })) }
              : {}),
          },
        }
      : {}),
    pulls: list.map(({ air, applied, file, log, ...pull }) => ({
      ...pull,
      ...(log ? { log: { ...log, file: `pulls/${pull.id}-log.csv` } } : {}),
      ...(file ? { file: `pulls/${pull.id}.csv` } : {}),
      ...(applied ? { applied: { standard: applied.standard, factor: applied.factor } } : {}),
      ...(air
        ? {
            air: {
              temperatureC: air.temperatureC,
              pressureHpa: air.pressureHpa,
              pressureKind: air.pressureKind,
              siteHeightM: air.siteHeightM,
              ...(air.humidity.kind === 'relative'
                ? { humidityPct: air.humidity.percent }
                : air.humidity.kind === 'dew point'
                  ? { dewPointC: air.humidity.temperatureC }
                  : { wetBulbC: air.humidity.temperatureC }),
            },
          }
        : {}),
    })),
  };
}

/** Puts together what the public will read of a claim, every name resolved as it is now. */
export async function snapshotOf(
  tx: Queryable,
  claim: Claim & { fitmentId: string },
): Promise<ClaimSnapshot> {
  const [analysis] = await tx.select().from(analyses).where(eq(analyses.id, claim.analysisId));
  const [fitment] = await tx.select().from(fitments).where(eq(fitments.id, claim.fitmentId));
  const { plan: _plan, ...definition } = analysis.inputs.definition as TestDefinition;
  const snapshot: ClaimSnapshot = {
    evidence: await evidenceOf(tx, claim, analysis),
    testFile: testFileOf({ ...definition, ...(_plan ? { plan: _plan } : {}) }, analysis.policy),
    fitment: { name: fitmentName(fitment), version: fitment.version },
  };
  return resolveReferences(tx, snapshot);
}
