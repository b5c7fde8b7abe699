import type { Logger } from 'pino';
import type { Db } from './db.ts';
import type { Threads } from './threads.ts';

/** What every service is handed: time and identity come from outside, so a test can say exactly what is kept. */
export interface Needs {
  readonly db: Db;
  readonly now: () => Date;
  readonly newId: () => string;
  readonly log: Logger;
  readonly softwareVersion: string;
  /** Where heavy computing is done. */ readonly threads: Threads;
}
