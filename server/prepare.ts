/** Brings a database up to date as its owner, or makes sure that somebody has. */
import { randomUUID } from 'node:crypto';
import type pg from 'pg';
import type { Logger } from 'pino';
import { isUpToDate, migrateUp, openDb, openPool } from './base/db.ts';
import { prepareQueue } from './base/later.ts';
import { grantRights, roleOf } from './base/rights.ts';
import { inThisThread } from './base/threads.ts';
import { referOldTexts } from './register/refer-old-texts.ts';

interface House {
  readonly log: Logger;
  readonly softwareVersion: string;
}

/**
 * Migrates, mends old texts, makes the queue's tables, and gives a role what the servers need and no more.
 *
 * @param ownerUrl address with the role that owns the tables
 * @param role the role the servers run under; none where it is the owner itself
 */
export async function bringUpToDate(
  ownerUrl: string,
  role: string | undefined,
  { log, softwareVersion }: House,
): Promise<void> {
  const pool = openPool(ownerUrl, (error) => log.error({ error: error.message }, 'database connection lost'));
  try {
    await migrateUp(pool);
    await referOldTexts({
      db: openDb(pool),
      now: () => new Date(),
      newId: randomUUID,
      log,
      softwareVersion,
      threads: inThisThread,
    });
    await prepareQueue(ownerUrl, log);
    if (role !== undefined) await grantInTurn(pool, role);
  } finally {
    await pool.end();
  }
}

async function grantInTurn(pool: pg.Pool, role: string): Promise<void> {
  const owner = await pool.connect();
  try {
    await owner.query('select pg_advisory_lock(727005)');
    await grantRights(owner, role);
  } finally {
    // The lock goes with the connection.
    owner.release(true);
  }
}

/**
 * Before a server answers. A role that owns the tables brings them up to date itself, with a warning: what the database
 * refuses, it could undo. Any other only looks.
 *
 * @throws where the tables are not those of this version and the role may not change them
 */
export async function ensureReady(pool: pg.Pool, url: string, house: House): Promise<void> {
  const { role, owns } = await roleOf(pool);
  if (owns) {
    house.log.warn(
      { role },
      'DATABASE_URL is a role that owns the tables or is a superuser: triggers and rights do not bind it. ' +
        'Give the owner as DATABASE_OWNER_URL and a role of its own as DATABASE_URL; README says how.',
    );
    await bringUpToDate(url, undefined, house);
  } else if (!(await isUpToDate(pool))) {
    throw new Error(
      `The database is not up to date, and ${role} may not change its tables. ` +
        'Run `npm run migrate` with DATABASE_OWNER_URL and DATABASE_URL set.',
    );
  }
}
