import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';

export type Db = NodePgDatabase;
/** A database or a transaction in it: what repositories take. */
export type Queryable = Pick<Db, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

/** Likeness of a typed word to a word of a text from which it counts as meant (pg_trgm, 0 to 1). */
const LIKE_ENOUGH = 0.5;

export function openPool(databaseUrl: string): pg.Pool {
  return new pg.Pool({
    connectionString: databaseUrl,
    max: 12,
    application_name: 'evidentia',
    // Compiling a plan takes longer than any question asked here.
    options: `-c jit=off -c pg_trgm.word_similarity_threshold=${LIKE_ENOUGH}`,
  });
}
export const openDb = (pool: pg.Pool): Db => drizzle(pool, { casing: 'snake_case' });

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
    await client.query('select pg_advisory_lock(727001)');
    await migrate(drizzle(client, { casing: 'snake_case' }), { migrationsFolder: migrationsFolder() });
  } finally {
    await client.query('select pg_advisory_unlock(727001)');
    client.release();
  }
}
