/** A large register, filled by SQL: fitments, parts, applications, one dyno and a vehicle a fitment. */
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { foundBy } from '../../core/register/phrase.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { seededRng } from '../../core/base/rng.ts';

export interface RegisterSize {
  readonly fitments: number;
  readonly parts: number;
  /** Share of the grid that has an application. */ readonly density: number;
}
/** Words of the names of fitments, for questions that find them. */
export const MAKERS = [
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
export const MODELS = [
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
export const BODIES = ['estate', 'hatchback', 'van', 'saloon', '4x4', 'coupe'];
const chunked = <T>(list: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

/** Fills an empty, migrated database; gives back the id of a person who may read it. Deterministic but for ids. */
// eslint-disable-next-line max-lines-per-function -- a script that fills tables one after another
export async function fillRegister(url: string, size: RegisterSize, seed: number): Promise<string> {
  const rng = seededRng(seed);
  const random = (): number => rng.uniform();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const person = randomUUID();
    await client.query(
      `insert into people (id, name, email, role, password_hash, clearance, created_at)
        values ($1, 'Bench', 'bench@house.example', 'test manager', 'none', false, now())`,
      [person],
    );
    await client.query(
      `insert into people (id, name, email, role, password_hash, clearance, created_at)
        values (gen_random_uuid(), 'Reviewer', 'reviewer@house.example', 'reviewer', 'none', false, now())`,
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
        `insert into fitments (id, slug, maker, model, platform_code, year_from, engine_code, displacement_cc,
          cylinders, aspiration, ignition, fuel, transmission, driven_wheels, output_variant, market,
          rated_power_kw, rated_torque_nm, rated_standard, family, units_per_year, found_by)
        select id, id::text, maker, model, 'P', 2015, 'E' || family, 1800, 4, 'turbo', 'spark', 'petrol',
          'manual', 'front', kw || ' kW', 'EU', kw, 200, 'ISO 1585', family, units, found
          from unnest($1::uuid[], $2::text[], $3::text[], $4::int[], $5::text[], $6::int[], $7::text[]) as t(id,
            maker, model, kw, family, units, found)`,
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
      `insert into parts (id, sku, maker, name, category, found_by, embargo_until, code_name) select id,
        'SKU-' || n, 'Maker', name, category, found, case when n % 50 = 0 then date '2099-01-01' end, case
        when n % 50 = 0 then 'Project ' || n end
        from unnest($1::uuid[], $2::text[], $3::text[], $4::text[]) with ordinality as t(id, name, category, found, n)`,
      [
        parts.map((p) => p.id),
        parts.map((p) => p.name),
        parts.map((p) => p.category),
        parts.map((p) => foundBy(p.name, p.category)),
      ],
    );
    await client.query(
      `insert into part_revisions (id, part_id, revision, install_hours, remove_hours)
        select gen_random_uuid(), id, 'A', 1, 0.5 from parts`,
    );
    await client.query('select setseed(0.42)');
    await client.query(
      'insert into applications (part_id, fitment_id) select p.id, f.id from parts p cross join fitments f where random() < $1',
      [size.density],
    );
    await client.query(
      `insert into dynos (id, name, site, kind, site_height_m, applies_standard, repeatability)
        values ($1, 'Cell', 'here', 'loaded roller', 0, 'none', '{}')`,
      [randomUUID()],
    );
    await client.query(
      "insert into vehicles (id, fitment_id, tag, odometer_km) select gen_random_uuid(), id, 'car ' || id, 1 from fitments",
    );
    return person;
  } finally {
    await client.end();
  }
}
