import { eq, sql } from 'drizzle-orm';
import type { ClaimDetail } from '../../contract/publish/claim.ts';
import { isRefused } from '../../core/judge/analyse-test.ts';
import { doubtsInWords, type MeasuredCurves } from '../../core/publish/figures-in-words.ts';
import type { Queryable } from '../base/db.ts';
import { analyses } from '../judge/tables.ts';
import type { ClaimRow } from './claim-steps.ts';

interface Written {
  readonly [column: string]: unknown;
  readonly place: string;
  readonly text: string;
}

/** What people wrote about a test and its claim in their own words, with where it stands. */
async function writtenAbout(db: Queryable, { id, testId }: ClaimRow): Promise<Written[]> {
  const { rows } = await db.execute<Written>(sql`
    select 'the question of the test' as place, question as text from tests where id = ${testId}
    union all
    select 'the amendment of the plan, version ' || version, reason from plan_versions
      where test_id = ${testId} and reason is not null
    union all
    select 'pull ' || p.label || ', ' || e.act, e.note from pull_exclusions e join pulls p on p.id = e.pull_id
      where p.test_id = ${testId} and e.note <> ''
    union all
    select 'the bench’s record', coalesce(e.body ->> 'text', concat_ws('; ', e.body ->> 'broke', e.body ->> 'renewed'))
      from bench_entries e join bench_sessions s on s.id = e.session_id
      where s.test_id = ${testId} and e.body ->> 'kind' in ('note', 'changed', 'drive', 'fitted')
    union all
    select 'mounting ' || m.number, m.note from mountings m join bench_sessions s on s.id = m.session_id
      where s.test_id = ${testId} and m.note <> ''
    union all
    select 'the words to a photograph', caption from photographs where test_id = ${testId}
    union all
    select 'the end of the session', closing_note from bench_sessions
      where test_id = ${testId} and closing_note is not null
    union all
    select 'an answer to gate finding ' || lower(replace(code, '_', ' ')), answer from finding_answers
      where test_id = ${testId}
    union all
    select 'a change answered', concat_ws('. ', reason, nullif(evidence, '')) from change_answers
      where claim_id = ${id} and person_id is not null
    union all
    select 'the history of the claim', note from claim_events
      where claim_id = ${id} and note <> '' and person_id is not null`);
  return rows;
}

/** The curves the claim was drafted from; none where its arm gave no comparison. */
async function curvesOf(db: Queryable, { analysisId, arm }: ClaimRow): Promise<MeasuredCurves | undefined> {
  const [row] = await db
    .select({ result: analyses.result })
    .from(analyses)
    .where(eq(analyses.id, analysisId));
  const found = row?.result.contrasts.find((c) => c.arm === arm);
  if (!found || isRefused(found)) return undefined;
  return { power: found.power.curve, torque: found.torque.curve, percent: found.relative.curve };
}

/** Figures in people’s own words that agree neither with each other nor with what was measured: told to who reviews. */
export async function figuresInWords(db: Queryable, claim: ClaimRow): Promise<ClaimDetail['figures']> {
  const [written, measured] = [await writtenAbout(db, claim), await curvesOf(db, claim)];
  return written.flatMap(({ place, text }) =>
    doubtsInWords(text, measured).map(({ message }) => ({ place, text, message })),
  );
}
