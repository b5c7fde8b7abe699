/**
 * A policy changes above many published claims: how long it takes to see what it changes, and to apply it, how much
 * memory that needs, and whether readers notice. Started by scripts/bench.mjs, which brings the server.
 */
import { readFileSync } from 'node:fs';
import pg from 'pg';
import type { PolicyPreview } from '../contract/base/policy-preview.ts';
import { DEFAULT_POLICY } from '../core/base/policy.ts';
import { timeQuestion, type Question, type Timing } from './base/time-answers.ts';
import { CLAIMS_A_TEST, cloneClaims } from './publish/clone-claims.ts';
import { signIn } from './publish/questions.ts';

const { OWNER_URL, BASE, SERVER_PID } = process.env as Record<string, string>;
const CLAIMS = Number(process.argv[2] ?? 20_000);
/** The demo's test whose claim is public. */
const TEMPLATE = 1;
const READERS = 4;
const TIMES = 20;
/** Between rounds of reads: readers are there, not a crowd. */
const PAUSE_MS = 8000;
const REASON = 'The benchmark changes it and measures what follows.';
/** A limit that changes nothing of what holds, so that every claim is evaluated and none drops out half way. */
const POLICY = { ...DEFAULT_POLICY, version: 'bench', factorArms: { pass: 0.0099, caution: 0.02 } };

const owner = new pg.Client({ connectionString: OWNER_URL });
await owner.connect();
const say = (text: string): void => void process.stdout.write(`${text}\n`);
const memory = (): string =>
  (Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${SERVER_PID}/status`, 'utf8'))?.[1]) / 1024).toFixed(
    0,
  );

say(`Filling ${CLAIMS} claims …`);
const filled = await cloneClaims(owner, TEMPLATE, Math.ceil(CLAIMS / CLAIMS_A_TEST));
const {
  rows: [{ person }],
} = await owner.query<{ person: string }>(
  "select id as person from people where role = 'test manager' limit 1",
);
const cookie = await signIn(BASE, person);
const headers = { cookie, 'content-type': 'application/json' };
const QUESTIONS: readonly Question[] = [
  { what: 'catalogue', path: () => '/catalogue' },
  { what: 'claims', path: () => '/claims', headers },
  { what: 'tests', path: () => '/tests', headers },
  { what: 'coverage', path: () => '/coverage', headers },
  { what: 'today', path: () => '/today', headers },
];
async function reads(): Promise<Timing[]> {
  const out: Timing[] = [];
  for (const question of QUESTIONS) out.push(await timeQuestion(BASE, question, READERS, TIMES));
  return out;
}
async function send<T>(path: string, body: unknown): Promise<T> {
  const answer = await fetch(BASE + path, { method: 'POST', headers, body: JSON.stringify(body) });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
}
/** What 95 of a hundred readers waited at the most, ms, by question: a round each. */
type Rounds = ReadonlyMap<string, number[]>;
/** Reads round after round until something is through. */
async function meanwhile(
  isThrough: () => Promise<string | null>,
): Promise<{ s: number; rounds: Rounds; end: string }> {
  const started = performance.now();
  const rounds = new Map<string, number[]>();
  for (;;) {
    const end = await isThrough();
    const s = (performance.now() - started) / 1000;
    if (end !== null) return { s, rounds, end };
    for (const { what, p95 } of await reads()) rounds.set(what, [...(rounds.get(what) ?? []), p95]);
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    process.stderr.write(`${s.toFixed(0)} s\r`);
  }
}
const middle = (list: readonly number[]): number =>
  [...list].sort((x, y) => x - y)[Math.floor(list.length / 2)];

const atRest = await reads();
const memoryAtRest = memory();
const { id } = await send<{ id: string }>('/policy-previews', { policy: POLICY, reason: REASON });
const preview = await meanwhile(async () => {
  const shown = (await (await fetch(`${BASE}/policy-previews/${id}`, { headers })).json()) as PolicyPreview;
  return shown.state === 'done'
    ? `${shown.done} of ${shown.total} looked at, ${shown.change} would go stale`
    : null;
});
// Told at once: the rest takes as long again.
say(`seen before it is in force: ${preview.s.toFixed(0)} s (${preview.end}); most memory ${memory()} MB`);
await send('/policies', { policy: POLICY, reason: REASON });
// What was tried holds by that; what is left is measured by a policy that nobody tried.
const left = async (): Promise<number> =>
  (
    await owner.query<{ n: number }>(
      "select count(*)::int as n from claims_shown where state = 'in question'",
    )
  ).rows[0].n;
const leftByTried = await left();
await send('/policies', { policy: { ...POLICY, version: 'bench untried' }, reason: REASON });
const applied = await meanwhile(async () => {
  const { rows } = await owner.query<{ left: number; stale: number }>(
    `select count(*) filter (where s.state = 'in question')::int as left,
      count(*) filter (where s.state = 'stale')::int as stale from claims_shown s`,
  );
  return rows[0].left === 0 ? `none left in question, ${rows[0].stale} stale` : null;
});
await owner.end();

say(`\n${filled} published claims of ${filled / CLAIMS_A_TEST} tests, one server, two cores`);
say(`put in force as it was tried: ${leftByTried} in question at once`);
say(`put in force untried: ${applied.s.toFixed(0)} s (${applied.end})`);
say(`most memory of the server: ${memoryAtRest} MB before, ${memory()} MB after`);
say(
  `reads by ${READERS} at once, p95 ms: at rest; middle and worst round while it is tried; while it is applied`,
);
for (const rest of atRest) {
  const of = (rounds: Rounds): string => {
    const found = rounds.get(rest.what);
    if (!found) return '–';
    return `${middle(found).toFixed(0)} (${(middle(found) / rest.p95).toFixed(1)}×), ${Math.max(...found).toFixed(0)}`;
  };
  say(
    `  ${rest.what.padEnd(12)}${rest.p95.toFixed(0).padStart(6)}${of(preview.rounds).padStart(24)}${of(applied.rounds).padStart(24)}`,
  );
}
