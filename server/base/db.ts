import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { keepingDeeds } from './deeds.ts';

export type Db = NodePgDatabase;
/** A database or a transaction in it: what repositories take. */
export type Queryable = Pick<Db, 'select' | 'selectDistinctOn' | 'insert' | 'update' | 'delete' | 'execute'>;

/** Likeness of a typed word to a word of a text from which it counts as meant (pg_trgm, 0 to 1). */
const LIKE_ENOUGH = 0.5;

/** How long anything may take in the database, ms: one statement, a transaction that does nothing. */
const TIMEOUTS = { statement_timeout: 60_000, idle_in_transaction_session_timeout: 60_000 };
/** How long a request waits for a connection, and for what somebody else holds, ms. */
const [CONNECT_MS, LOCK_MS] = [5000, 15_000];

/**
 * @param onLost told of a connection that was lost, whether somebody was using it or not
 * @param patience times as long as usual a request waits: more where the machine is known to stand still at times
 */
export function openPool(
  databaseUrl: string,
  onLost: (error: Error) => void = () => undefined,
  patience = 1,
): pg.Pool {
  const settings = {
    // Compiling a plan takes longer than any question asked here.
    jit: 'off',
    'pg_trgm.word_similarity_threshold': LIKE_ENOUGH,
    lock_timeout: patience * LOCK_MS,
    ...TIMEOUTS,
  };
  const pool = new pg.Pool({
    connectionString: databaseUrl,
    max: 12,
    connectionTimeoutMillis: patience * CONNECT_MS,
    keepAlive: true,
    application_name: 'evidentia',
    options: Object.entries(settings)
      .map(([name, value]) => `-c ${name}=${value}`)
      .join(' '),
  });
  pool.on('error', onLost);
  // A connection that is lost while a transaction holds it has nobody else who listens: the process would end.
  pool.on('connect', (client) => client.on('error', onLost));
  return pool;
}
export const openDb = (pool: pg.Pool): Db => keepingDeeds(drizzle(pool, { casing: 'snake_case' }));

/** The SQL files lie beside the sources; a bundle finds them from the project's root. */
function migrationsFolder(): string {
  const here = dirname(fileURLToPath(import.meta.url));
  const candidates = [
    join(here, 'migrations'),
    join(here, '../../server/base/migrations'),
    join(process.cwd(), 'server/base/migrations'),
  ];
  const found = candidates.find(existsSync);
  if (!found) throw new Error(`No migrations found; looked in ${candidates.join(', ')}.`);
  return found;
}

/** Brings the schema up to date; several servers starting at once take turns by an advisory lock. */
export async function migrateUp(pool: pg.Pool): Promise<void> {
  const client = await pool.connect();
  try {
    // Others may migrate first, and a large house takes its time.
    await client.query('set statement_timeout = 0; set lock_timeout = 0');
    await client.query('select pg_advisory_lock(727001)');
    await migrate(drizzle(client, { casing: 'snake_case' }), { migrationsFolder: migrationsFolder() });
  } finally {
    // Its settings and its lock go with the connection.
    client.release(true);
  }
}

/** Whether every migration this server knows has been run here. */
export async function isUpToDate(pool: pg.Pool): Promise<boolean> {
  const { entries } = JSON.parse(readFileSync(join(migrationsFolder(), 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[];
  };
  const { rows } = await pool.query<{ there: boolean }>(
    "select to_regclass('drizzle.__drizzle_migrations') is not null as there",
  );
  if (!rows[0].there) return false;
  const run = await pool.query<{ newest: string | null }>(
    'select max(created_at) as newest from drizzle.__drizzle_migrations',
  );
  return Number(run.rows[0].newest) >= Math.max(...entries.map(({ when }) => when));
}
