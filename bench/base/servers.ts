/** Servers of the built program that a benchmark starts, kills and asks; and a house for them. */
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import pg from 'pg';
import type { About } from './kills.ts';

export interface Server {
  child: ChildProcess;
  base: string;
}
/** Starts one on a free port. */
export async function serve(databaseUrl: string): Promise<Server> {
  const child = spawn(process.execPath, ['dist/server/main.js'], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      PORT: '0',
      EVIDENTIA_DEMO: '1',
      EVIDENTIA_LOG: process.env.EVIDENTIA_LOG ?? 'silent',
      EVIDENTIA_SESSION_SECRET: 'for the bench only',
    },
  });
  const [{ port }] = (await once(child, 'message')) as [{ port: number }];
  return { child, base: `http://127.0.0.1:${port}/api` };
}

/** Connections of the owner, who outlives a database that is killed. */
export function openOwner(url: string): pg.Pool {
  const owner = new pg.Pool({ connectionString: url });
  owner.on('error', () => undefined);
  return owner;
}
/** What plans of a filled house can be about, and a test manager who signs in at a server. */
export async function enter(owner: pg.Pool, base: string): Promise<{ about: About; cookie: string }> {
  await owner.query("update vehicles set wheels = '205/55 R16'");
  const { rows } = await owner.query<About & { person: string }>(`select
    (select id from people where role = 'test manager' limit 1) as person, v.fitment_id as "fitmentId",
    v.id as "vehicleId", (select id from dynos limit 1) as "dynoId", r.id as "partRevisionId", p.category
    from vehicles v join applications a on a.fitment_id = v.fitment_id
    join parts p on p.id = a.part_id and p.embargo_until is null join part_revisions r on r.part_id = p.id limit 1`);
  const [{ person, ...about }] = rows;
  const signedIn = await fetch(`${base}/demo/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ personId: person }),
  });
  return { about, cookie: signedIn.headers.get('set-cookie')!.split(';')[0] };
}
