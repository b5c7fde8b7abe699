/**
 * Work for later, kept in the same PostgreSQL: whichever process is free does it, and what was under way when a
 * process ended is done again. Jobs carry no data; what is to be done is read from the records when they run.
 */
import pg from 'pg';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';

/**
 * `settle`: claims in question are evaluated again, after a new policy or version of the application. `preview`: what
 * a policy that is not in force yet would change.
 */
export type Job = 'settle' | 'preview';
export interface Later {
  send(job: Job): Promise<void>;
  stop(): Promise<void>;
}

const TRIES = 3;
/** After which a job is taken to be lost with its process, and done by another. */
const LONGEST_S = 900;

/**
 * Servers that start at once make the queue's tables in turn: a server that already asks for jobs while another
 * one still adds tables would each wait for what the other holds.
 */
async function inTurn<T>(databaseUrl: string, work: () => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query('select pg_advisory_lock(727004)');
    return await work();
  } finally {
    // The lock goes with the connection.
    await client.end();
  }
}

async function makeQueue(boss: PgBoss, job: string): Promise<void> {
  if (await boss.getQueue(job)) return;
  // One waits at the most: what is due is read when it runs.
  await boss.createQueue(job, {
    name: job,
    policy: 'short',
    retryLimit: TRIES,
    expireInSeconds: LONGEST_S,
  });
}

const JOBS: readonly Job[] = ['settle', 'preview'];
function bossOf(
  databaseUrl: string,
  log: Logger,
  options: { migrate: boolean; supervise?: boolean },
): PgBoss {
  const boss = new PgBoss({
    connectionString: databaseUrl,
    schema: 'queue',
    max: 3,
    schedule: false,
    ...options,
  });
  boss.on('error', (error) => log.error({ error: error.message }, 'the queue has lost its connection'));
  return boss;
}
/** Makes the queue's tables, or brings them up to date: with the migrations, as the owner. */
export async function prepareQueue(ownerUrl: string, log: Logger): Promise<void> {
  const boss = bossOf(ownerUrl, log, { migrate: true, supervise: false });
  await inTurn(ownerUrl, async () => {
    await boss.start();
    for (const job of JOBS) await makeQueue(boss, job);
  });
  await boss.stop({ graceful: false });
}

/** @throws where the queue's tables are not there or of another version */
export async function openQueue(
  databaseUrl: string,
  log: Logger,
  work: Readonly<Record<Job, () => Promise<void>>>,
): Promise<Later> {
  const boss = bossOf(databaseUrl, log, { migrate: false });
  await boss.start();
  for (const [job, handle] of Object.entries(work)) {
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
