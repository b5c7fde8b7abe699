/** What the role of the servers may do in the database, tried as that role. */
import pg from 'pg';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openPool } from '../base/db.ts';
import { BY_TRIGGERS, CHANGED, REMOVED, roleOf } from '../base/rights.ts';
import { bringUpToDate, ensureReady } from '../prepare.ts';
import { startApp, type TestApp } from './app.ts';

let app: TestApp;
let servers: pg.Pool;
beforeAll(async () => {
  app = await startApp();
  servers = openPool(app.databaseUrl);
});
afterAll(async () => {
  await servers.end();
  await app.stop();
});
const NOT_ALLOWED = '42501';
const tried = (sql: string): Promise<string> =>
  servers.query(sql).then(
    () => 'done',
    (error: { code: string }) => error.code,
  );
const tables = async (where: string): Promise<string[]> =>
  (
    await app.pool.query<{ name: string }>(
      `select relname as name from pg_class c
       where relnamespace = 'public'::regnamespace and relkind = 'r' and ${where} order by 1`,
    )
  ).rows.map(({ name }) => name);

describe('the role the servers run under', () => {
  it('owns nothing, makes nothing, and is no superuser', async () => {
    expect(await roleOf(servers)).toEqual({ role: 'evidentia_test', owns: false });
    expect((await roleOf(app.pool)).owns).toBe(true);
    for (const sql of [
      'create table own (a int)',
      'create temp table own (a int)',
      'create schema own',
      'create function own() returns int language sql as $$ select 1 $$',
      'create role another superuser',
      'alter role current_user superuser',
      'set session_replication_role = replica',
      "select pg_read_file('/etc/passwd')",
      "select pg_ls_dir('.')",
      "copy raw_files to '/tmp/out'",
      "copy (select 1) to program 'true'",
      'select pg_terminate_backend(pid) from pg_stat_activity where usename <> current_user limit 1',
    ])
      expect([sql, await tried(sql)]).toEqual([sql, NOT_ALLOWED]);
  });
  it('may add to what is only added to, and not change, remove, empty or unguard it', async () => {
    const guarded = await tables(
      `exists (select from pg_trigger where tgrelid = c.oid and tgfoid = 'refuse_change'::regproc and tgtype = 27)`,
    );
    expect(guarded.length).toBeGreaterThan(12);
    for (const table of guarded)
      for (const sql of [
        `update ${table} ${await oneColumnToItself(table)}`,
        `delete from ${table}`,
        `truncate ${table} cascade`,
        `alter table ${table} disable trigger all`,
        `alter table ${table} disable trigger user`,
        `drop table ${table} cascade`,
      ])
        expect([sql, await tried(sql)]).toEqual([sql, NOT_ALLOWED]);
  });
  it('changes and removes rows of the named tables alone', async () => {
    const may = (right: string) => tables(`has_table_privilege('evidentia_test', c.oid, '${right}')`);
    expect(await may('update')).toEqual([...CHANGED].sort());
    expect(await may('delete')).toEqual([...REMOVED].sort());
    expect(await may('truncate')).toEqual([]);
    expect(await may('trigger')).toEqual([]);
    expect(await tables(`not has_table_privilege('evidentia_test', c.oid, 'insert')`)).toEqual(
      [...BY_TRIGGERS].sort(),
    );
    expect(await tables(`not has_table_privilege('evidentia_test', c.oid, 'select')`)).toEqual([]);
  });
  it('of a person it changes the password, and not what they may do', async () => {
    for (const set of ["role = 'reviewer'", 'clearance = true', "email = 'x'", 'active = true'])
      expect([set, await tried(`update people set ${set}`)]).toEqual([set, NOT_ALLOWED]);
    expect(await tried('update people set password_hash = password_hash')).toBe('done');
  });
  it('cannot write what triggers keep: the record of changes that claims are held against', async () => {
    for (const sql of [
      "insert into input_changes (kind, subject_id, version, at, what) values ('air', gen_random_uuid(), 1, now(), 'x')",
      'update input_versions set version = 0',
      "select note_input_change('air', gen_random_uuid(), null, 'x')",
      'select refresh_everything()',
      "insert into places_due (kind) values ('everything')",
    ])
      expect([sql, await tried(sql)]).toEqual([sql, NOT_ALLOWED]);
    expect(await tried('select refresh_places()')).toBe('done');
  });
  it('cannot put a table of its own before the real one in a guard', async () => {
    const { rows } = await app.pool.query<{ name: string; settings: string[] }>(
      `select proname as name, proconfig as settings from pg_proc where pronamespace = 'public'::regnamespace and prosecdef`,
    );
    expect(rows.length).toBeGreaterThan(20);
    for (const { name, settings } of rows)
      expect([name, settings]).toEqual([name, ['search_path=public, pg_temp']]);
  });
});

describe('before a server answers', () => {
  const log = pino({ level: 'silent' });
  const house = { log, softwareVersion: 'test' };
  it('a role that may not migrate says so on an older database, and serves one that is up to date', async () => {
    await expect(ensureReady(servers, app.databaseUrl, house)).resolves.toBeUndefined();
    const { rows } = await app.pool.query(
      'delete from drizzle.__drizzle_migrations where created_at = (select max(created_at) from drizzle.__drizzle_migrations) returning *',
    );
    try {
      await expect(ensureReady(servers, app.databaseUrl, house)).rejects.toThrow(
        /not up to date.*evidentia_test/,
      );
    } finally {
      const [{ hash, created_at }] = rows as { hash: string; created_at: string }[];
      await app.pool.query('insert into drizzle.__drizzle_migrations (hash, created_at) values ($1, $2)', [
        hash,
        created_at,
      ]);
    }
  });
  it('bringing up to date what is so takes nothing away from a server at work', async () => {
    const url = new URL(app.databaseUrl);
    const owner = new URL(process.env.TEST_DATABASE_URL!);
    owner.pathname = url.pathname;
    await Promise.all([1, 2].map(() => bringUpToDate(owner.href, 'evidentia_test', house)));
    expect(await tried('select count(*) from tests')).toBe('done');
  });
});

async function oneColumnToItself(table: string): Promise<string> {
  const { rows } = await app.pool.query<{ name: string }>(
    'select attname as name from pg_attribute where attrelid = $1::regclass and attnum = 1',
    [table],
  );
  return `set ${rows[0].name} = ${rows[0].name}`;
}
