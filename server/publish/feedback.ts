/**
 * What the maker of a part is sent: how it fitted, what its tests showed, notes, photographs and pulls. The maker may
 * know this part; every other one is named as anybody without clearance reads it, and the files of a session that has
 * another part under embargo in it stay in the house.
 */
import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { strToU8, zipSync, type Zippable } from 'fflate';
import type { Person } from '../../contract/base/http.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { Finding } from '../../core/judge/finding.ts';
import { fittingLines, resultLine, type FittingFact } from '../../core/publish/feedback.ts';
import { withNames } from '../../core/register/references.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { notFound } from '../base/refusals.ts';
import { sha256Of } from '../base/sha256.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import { entriesOf, sessionsOf } from '../capture/bench-repository.ts';
import type { Photographs } from '../capture/photographs.ts';
import { listPulls } from '../capture/repository.ts';
import { rawFiles } from '../capture/tables.ts';
import { analyses } from '../judge/tables.ts';
import { tests } from '../plan/tables.ts';
import { revisionsInArms, today } from '../register/embargo.ts';
import { namesFor } from '../register/references.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { partRevisions, parts } from '../register/tables.ts';
import { feedbackPage, safe, type FeedbackTest } from './feedback-page.ts';

/** Tests that a pack holds at most, the latest; whoever wants more asks. */
const MOST_TESTS = 20;
type Part = typeof parts.$inferSelect;
type Revision = typeof partRevisions.$inferSelect;
interface FeedbackNeeds {
  readonly detail: (person: Person, testId: string) => Promise<TestDetail>;
  readonly photographs: Pick<Photographs, 'list' | 'copy'>;
}

/** Tests in whose arms the part is fitted, the latest first, with what stands of each. */
const testsOf = (db: Queryable, partId: string) =>
  db
    .select({ id: tests.id, number: tests.number, result: analyses.result, until: analyses.until })
    .from(tests)
    .innerJoin(analyses, eq(analyses.id, standingAnalysis('tests')))
    .where(
      sql`exists (select from ${revisionsInArms} a join part_revisions r on r.id = a.revision_id
        where a.test_id = ${tests.id} and r.part_id = ${partId})`,
    )
    .orderBy(desc(tests.number))
    .limit(MOST_TESTS + 1);
type Held = Awaited<ReturnType<typeof testsOf>>[number];

/** Whether another part in the test may not be known to the maker of this one. */
async function hidesAnother(db: Queryable, testId: string, partId: string, now: Date): Promise<boolean> {
  const { rows } = await db.execute<{ hidden: boolean }>(sql`select exists (
    select 1 from ${revisionsInArms} a join part_revisions r on r.id = a.revision_id join parts p on p.id = r.part_id
      where a.test_id = ${testId} and p.id <> ${partId} and p.embargo_until > ${today(now)}) as hidden`);
  return rows[0]?.hidden ?? false;
}

interface Noted {
  readonly fitting: FittingFact[];
  readonly notes: string[];
}
/** What was written down at the dyno of the arms with the part: fitting, and notes of the session. */
async function notedAt(db: Queryable, testId: string, arms: ReadonlySet<string>): Promise<Noted> {
  const entries = [];
  for (const session of await sessionsOf(db, testId)) entries.push(...(await entriesOf(db, session.id)));
  return {
    fitting: entries.flatMap(({ body }) =>
      body.kind === 'fitted' && arms.has(body.arm)
        ? [
            {
              minutes: body.minutes,
              difficulty: body.difficulty,
              tools: body.tools,
              broke: body.broke,
              renewed: [...(body.service ?? []), body.renewed].filter((text) => text !== '').join(', '),
            },
          ]
        : [],
    ),
    notes: entries.flatMap(({ body }) => {
      if (body.kind === 'note' || body.kind === 'drive') return [body.text];
      if (body.kind === 'sound') return [`${body.db} dB at ${body.rpm} rpm, ${body.place}`];
      return body.kind === 'surface' ? [`${body.part}: ${body.temperatureC} °C`] : [];
    }),
  };
}

const ofArm = (findings: readonly Finding[], arms: ReadonlySet<string>): FeedbackTest['findings'] =>
  findings
    .filter((f) => f.state !== 'pass' && (f.arm === undefined || arms.has(f.arm)))
    .map(({ gate, state, message, mend }) => ({ gate, state, message, mend: mend ?? '' }));

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createFeedback(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  { detail, photographs }: FeedbackNeeds,
) {
  /** One test as it is told, and its files under their paths in the pack. */
  async function toldOf(
    person: Person,
    partId: string,
    held: Held,
  ): Promise<{ test: FeedbackTest; files: Zippable }> {
    const { plan, fitment, arms, dyno } = await detail(person, held.id);
    const revisions = new Set(await revisionsOf(partId));
    const own = arms.filter(
      (arm) =>
        arm.role === 'part' &&
        arm.changes.some((c) => c.kind === 'part fitted' && revisions.has(c.partRevisionId)),
    );
    const keys = new Set(own.map((arm) => arm.key));
    const withheld = await hidesAnother(db, held.id, partId, now());
    const { fitting, notes } = await notedAt(db, held.id, keys);
    const result = held.result;
    const base = `test-${held.number}`;
    const files: Zippable = {};
    const pictures: FeedbackTest['pictures'] = [];
    if (!withheld) {
      const baseline = arms.find((arm) => arm.role === 'baseline')?.key;
      Object.assign(files, await pullsOf(held.id, base, new Set([...keys, baseline ?? ''])));
      for (const photo of (await photographs.list(person, held.id)).photographs) {
        if (photo.arm !== null && !keys.has(photo.arm)) continue;
        const path = `${base}/photograph-${pictures.length + 1}.jpg`;
        files[path] = [
          new Uint8Array(await photographs.copy(person, held.id, photo.id, 'view')),
          { level: 0 },
        ];
        pictures.push({ path, caption: photo.caption });
      }
    }
    return {
      test: {
        number: held.number,
        fitment: fitmentName(fitment),
        dyno: dyno.kind,
        day: held.until ? today(held.until) : '',
        standard: plan.standard,
        arms: own.map((arm) => ({
          label: arm.label,
          differs: arm.differences.map((d) => `${d.subject}: ${d.from} to ${d.to}`),
          result: resultLine(result, arm.key),
        })),
        findings: ofArm(result.findings, keys),
        fitting,
        notes,
        pictures,
        files: Object.keys(files).filter((path) => path.endsWith('.csv')),
        withheld,
      },
      files,
    };
  }

  /** Pulls of some arms with their files as they came. */
  async function pullsOf(testId: string, base: string, arms: ReadonlySet<string>): Promise<Zippable> {
    const rows = (await listPulls(db, [testId])).filter(({ pull, file }) => file && arms.has(pull.arm));
    if (rows.length === 0) return {};
    const bytes = new Map(
      (
        await db
          .select({ sha256: rawFiles.sha256, bytes: rawFiles.bytes })
          .from(rawFiles)
          .where(
            inArray(
              rawFiles.sha256,
              rows.map(({ file }) => file!.sha256),
            ),
          )
      ).map((row) => [row.sha256, row.bytes]),
    );
    return Object.fromEntries(
      rows.map(({ pull, file }) => [
        `${base}/${pull.arm}-${pull.label}.csv`,
        new Uint8Array(bytes.get(file!.sha256)!),
      ]),
    );
  }

  const revisionsOf = async (partId: string): Promise<string[]> =>
    (
      await db.select({ id: partRevisions.id }).from(partRevisions).where(eq(partRevisions.partId, partId))
    ).map((row) => row.id);

  const latestOf = async (partId: string): Promise<{ part: Part; revision: Revision }> => {
    const [row] = await db
      .select({ part: parts, revision: partRevisions })
      .from(parts)
      .innerJoin(partRevisions, eq(partRevisions.partId, parts.id))
      .where(and(eq(parts.id, partId)))
      .orderBy(desc(partRevisions.createdAt), asc(partRevisions.id))
      .limit(1);
    if (!row) throw notFound('part');
    return row;
  };

  return {
    /** The pack as the bytes of a zip; that it was made, and its hash, stand in the trail. */
    async pack(person: Person, partId: string): Promise<{ name: string; bytes: Buffer; sha256: string }> {
      const { part, revision } = await latestOf(partId);
      const held = await testsOf(db, partId);
      const told = [];
      for (const one of held.slice(0, MOST_TESTS)) told.push(await toldOf(person, partId, one));
      const page = feedbackPage({
        part: { name: part.name, sku: part.sku, maker: part.maker, category: part.category },
        revision: revision.revision,
        fitting: fittingLines(
          told.flatMap(({ test }) => test.fitting),
          revision.installHours,
        ),
        tests: told.map(({ test }) => test),
        more: held.length > MOST_TESTS,
        made: today(now()),
      });
      // The maker reads this part by its name, and the others as anybody does.
      const others = await namesFor(db, page, undefined, now());
      const named = withNames(page, (id) => safe(id === partId ? part.name : others(id)));
      const files: Zippable = Object.assign({}, ...told.map((one) => one.files)) as Zippable;
      const bytes = Buffer.from(zipSync({ 'feedback.html': strToU8(named), ...files }, { level: 6 }));
      const sha256 = await sha256Of(bytes);
      await recordAudit(db, now(), person, 'made feedback pack', 'part', partId, {
        tests: told.map(({ test }) => test.number),
        sha256,
      });
      return { name: `feedback-${part.sku.replace(/[^\w-]+/g, '-')}.zip`, bytes, sha256 };
    },
  };
}
export type FeedbackService = ReturnType<typeof createFeedback>;
