/**
 * Tests, their arms, pulls with files and air readings, and the analyses of nine in ten of them, filled by SQL with
 * the triggers off: what a house that has measured for years would hold. Results are of the size of real ones.
 */
import type pg from 'pg';

export interface TestsSize {
  readonly tests: number;
  readonly pulls: number;
  /** Tests that all lie on one fitment, so that its page in the catalogue is a long one. */
  readonly onOneFitment: number;
}

/** A curve with as many points as a stored gain curve has. */
const CURVE = `(select jsonb_agg(jsonb_build_object('rpm', 2500 + 50 * i, 'gain', i / 20.0, 'lower', i / 20.0 - 0.61,
  'upper', i / 20.0 + 0.61, 'n', 9, 'df', 6)) from generate_series(0, 80) i)`;
const GLYPH = `(select jsonb_build_object('rpm', jsonb_agg(2500 + 100 * i), 'gain', jsonb_agg(i / 10.0),
  'lower', jsonb_agg(round(i / 10.0 - 0.613, 3)), 'upper', jsonb_agg(round(i / 10.0 + 0.613, 3)))
  from generate_series(0, 40) i)`;

export async function fillTests(client: pg.Client, size: TestsSize, person: string): Promise<void> {
  await client.query('select setseed(0.42)');
  await client.query(
    `with crowded as (select fitment_id from applications group by 1 order by count(*) desc, 1 limit 1),
      chosen as (select a.part_id, a.fitment_id, row_number() over () as n from (
        (select part_id, fitment_id from applications where fitment_id = (select fitment_id from crowded) limit $3)
        union all (select part_id, fitment_id from (select * from applications where fitment_id <> (select fitment_id from crowded)
          order by random() limit $1 - $3) r)) a)
    insert into tests (id, question, fitment_id, vehicle_id, part_revision_id, dyno_id, standard, from_rpm,
      to_rpm, step_rpm, smoothing_rpm, confidence, drift_bound, metric, protocol, run_order, pulls_per_run,
      warm_ups, remount, gear, fuel, calibration, created_by, created_at, updated_at, locked_at, locked_by,
      plan_hash)
    select gen_random_uuid(), 'What does it give?', c.fitment_id, v.id, r.id, d.id, 'none', 2500, 6500, 50, 200,
      0.95, 0.3, 'upTo', 'A-B-A', '{stock,part,stock}', 3, 3, false, '4th', '95', 'stock', $2, now(), now(),
      now(), $2, 'hash'
      from chosen c join vehicles v on v.fitment_id = c.fitment_id join part_revisions r on r.part_id = c.part_id
      cross join dynos d order by c.n`,
    [size.tests, person, size.onOneFitment],
  );
  await client.query(
    `insert into test_arms (test_id, key, position, label, role, part_revision_id, scope)
      select id, 'stock', 0, 'stock', 'baseline', null, '' from tests union all
      select id, 'part', 1, 'part', 'part', part_revision_id, 'part alone' from tests`,
  );
  await fillPulls(client, size, person);
  await client.query(
    `insert into analyses (id, test_id, number, inputs_hash, inputs, result, curves, policy, software_version,
          computed_at, until, glyphs)
      select gen_random_uuid(), id, 1, 'h', '{}', jsonb_build_object('verdict', case
        when number % 9 = 0 then 'no gain shown' else 'claim' end,
          'grade', 'standard', 'findings', (select jsonb_agg(jsonb_build_object('gate', 'gate ' || i, 'state',
            'pass', 'text', repeat('said of it ', 12))) from generate_series(1, 20) i),
          'contrasts', jsonb_build_array(jsonb_build_object('arm', 'part', 'relative', c.curve, 'power', c.curve,
          'torque', c.curve))),
        jsonb_build_object('pulls', jsonb_build_array(c.curve, c.curve, c.curve, c.curve)), '{}', 'bench', now(),
          now(), jsonb_build_object('part', g.glyph)
      from tests cross join (select ${CURVE} as curve) c cross join (select ${GLYPH} as glyph) g where number % 10 <> 0`,
  );
  await client.query(
    `insert into contrasts (analysis_id, position, with_excluded, arm, against, design, up_to_pct, up_to_pct_rpm,
      up_to_kw, up_to_kw_rpm, up_to_nm, up_to_nm_rpm, average_pct, average_pct_lower, average_pct_upper, peak_kw,
      peak_kw_lower, peak_kw_upper, peak_at_edge, worst_pct, worst_pct_rpm, proven_losses)
      select id, 0, false, 'part', 'stock', 'bracketed', 3, 5200, 4.2, 5200, 6, 4100, 2, 1, 3, 4, 3, 5, false, -0.2,
          2500, 0 from analyses`,
  );
  await client.query('update tests t set current_analysis_id = a.id from analyses a where a.test_id = t.id');
  await client.query(
    `insert into analysis_inputs (analysis_id, kind, subject_id, version)
      select a.id, k.kind, case k.kind when 'plan' then t.id when 'vehicle' then t.vehicle_id when 'fitment' then t.fitment_id
          when 'dyno' then t.dyno_id when 'ledger' then t.vehicle_id when 'part revision' then t.part_revision_id
          else '00000000-0000-4000-8000-000000000001'::uuid end, 0
        from analyses a join tests t on t.id = a.test_id
        cross join unnest(array['plan','vehicle','fitment','dyno','ledger','part revision','policy','software']) as k(kind)
      union all select a.id, k.kind, p.id, 1 from analyses a join pulls p on p.test_id = a.test_id
        cross join unnest(array['file','air']) as k(kind)`,
  );
}

/** The same number of pulls in each test, in three runs; those of the last test of twenty still wait for their files. */
async function fillPulls(client: pg.Client, size: TestsSize, person: string): Promise<void> {
  const each = Math.round(size.pulls / size.tests);
  await client.query(
    `insert into pulls (id, test_id, position, label, run, arm, mount, counted)
      select gen_random_uuid(), t.id, i, 'P' || i, 1 + i * 3 / ($1 + 1), case
        when i * 3 / ($1 + 1) = 1 then 'part' else 'stock' end, 1, i % 3 <> 1
        from tests t cross join generate_series(1, $1) i`,
    [each],
  );
  await client.query(
    `insert into raw_files (sha256, bytes, size, stored_at, stored_by)
      select encode(sha256(b), 'hex'), b, octet_length(b), now(), $1
        from (select convert_to('rpm,power ' || p.id, 'UTF8') as b from pulls p join tests t on t.id = p.test_id
          where t.number % 20 <> 0) r`,
    [person],
  );
  await client.query(
    `insert into pull_files (id, pull_id, sha256, name, found, attached_at, attached_by)
      select gen_random_uuid(), p.id, encode(sha256(convert_to('rpm,power ' || p.id, 'UTF8')), 'hex'),
          p.label || '.csv', '{}', now(), $1
        from pulls p join tests t on t.id = p.test_id where t.number % 20 <> 0`,
    [person],
  );
  // The triggers are off while a house is filled.
  await client.query(
    'insert into begun_tests (test_id) select distinct p.test_id from pulls p join pull_files f on f.pull_id = p.id',
  );
  await client.query(
    `insert into air_readings (id, pull_id, temperature_c, pressure_hpa, pressure_kind, humidity_kind,
      humidity_value, entered_at, entered_by)
      select gen_random_uuid(), p.id, 21, 1003, 'station', 'relative', 45, now(), $1
        from pulls p join tests t on t.id = p.test_id where t.number % 20 <> 0`,
    [person],
  );
}
