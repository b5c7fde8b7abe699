/**
 * Loads the demo once, and names the stand-ins that run beside it (`EVIDENTIA_STAND_INS`): `DATABASE_URL=… node dist/server/demo.js`.
 * A database that has people in it is left alone. */
import pino from 'pino';
import { openDb, openPool } from '../server/base/db.ts';
import { SOFTWARE_VERSION } from '../server/base/house.ts';
import { people } from '../server/base/tables.ts';
import { ensureReady } from '../server/prepare.ts';
import { nameStandIns } from './register/stand-ins.ts';
import { loadDemo } from './publish/story.ts';

const { DATABASE_URL, EVIDENTIA_VERSION = SOFTWARE_VERSION } = process.env;
const log = pino({ level: 'error' });
const pool = openPool(DATABASE_URL!, undefined, Number(process.env.EVIDENTIA_PATIENCE) || undefined);
try {
  await ensureReady(pool, DATABASE_URL!, { log, softwareVersion: EVIDENTIA_VERSION });
  const db = openDb(pool);
  if ((await db.select({ id: people.id }).from(people).limit(1)).length === 0) {
    await loadDemo(
      {
        db,
        log,
        softwareVersion: EVIDENTIA_VERSION,
      },
      process.env.EVIDENTIA_DEMO_PASSWORD,
    );
    process.stdout.write('demo data loaded\n');
  }
  if (process.env.EVIDENTIA_STAND_INS) await nameStandIns(db, process.env.EVIDENTIA_STAND_INS);
} finally {
  await pool.end();
}
