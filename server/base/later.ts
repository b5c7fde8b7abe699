/**
 * Work for later, kept in the same PostgreSQL: whichever process is free does it, and what was under way when a
 * process ended is done again. Jobs carry no data; what is to be done is read from the records when they run.
 */
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';

/** Claims in question are evaluated again: after a new policy or version of the application. */
export type Job = 'settle';
export interface Later {
  send(job: Job): Promise<void>;
  stop(): Promise<void>;
}

const TRIES = 3;
/** After which a job is taken to be lost with its process, and done by another. */
const LONGEST_S = 900;

export async function openQueue(
  databaseUrl: string,
  log: Logger,
  work: Readonly<Record<Job, () => Promise<void>>>,
): Promise<Later> {
  const boss = new PgBoss({ connectionString: databaseUrl, schema: 'queue', max: 3 });
  boss.on('error', (error) => log.error({ error: error.message }, 'the queue has lost its connection'));
  await boss.start();
  for (const [job, handle] of Object.entries(work)) {
    // One waits at the most: what is due is read when it runs.
    await boss.createQueue(job, {
      name: job,
      policy: 'short',
      retryLimit: TRIES,
      expireInSeconds: LONGEST_S,
    });
    await boss.work(job, { pollingIntervalSeconds: 1 }, async () => {
      await handle();
    });
  }
  return {
    send: async (job) => {
      await boss.send(job, {});
    },
    stop: () => boss.stop({ graceful: true, timeout: 5000 }),
  };
}
