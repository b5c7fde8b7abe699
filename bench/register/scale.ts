/**
 * Coverage and search at the size of a large register: filled by SQL, asked over HTTP as a person's
 * browser asks. Times are the server's answer as the client sees it, on a shared machine: take the ratios.
 */
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { foundBy } from '../../core/register/phrase.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { seededRng } from '../../core/base/rng.ts';

export interface Size {
  readonly fitments: number;
  readonly parts: number;
  /** Share of the grid that has an application. */ readonly density: number;
  readonly tests: number;
}
const MAKERS = [
  'Oriel',
  'Quillon',
  'Tamsin',
  'Varrick',
  'Brackwater',
  'Halden',
  'Corran',
  'Estrel',
  'Wyndle',
  'Marrow',
];
const MODELS = [
  'Tern',
  'Sprat',
  'Adder',
  'Holm',
  'Moor',
  'Ferry',
  'Wren',
  'Dunlin',
  'Skerry',
  'Fell',
  'Teal',
  'Plover',
];
const BODIES = ['estate', 'hatchback', 'van', 'saloon', '4x4', 'coupe'];
const chunked = <T>(list: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

/** Fills an empty, migrated database; gives back the id of a person who may read it. Deterministic but for ids. */
export async function fillRegister(url: string, size: Size, seed: number): Promise<string> {
  const rng = seededRng(seed);
  const random = (): number => rng.uniform();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const person = randomUUID();
    await client.query(
      "insert into people (id, name, email, role, password_hash, clearance, created_at) values ($1, 'Bench', 'bench@house.example', 'test manager', 'none', false, now())",
      [person],
    );
    const fitments = Array.from({ length: size.fitments }, (_, i) => {
      const [maker, model, body, litres, kw] = [
        pick(MAKERS),
        pick(MODELS),
        pick(BODIES),
        1 + Math.floor(random() * 40) / 10,
        50 + Math.floor(random() * 250),
      ];
      const name = `${model} ${litres.toFixed(1)} ${body}`;
      return {
        id: randomUUID(),
        maker,
        name: `${name} ${i}`,
        kw,
        family: `F${Math.floor(i / 6)}`,
        units: Math.floor(random() * 9000),
        found: foundBy(maker, name, i, `E${Math.floor(i / 6)}`, kw, 'kW', 'EU', 2010 + (i % 14)),
      };
    });
    for (const rows of chunked(fitments, 1000)) {
      await client.query(
        `insert into fitments (id, slug, maker, model, platform_code, year_from, engine_code, displacement_cc, cylinders, aspiration, ignition, fuel, transmission, driven_wheels, output_variant, market, rated_power_kw, rated_torque_nm, rated_standard, family, units_per_year, found_by)
        select id, id::text, maker, model, 'P', 2015, 'E' || family, 1800, 4, 'turbo', 'spark', 'petrol', 'manual', 'front', kw || ' kW', 'EU', kw, 200, 'ISO 1585', family, units, found
          from unnest($1::uuid[], $2::text[], $3::text[], $4::int[], $5::text[], $6::int[], $7::text[]) as t(id, maker, model, kw, family, units, found)`,
        [
          rows.map((f) => f.id),
          rows.map((f) => f.maker),
          rows.map((f) => f.name),
          rows.map((f) => f.kw),
          rows.map((f) => f.family),
          rows.map((f) => f.units),
          rows.map((f) => f.found),
        ],
      );
    }
    const parts = Array.from({ length: size.parts }, (_, i) => ({
      id: randomUUID(),
      name: `${pick(['Tubular', 'Cold', 'Large', 'Twin', 'Short'])} ${pick(PART_CATEGORIES)} ${i}`,
      category: pick(PART_CATEGORIES),
    }));
    await client.query(
      `insert into parts (id, sku, maker, name, category, found_by, embargo_until, code_name) select id, 'SKU-' || n, 'Maker', name, category, found, case when n % 50 = 0 then date '2099-01-01' end, case when n % 50 = 0 then 'Project ' || n end
        from unnest($1::uuid[], $2::text[], $3::text[], $4::text[]) with ordinality as t(id, name, category, found, n)`,
      [
        parts.map((p) => p.id),
        parts.map((p) => p.name),
        parts.map((p) => p.category),
        parts.map((p) => foundBy(p.name, p.category)),
      ],
    );
    await client.query(
      "insert into part_revisions (id, part_id, revision, install_hours, remove_hours) select gen_random_uuid(), id, 'A', 1, 0.5 from parts",
    );
    await client.query('select setseed(0.42)');
    await client.query(
      'insert into applications (part_id, fitment_id) select p.id, f.id from parts p cross join fitments f where random() < $1',
      [size.density],
    );
    await client.query(
      "insert into dynos (id, name, site, kind, site_height_m, applies_standard, repeatability) values ($1, 'Cell', 'here', 'loaded roller', 0, 'none', '{}')",
      [randomUUID()],
    );
    await client.query(
      "insert into vehicles (id, fitment_id, tag, odometer_km) select gen_random_uuid(), id, 'car ' || id, 1 from fitments",
    );
    await client.query(
      `with chosen as (select a.part_id, a.fitment_id, row_number() over () as n from (select * from applications
        order by random() limit $1) a)
      insert into tests (id, question, fitment_id, vehicle_id, part_revision_id, dyno_id, standard, from_rpm, to_rpm, step_rpm, smoothing_rpm, confidence, drift_bound, metric, protocol, pulls_per_run, warm_ups, remount, gear, fuel, calibration, created_by, created_at, updated_at)
      select gen_random_uuid(), 'bench', c.fitment_id, v.id, r.id, d.id, 'none', 2500, 6500, 50, 200, 0.95, 0.3, 'upTo', 'A-B-A', 3, 3, false, '4th', '95', 'stock', $2, now(), now()
        from chosen c join vehicles v on v.fitment_id = c.fitment_id join part_revisions r on r.part_id = c.part_id cross
        join dynos d`,
      [size.tests, person],
    );
    await client.query(
      "insert into test_arms (test_id, key, position, label, role, part_revision_id) select id, 'part', 1, 'part', 'part', part_revision_id from tests",
    );
    await client.query(`insert into analyses (id, test_id, number, inputs_hash, inputs, result, curves, policy, software_version, computed_at, glyphs)
      select gen_random_uuid(), id, 1, 'h', '{}', jsonb_build_object('verdict', case when number % 3 = 0 then 'no gain shown' else 'claim' end), '{}', '{}', 'bench', now(),
        jsonb_build_object('part', jsonb_build_object('rpm', (select jsonb_agg(2500 + 100 * i)
          from generate_series(0, 40) i), 'gain', (select jsonb_agg(i / 10.0)
          from generate_series(0, 40) i), 'lower', (select jsonb_agg(i / 10.0 - 1)
          from generate_series(0, 40) i), 'upper', (select jsonb_agg(i / 10.0 + 1) from generate_series(0, 40) i)))
      from tests where number % 2 = 0`);
    await client.query(
      'update tests t set current_analysis_id = a.id from analyses a where a.test_id = t.id',
    );
    await client.query('vacuum analyze');
    return person;
  } finally {
    await client.end();
  }
}

export interface Timing {
  readonly what: string;
  readonly p50: number;
  readonly p95: number;
  readonly bytes: number;
}

/** Asks every question some times, in turn, and gives the middle and the slow end of the answers, ms. */
export async function timeAnswers(
  base: string,
  personId: string,
  rounds: number,
  seed: number,
): Promise<Timing[]> {
  const rng = seededRng(seed);
  const random = (): number => rng.uniform();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const signedIn = await fetch(`${base}/demo/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ personId }),
  });
  const cookie = signedIn.headers.get('set-cookie')?.split(';')[0];
  if (!cookie) throw new Error(`The bench could not sign in: ${signedIn.status} ${await signedIn.text()}`);
  const ask = async (path: string): Promise<{ ms: number; text: string }> => {
    const started = performance.now();
    const answer = await fetch(base + path, { headers: { cookie } });
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${text.slice(0, 200)}`);
    return { ms: performance.now() - started, text };
  };
  let deep = '';
  for (let i = 0; i < 5; i++) {
    const { next } = JSON.parse((await ask(`/coverage${deep ? `?after=${deep}` : ''}`)).text) as {
      next: string | null;
    };
    if (!next) break;
    deep = next;
  }
  const mistyped = (word: string): string => {
    const at = 1 + Math.floor(random() * (word.length - 2));
    return word.slice(0, at) + word[at + 1] + word[at] + word.slice(at + 2);
  };
  const questions: Record<string, () => string> = {
    'coverage, first page with counts': () => '/coverage',
    'coverage, a later page': () => `/coverage?after=${deep}`,
    'coverage, filtered by words': () =>
      `/coverage?q=${pick(MAKERS)}%20${pick(MODELS)}&part=${pick(['tubular', 'cold', 'twin'])}`,
    'coverage by family': () => '/coverage?group=families',
    'coverage, cells of one state': () => '/coverage?state=measured',
    'worth testing next': () => '/coverage/next',
    'worth testing next, filtered': () => `/coverage/next?q=${pick(MODELS)}`,
    'search, exact words': () => `/fitments?q=${pick(MAKERS)}%20${pick(MODELS)}%20${pick(BODIES)}`,
    'search, mistyped': () => `/fitments?q=${mistyped(pick(MAKERS))}%20${mistyped(pick(MODELS))}`,
    'applications grid, first page': () => '/applications',
    'parts by word': () => `/parts?q=${pick(['tubular', 'intake', 'short'])}`,
  };
  const times = new Map<string, number[]>();
  const sizes = new Map<string, number>();
  for (let round = -2; round < rounds; round++) {
    for (const [what, path] of Object.entries(questions)) {
      const { ms, text } = await ask(path());
      if (round >= 0) times.set(what, [...(times.get(what) ?? []), ms]);
      sizes.set(what, Math.max(sizes.get(what) ?? 0, text.length));
    }
  }
  const quantile = (list: readonly number[], p: number): number =>
    [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.ceil(p * list.length) - 1)];
  return [...times].map(([what, list]) => ({
    what,
    p50: quantile(list, 0.5),
    p95: quantile(list, 0.95),
    bytes: sizes.get(what)!,
  }));
}
