/**
 * Brings a database up to date: `DATABASE_OWNER_URL=… DATABASE_URL=… node dist/server/migrate.js`. Runs as the owner,
 * and gives the role of DATABASE_URL what the servers need and no more. `npm start` runs it before the servers.
 */
import pino from 'pino';
import { SOFTWARE_VERSION } from './base/house.ts';
import { bringUpToDate } from './prepare.ts';

const {
  DATABASE_OWNER_URL,
  DATABASE_URL,
  EVIDENTIA_VERSION = SOFTWARE_VERSION,
  EVIDENTIA_LOG = 'info',
} = process.env;
const log = pino({ level: EVIDENTIA_LOG });
const roleIn = (url: string): string => decodeURIComponent(new URL(url).username);
if (!DATABASE_OWNER_URL || !DATABASE_URL || roleIn(DATABASE_OWNER_URL) === roleIn(DATABASE_URL)) {
  log.fatal(
    'DATABASE_OWNER_URL and DATABASE_URL are both needed, with two roles: one migrates, the other serves.',
  );
  process.exitCode = 1;
} else {
  try {
    await bringUpToDate(DATABASE_OWNER_URL, roleIn(DATABASE_URL), {
      log,
      softwareVersion: EVIDENTIA_VERSION,
    });
  } catch (error) {
    log.fatal(
      { error: error instanceof Error ? error.message : String(error) },
      'the database is not up to date',
    );
    process.exitCode = 1;
  }
}
