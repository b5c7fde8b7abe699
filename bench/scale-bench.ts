/**
 * A full house and a tenth of it: every list, the grid, the finder and the public pages, asked by one reader and by
 * fifty at once. Started by scripts/bench.mjs, which brings the servers.
 */
import { readFileSync } from 'node:fs';
import pg from 'pg';
import { seededRng } from '../core/base/rng.ts';
import { timeQuestion, type Timing } from './base/time-answers.ts';
import { fillTests } from './plan/fill-tests.ts';
import { fillClaims } from './publish/fill-claims.ts';
import { questionsOf } from './publish/questions.ts';
import { fillRegister } from './register/fill-register.ts';

interface House {
  readonly fitments: number;
  readonly tests: number;
  readonly pulls: number;
  readonly claims: number;
}
const PARTS = 400;
const DENSITY = 0.1;
const FULL: House = { fitments: 5000, tests: 10_000, pulls: 250_000, claims: 20_000 };
const TENTH: House = { fitments: 500, tests: 1000, pulls: 25_000, claims: 2000 };
const SEED = 5000;
const TIMES = 30;
const MANY = 50;
const TIMES_MANY = 150;

interface Filled {
  readonly person: string;
  readonly long: string;
}
async function fill(url: string, house: House): Promise<Filled> {
  const person = await fillRegister(url, { fitments: house.fitments, parts: PARTS, density: DENSITY }, SEED);
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query('set session_replication_role = replica');
    await fillTests(client, { ...house, onOneFitment: 26 }, person);
    await fillClaims(client, house.claims, Math.round(house.claims / 1000), person);
    await client.query('set session_replication_role = default');
    await client.query("insert into places_due (kind) values ('everything')");
    await client.query('vacuum analyze');
    await client.query('select refresh_places()');
    await client.query('vacuum analyze');
    const { rows } = await client.query<{ slug: string }>(
      'select f.slug from fitments f join claims c on c.fitment_id = f.id group by f.id order by count(*) desc limit 1',
    );
    return { person, long: rows[0].slug };
  } finally {
    await client.end();
  }
}

/** Most memory the server has held, MB; what Linux says of the process. */
const mostMemory = (pid: string): number =>
  Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? NaN) / 1024;

async function timeHouse(base: string, filled: string): Promise<Timing[]> {
  const out: Timing[] = [];
  for (const question of await questionsOf(base, JSON.parse(filled) as Filled, seededRng(SEED)))
    for (const [readers, times] of [
      [1, TIMES],
      [MANY, TIMES_MANY],
    ]) {
      out.push(await timeQuestion(base, question, readers, times));
      // Said as it goes: the whole takes some minutes.
      const { what, p50, p95 } = out.at(-1)!;
      process.stderr.write(`${what}, ${readers}: ${p50.toFixed(0)} / ${p95.toFixed(0)} ms\n`);
    }
  return out;
}

const row = (...cells: readonly string[]): string =>
  `${cells.map((cell, i) => (i === 0 ? cell.padEnd(34) : cell.padStart(10))).join('')}\n`;

const [step, ...args] = process.argv.slice(2);
if (step === 'fill') {
  const [url, which] = args as [string, 'full' | 'tenth'];
  process.stdout.write(JSON.stringify(await fill(url, which === 'full' ? FULL : TENTH)));
} else {
  const [fullBase, fullHouse, fullPid, tenthBase, tenthHouse, tenthPid] = args;
  const tenth = await timeHouse(tenthBase, tenthHouse);
  const full = await timeHouse(fullBase, fullHouse);
  process.stdout.write(
    `\n${FULL.fitments} fitments × ${PARTS} parts, ${FULL.claims} claims, ${FULL.tests} tests, ` +
      `${FULL.pulls} pulls; beside a tenth. ms; growth of the middle from a tenth\n`,
  );
  process.stdout.write(
    row('question', '1: p50', 'p95', 'a tenth', 'growth', `${MANY}: p50`, 'p95', 'a tenth', 'growth', 'kB'),
  );
  for (let i = 0; i < full.length; i += 2) {
    const [alone, many, small, smallMany] = [full[i], full[i + 1], tenth[i], tenth[i + 1]];
    process.stdout.write(
      row(
        alone.what,
        alone.p50.toFixed(1),
        alone.p95.toFixed(1),
        small.p50.toFixed(1),
        `${(alone.p50 / small.p50).toFixed(1)}×`,
        many.p50.toFixed(0),
        many.p95.toFixed(0),
        smallMany.p50.toFixed(0),
        `${(many.p50 / smallMany.p50).toFixed(1)}×`,
        (alone.bytes / 1024).toFixed(1),
      ),
    );
  }
  process.stdout.write(
    `most memory of the server: ${mostMemory(fullPid).toFixed(0)} MB, of the tenth ${mostMemory(tenthPid).toFixed(0)} MB\n`,
  );
}
