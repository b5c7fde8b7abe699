/**
 * `npm run bench -- kills [servers] [databases]`: two servers killed again and again (100 times), then the database (20
 * times), while four people write; the public page is read meanwhile. Started by scripts/bench.mjs.
 */
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { setTimeout as later } from 'node:timers/promises';
import { seededRng } from '../core/base/rng.ts';
import { deedsOn, held, write, type Send, type Written } from './base/kills.ts';
import { enter, openOwner, serve } from './base/servers.ts';
import { fillRegister } from './register/fill-register.ts';

const [serverKills, databaseKills] = [Number(process.argv[2] ?? 100), Number(process.argv[3] ?? 20)];
const { DATABASE_URL, OWNER_URL } = process.env;
const say = (text: string): void => void process.stdout.write(`${text}\n`);
const rng = seededRng(9);
const WRITERS = 4;

const owner = openOwner(OWNER_URL!);
await fillRegister(OWNER_URL!, { fitments: 20, parts: 10, density: 0.5 }, 5);
const servers = [await serve(DATABASE_URL!), await serve(DATABASE_URL!)];
const { about, cookie } = await enter(owner, servers[0].base);

const send: Send = async (deed, key) => {
  const { base } = servers[Math.floor(rng.uniform() * servers.length)];
  const answer = await fetch(base + deed.path, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'idempotency-key': key, cookie },
    body: JSON.stringify(deed.body),
    signal: AbortSignal.timeout(20_000),
  });
  const text = await answer.text();
  const body = (text ? JSON.parse(text) : {}) as { error?: { code: string } };
  return { status: answer.status, code: body.error?.code ?? '' };
};

let slowest = 0;
const unread: string[] = [];
/** What somebody outside reads meanwhile: an answer from what is kept, or a word, within a second. */
async function readCatalogue(): Promise<void> {
  const began = Date.now();
  const answer = await fetch(`${servers[0].base}/catalogue`, { signal: AbortSignal.timeout(10_000) }).catch(
    (error: Error) => error,
  );
  slowest = Math.max(slowest, Date.now() - began);
  if (answer instanceof Error)
    unread.push(answer.cause instanceof Error ? answer.cause.message : answer.message);
  else if (![200, 503].includes(answer.status)) unread.push(`${answer.status} ${await answer.text()}`);
}

async function writing(during: () => Promise<void>): Promise<Written> {
  const written: Written = { acknowledged: new Map(), strange: [], again: 0 };
  let stop = false;
  const next = deedsOn(about, rng);
  const writers = Array.from({ length: WRITERS }, () => write(next, send, randomUUID, () => stop, written));
  await during();
  stop = true;
  await Promise.all(writers);
  return written;
}
async function tell(title: string, written: Written): Promise<boolean> {
  const { lost, twice, half } = await held(owner, written);
  const strange = [...new Set(written.strange)];
  say(
    `${title}: ${written.acknowledged.size} deeds acknowledged, sent again ${written.again} times; ` +
      `lost ${lost.length}, twice ${twice.length}, half-stored ${half.length}` +
      (strange.length
        ? `; strange answers ${written.strange.length}: ${strange.slice(0, 5).join(', ')}`
        : ''),
  );
  for (const mark of [...lost, ...twice, ...half].slice(0, 10)) say(`  ${mark}`);
  return lost.length + twice.length + half.length + strange.length === 0;
}

const byServers = await writing(async () => {
  for (let i = 0; i < serverKills; i++) {
    await later(100 + rng.uniform() * 500);
    const which = i % servers.length;
    servers[which].child.kill('SIGKILL');
    servers[which] = await serve(DATABASE_URL!);
  }
});
let good = await tell(`${serverKills} kills of a server`, byServers);

const asked = servers.map(({ child }) => child.pid);
await readCatalogue();
slowest = 0;
const byDatabase = await writing(async () => {
  for (let i = 0; i < databaseKills; i++) {
    await later(300 + rng.uniform() * 1000);
    process.send!('crash');
    const up = once(process, 'message');
    const reading = (async () => {
      for (let k = 0; k < 5; k++) await readCatalogue();
    })();
    await Promise.all([up, reading]);
  }
});
good = (await tell(`${databaseKills} kills of the database`, byDatabase)) && good;
const survived = servers.filter(({ child }, i) => child.exitCode === null && child.pid === asked[i]).length;
say(
  `${survived} of ${servers.length} servers outlived the database; slowest public answer meanwhile ` +
    `${slowest} ms, without a word ${unread.length} ${unread.join('; ')}`,
);
good = good && survived === servers.length && unread.length === 0 && slowest < 3000;
for (const { child } of servers) child.kill('SIGTERM');
await owner.end();
process.exit(good ? 0 : 1);
