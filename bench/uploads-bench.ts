/**
 * `npm run bench -- uploads`: large and hostile files and tables sent to a server, and how long others wait meanwhile.
 * Started by scripts/bench.mjs, which brings the server.
 */
import { readFileSync } from 'node:fs';
import { once } from 'node:events';
import { setTimeout as later } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import pg from 'pg';
import { planBody, type About } from './base/kills.ts';
import { fillRegister } from './register/fill-register.ts';

const { OWNER_URL, BASE, SERVER_PID } = process.env as Record<string, string>;
const MB = 1024 * 1024;
const owner = new pg.Client({ connectionString: OWNER_URL });
await owner.connect();
await fillRegister(OWNER_URL, { fitments: 2000, parts: 200, density: 0.02 }, 6);
await owner.query("update vehicles set wheels = '205/55 R16'");

const memory = (what: 'VmRSS' | 'VmHWM'): number =>
  Number(
    new RegExp(`${what}:\\s+(\\d+) kB`).exec(readFileSync(`/proc/${SERVER_PID}/status`, 'utf8'))?.[1] ?? NaN,
  ) / 1024;

const { rows: people } = await owner.query<{ id: string }>(
  "select id from people where role = 'test manager'",
);
const signedIn = await fetch(`${BASE}/demo/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId: people[0].id }),
});
const cookie = signedIn.headers.get('set-cookie')!.split(';')[0];
const send = (method: string, path: string, type: string, body: string | Buffer<ArrayBuffer>) =>
  fetch(BASE + path, { method, headers: { cookie, 'content-type': type }, body });

const { rows: places } = await owner.query<About>(`select v.fitment_id as "fitmentId", v.id as "vehicleId",
  (select id from dynos limit 1) as "dynoId", r.id as "partRevisionId", p.category
  from vehicles v join applications a on a.fitment_id = v.fitment_id
  join parts p on p.id = a.part_id and p.embargo_until is null join part_revisions r on r.part_id = p.id limit 1`);
const [place] = places;
const made = await send(
  'POST',
  '/tests',
  'application/json',
  JSON.stringify(planBody(place, 'What holds the house up?')),
);
const { id: testId } = (await made.json()) as { id: string };
await send('POST', `/tests/${testId}/lock`, 'application/json', '{}');
const { rows: pulls } = await owner.query<{ id: string }>(
  'select id from pulls where test_id = $1 order by position',
  [testId],
);

/** Rows that name a part and a fitment which the register has and which are not told of yet. */
async function applicationsTable(rows: number): Promise<string> {
  const { rows: pairs } = await owner.query<{ line: string }>(
    `select p.sku || ',' || f.maker || ',' || f.model || ',"' || f.output_variant || '",' || f.market as line
     from parts p cross join fitments f
     where p.embargo_until is null and not exists
       (select from applications a where a.part_id = p.id and a.fitment_id = f.id) limit $1`,
    [rows],
  );
  return ['SKU,Maker,Model,Output variant,Market', ...pairs.map(({ line }) => line)].join('\n') + '\n';
}

const CASES: readonly (readonly [string, () => Promise<Response>])[] = [
  ['nothing', () => later(3000, Response.json({}))],
  ...(
    [
      ['49 MB of line ends', '\n'],
      ['49 MB of quotes', '"'],
      ['49 MB of commas', ','],
      ['49 MB of blanks', ' '],
    ] as const
  ).map(
    ([what, sign], i) =>
      [
        what,
        () =>
          send(
            'POST',
            `/tests/${testId}/pulls/${pulls[i].id}/file?name=${i}.csv`,
            'application/octet-stream',
            Buffer.alloc(49 * MB, sign),
          ),
      ] as const,
  ),
  [
    '52 MB of line ends',
    () =>
      send(
        'POST',
        `/tests/${testId}/pulls/${pulls[0].id}/file?name=big.csv`,
        'application/octet-stream',
        Buffer.alloc(52 * MB, '\n'),
      ),
  ],
  ...[49_000, 170_000].map(
    (rows) =>
      [
        `a preview of ${rows} applications`,
        async () =>
          send('POST', '/register/import/applications/preview', 'text/csv', await applicationsTable(rows)),
      ] as const,
  ),
  [
    '49 000 applications imported',
    async () => {
      const table = await applicationsTable(49_000);
      const preview = await send('POST', '/register/import/applications/preview', 'text/csv', table);
      const { digest } = (await preview.json()) as { digest: string };
      return send('POST', `/register/import/applications?digest=${digest}`, 'text/csv', table);
    },
  ],
];

/** Asks after the server's health in a thread of its own: what this one sends must not hold the question up. */
const ASKER = `
  const { parentPort, workerData } = require('node:worker_threads');
  const waits = [];
  let on = true;
  parentPort.once('message', () => (on = false));
  (async () => {
    while (on) {
      const began = performance.now();
      await (await fetch(workerData)).arrayBuffer();
      waits.push(performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    parentPort.postMessage(waits);
  })();`;
const table: Record<string, object> = {};
for (const [what, work] of CASES) {
  let most = 0;
  const watching = setInterval(() => (most = Math.max(most, memory('VmRSS'))), 20);
  const asker = new Worker(ASKER, { eval: true, workerData: `${BASE}/health` });
  const before = memory('VmRSS');
  const began = performance.now();
  const answer = await work();
  const text = await answer.text();
  const took = performance.now() - began;
  clearInterval(watching);
  asker.postMessage('stop');
  const [waits] = (await once(asker, 'message')) as [number[]];
  waits.sort((a, b) => a - b);
  table[what] = {
    status: answer.status,
    answered: (/"code":"(\w+)"/.exec(text)?.[1] ?? /"problems":\[\{.{0,120}/.exec(text)?.[0] ?? text).slice(
      0,
      90,
    ),
    'took, s': (took / 1000).toFixed(1),
    'health p95, ms': waits[Math.floor(waits.length * 0.95)].toFixed(0),
    'health most, ms': waits.at(-1)!.toFixed(0),
    'memory added, MB': Math.max(0, most - before).toFixed(0),
  };
}
console.table(table);
process.stdout.write(`Most memory the server has held: ${memory('VmHWM').toFixed(0)} MB\n`);
await owner.end();
