/** Claims in every state, two or three a test, each with what the public reads of it; filled by SQL. */
import type pg from 'pg';

/** State by number of the claim: seven in ten are published. */
const STATE = `case n % 20 when 0 then 'draft' when 1 then 'draft' when 2 then 'in review' when 3 then 'returned'
  when 4 then 'stale' when 5 then 'withdrawn' else 'published' end`;
const UNITS = "array['kW', 'hp', '%', 'N·m']";

/** Needs tests with analyses. `inQuestion` of the published claims have a change under them that nobody answered. */
export async function fillClaims(
  client: pg.Client,
  claims: number,
  inQuestion: number,
  person: string,
): Promise<void> {
  await client.query(
    `with numbered as (select a.id as analysis_id, a.test_id, a.result, a.glyphs, t.fitment_id, t.part_revision_id,
        row_number() over (order by t.number) - 1 as at, count(*) over () as all_of_them
      from analyses a join tests t on t.id = a.test_id),
    wanted as (select i - 1 as n, numbered.*, (i - 1) / all_of_them as round from generate_series(1, $1) i
      join numbered on numbered.at = (i - 1) % all_of_them)
    insert into claims (id, code, test_id, analysis_id, fitment_id, part_revision_id, arm, subject, subject_kind,
      tells, metric, value, unit, rpm, wording, conditions, disclosures, grade, state, author_id, reviewer_id,
      drafted_at, published_at, fell_by, fell_at, snapshot)
    select gen_random_uuid(), 'C-' || n, test_id, analysis_id, fitment_id, part_revision_id, 'part', 'Part ' || n,
      'part', 'gain', 'upTo', 3.1, (${UNITS})[1 + round], 5200,
      'Up to 3.1 ' || (${UNITS})[1 + round] || ' at 5,200 rpm',
          '["On one vehicle of this fitment, measured at the wheels"]', '[]', 'standard', ${STATE}, $2,
      case when (${STATE}) in ('published', 'stale', 'withdrawn') then (select id from people where id <> $2 limit 1) end,
      now() - make_interval(mins => n), case when (${STATE}) in ('published', 'stale',
        'withdrawn') then now() - make_interval(mins => n) end,
      case when (${STATE}) in ('stale', 'withdrawn') then 'evidence' end,
      case when (${STATE}) in ('stale', 'withdrawn') then now() end,
      case when (${STATE}) in ('published', 'stale', 'withdrawn') then jsonb_build_object('fitment',
          jsonb_build_object('version', 1),
        'evidence', jsonb_build_object('result', result, 'amendments', '[]'::jsonb, 'pulls', '[]'::jsonb, 'claim',
          jsonb_build_object('code', 'C-' || n, 'fitmentSlug', fitment_id, 'fitment', 'Make Model',
          'subject', 'Part ' || n, 'subjectKind', 'part', 'tells', 'gain', 'metric', 'upTo', 'value', 3.1, 'unit',
          (${UNITS})[1 + round], 'wording', 'Up to 3.1 ' || (${UNITS})[1 + round] || ' at 5,200 rpm',
          'interval', null, 'rpm', 5200, 'conditions',
          '["On one vehicle of this fitment, measured at the wheels"]'::jsonb,
          'disclosures', '[]'::jsonb, 'grade', 'standard', 'state', 'published',
          'draftedAt', now() - make_interval(mins => n), 'publishedAt', now(), 'staleReason', null, 'glyph',
          glyphs -> 'part', 'testTitle', 'Part on Make Model', 'arm', 'part', 'armLabel', 'part')),
        'testFile', jsonb_build_object('format', 'evidentia-test/1', 'result', result)) end
    from wanted`,
    [claims, person],
  );
  await client.query(
    `insert into input_changes (kind, subject_id, version, at, what)
      select 'plan', test_id, 1, now(), 'the plan was amended' from (select distinct test_id from claims
        where state = 'published' order by 1 limit $1) c`,
    [inQuestion],
  );
}
