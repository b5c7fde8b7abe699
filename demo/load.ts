/** Loads the demo once: `DATABASE_URL=… node dist/server/demo.js`. A database that has people in it is left alone. */
import pino from 'pino';
import { migrateUp, openDb, openPool } from '../server/base/db.ts';
import { SOFTWARE_VERSION } from '../server/base/house.ts';
import { people } from '../server/base/tables.ts';
import { loadDemo } from './publish/story.ts';

const pool = openPool(process.env.DATABASE_URL!);
try {
  await migrateUp(pool);
  const db = openDb(pool);
  if ((await db.select({ id: people.id }).from(people).limit(1)).length === 0) {
    await loadDemo(
      {
        db,
        log: pino({ level: 'warn' }),
        softwareVersion: process.env.EVIDENTIA_VERSION ?? SOFTWARE_VERSION,
      },
      process.env.EVIDENTIA_DEMO_PASSWORD,
    );
    process.stdout.write('demo data loaded\n');
  }
} finally {
  await pool.end();
}
