/**
 * Many published claims that can be evaluated again for what they are: copies of one measured test of the demo with its
 * pulls, air and analysis, each of a part of its own; two on a vehicle, a fitment and a family of their own, so that a
 * fitment has two dozen claims. Raw bytes are shared.
 */
import { createHash } from 'node:crypto';
import type pg from 'pg';

const UNITS = ['kW', 'hp', 'PS', '%'] as const;
const METRICS = ['upTo', 'bandAverage', 'peakToPeak'] as const;
/** Claims of each copy: every metric in every unit it can be told in. */
export const CLAIMS_A_TEST = UNITS.length * METRICS.length;
const ON_ONE_FITMENT = 2;

/** Rows of the template, in an order in which each refers to those before it only; `$1` is the test. */
const OF_A_TEST: readonly (readonly [table: string, where: string])[] = [
  [
    'parts',
    'id = (select part_id from part_revisions r join tests t on t.part_revision_id = r.id where t.id = $1)',
  ],
  ['part_revisions', 'id = (select part_revision_id from tests where id = $1)'],
  ['tests', 'id = $1'],
  ['test_arms', 'test_id = $1'],
  ['pulls', 'test_id = $1'],
  ['plan_versions', 'test_id = $1'],
  ['pull_files', 'pull_id in (select id from pulls where test_id = $1)'],
  ['air_readings', 'pull_id in (select id from pulls where test_id = $1)'],
  ['analyses', 'test_id = $1 and id = (select current_analysis_id from tests where id = $1)'],
  ['analysis_inputs', 'analysis_id = (select current_analysis_id from tests where id = $1)'],
  ['contrasts', 'analysis_id = (select current_analysis_id from tests where id = $1)'],
  [
    'input_versions',
    'subject_id = $1 or subject_id in (select id from pulls where test_id = $1) ' +
      'or subject_id = (select part_revision_id from tests where id = $1)',
  ],
  ['claims', "test_id = $1 and state = 'published'"],
];
const OF_A_FITMENT: readonly (readonly [table: string, where: string])[] = [
  ['fitments', 'id = (select fitment_id from tests where id = $1)'],
  ['vehicles', 'id = (select vehicle_id from tests where id = $1)'],
  ['vehicle_ledger', 'vehicle_id = (select vehicle_id from tests where id = $1)'],
];
const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** A further id that follows from one and a word: the same wherever the one stands. */
function derived(id: string, word: string): string {
  const hex = createHash('md5').update(`${id} ${word}`).digest('hex');
  return [
    hex.slice(0, 8),
    hex.slice(8, 12),
    `4${hex.slice(13, 16)}`,
    `8${hex.slice(17, 20)}`,
    hex.slice(20),
  ].join('-');
}
interface Template {
  readonly table: string;
  readonly columns: string;
  /** Rows as JSON text. */ readonly text: string;
  readonly ids: readonly string[];
}
async function templateOf(
  client: pg.Client,
  testId: string,
  tables: readonly (readonly [string, string])[],
): Promise<Template[]> {
  const out: Template[] = [];
  for (const [table, where] of tables) {
    const { rows: named } = await client.query<{ column_name: string }>(
      `select column_name from information_schema.columns where table_name = $1 and table_schema = 'public'
        and is_generated <> 'ALWAYS'`,
      [table],
    );
    const { rows } = await client.query<{ text: string; ids: string[] }>(
      `select jsonb_agg(to_jsonb(x))::text as text,
        coalesce(array_agg(to_jsonb(x) ->> 'id') filter (where to_jsonb(x) ->> 'id' is not null), '{}') as ids
        from ${table} x where ${where}`,
      [testId],
    );
    out.push({
      table,
      columns: named.map((c) => `"${c.column_name}"`).join(', '),
      text: rows[0].text ?? '[]',
      ids: rows[0].ids,
    });
  }
  return out;
}
/** Every id of the templates, replaced by one that follows from it and the copy's number. */
function copied(text: string, own: ReadonlyMap<string, string>): string {
  return text.replace(UUID, (id) => {
    const word = own.get(id);
    return word === undefined ? id : derived(id, word);
  });
}

/** @returns how many published claims there are beside the demo's own */
export async function cloneClaims(client: pg.Client, testNumber: number, tests: number): Promise<number> {
  const { rows } = await client.query<{ id: string }>('select id from tests where number = $1', [testNumber]);
  const testId = rows[0].id;
  const ofTest = await templateOf(client, testId, OF_A_TEST);
  const ofFitment = await templateOf(client, testId, OF_A_FITMENT);
  const idsOf = (of: readonly Template[]): string[] => of.flatMap((t) => t.ids);
  // The copies share their bytes, which the application lets no two pulls do.
  await client.query('drop index one_current_pull_a_file');
  await client.query('set session_replication_role = replica');
  const insert = (table: string, columns: string, text: string): Promise<unknown> =>
    client.query(
      `insert into ${table} (${columns}) overriding system value select ${columns} from jsonb_populate_recordset(null::${table}, $1)`,
      [text],
    );
  type Row = Record<string, unknown>;
  for (let i = 0; i < tests; i++) {
    const group = `group ${Math.floor(i / ON_ONE_FITMENT)}`;
    const own = new Map([
      ...idsOf(ofFitment).map((id) => [id, group] as const),
      ...idsOf(ofTest).map((id) => [id, `test ${i}`] as const),
    ]);
    if (i % ON_ONE_FITMENT === 0)
      for (const { table, columns, text } of ofFitment) {
        const made = (JSON.parse(copied(text, own)) as Row[]).map((row) => ({
          ...row,
          ...(table === 'fitments'
            ? { slug: `copy-${i}`, model: `${String(row.model)} ${i}`, family: `${String(row.family)} ${i}` }
            : {}),
          ...(table === 'vehicles' ? { tag: `CP-${i}` } : {}),
        }));
        await insert(table, columns, JSON.stringify(made));
      }
    for (const { table, columns, text } of ofTest) {
      const rowsMade = JSON.parse(copied(text, own)) as Row[];
      await insert(table, columns, JSON.stringify(rowsMade.flatMap((row) => named(table, row, i))));
    }
  }
  await client.query('set session_replication_role = default');
  await client.query("insert into places_due (kind) values ('everything')");
  await client.query('vacuum analyze');
  await client.query('select refresh_places()');
  return tests * CLAIMS_A_TEST;
}

/** What must be told apart by more than its id; a claim in each of its units. */
function named(table: string, row: Record<string, unknown>, i: number): Record<string, unknown>[] {
  if (table === 'tests') return [{ ...row, number: 10_000 + i }];
  if (table === 'parts') return [{ ...row, sku: `CP-${i}` }];
  if (table !== 'claims') return [row];
  return METRICS.flatMap((metric) =>
    UNITS.map((unit) => ({
      ...row,
      id: derived(String(row.id), `${metric} ${unit}`),
      code: createHash('md5').update(`${i} ${metric} ${unit}`).digest('hex').slice(0, 10),
      metric,
      unit,
      // The template's own number in its own words; the others say so little that they hold.
      ...(metric === row.metric && unit === row.unit ? {} : { value: 0.1 }),
    })),
  );
}
