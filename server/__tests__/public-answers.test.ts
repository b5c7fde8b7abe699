/** What anyone may read is kept ready, compressed and with a tag, and never a moment longer than it is true. */
import { get } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CatalogueFitment } from '../../contract/publish/claim.ts';
import { startApp, type Ask, type TestApp } from './app.ts';
import { madeSession, measuredTest, publish } from './made-session.ts';

let app: TestApp;
let manager: Ask, operator: Ask, reviewer: Ask;
let there: string;
const PATH = '/catalogue/made-up-one';

beforeAll(async () => {
  app = await startApp();
  there = await app.another(false);
  [manager, operator, reviewer] = (await Promise.all(
    ['manager', 'operator', 'reviewer'].map((key) => app.signIn(key)),
  )) as [Ask, Ask, Ask];
});
afterAll(async () => {
  await app.stop();
});

const codes = async (): Promise<string[]> =>
  (await app.nobody<CatalogueFitment>('GET', PATH)).body.claims.map((c) => c.code);
const codesThere = async (): Promise<string[]> =>
  ((await (await fetch(there + PATH)).json()) as CatalogueFitment).claims.map((c) => c.code);
/** Asked as a browser asks for what it has; fetch would say that it wants it anew. */
const statusWith = (etag: string): Promise<number | undefined> =>
  new Promise((resolve, reject) => {
    get(there + PATH, { headers: { 'if-none-match': etag } }, (answer) => {
      answer.resume();
      resolve(answer.statusCode);
    }).on('error', reject);
  });
const published = async (seed: number) =>
  publish({ manager, reviewer }, await measuredTest(app, { manager, operator }, madeSession(seed)));

describe('public answers', () => {
  it('are the same text, plain and compressed, and a known one is not sent again', async () => {
    await published(901);
    const first = await app.nobody('GET', PATH);
    const etag = first.headers.get('etag')!;
    expect(etag).toMatch(/^W\/"/);
    expect(first.headers.get('cache-control')).toBe('no-cache');
    expect(await statusWith(etag)).toBe(304);
    expect(await statusWith('W/"another"')).toBe(200);
    const plain = await fetch(there + PATH, { headers: { 'accept-encoding': 'identity' } });
    expect(plain.headers.get('content-encoding')).toBeNull();
    expect(await plain.json()).toEqual(first.body);
    expect(plain.headers.get('etag')).toBe(etag);
    for (const encoding of ['br', 'gzip']) {
      const small = await fetch(there + PATH, { headers: { 'accept-encoding': encoding } });
      expect(small.headers.get('content-encoding')).toBe(encoding);
      expect(await small.json()).toEqual(first.body);
    }
  });

  it('move with the claim at every server: published, in question, withdrawn', async () => {
    const before = await codes();
    const claim = await published(902);
    for (const read of [codes, codesThere]) expect(await read()).toEqual([claim.code, ...before]);
    // A change under it: not current from that moment on, at no server.
    const { body } = await manager<{ id: string }>('POST', `/parts/${app.ids.part}/revisions`, {
      revision: 'Z1',
    });
    expect(body.id).toBeTruthy();
    for (const read of [codes, codesThere]) expect(await read()).not.toContain(claim.code);
    expect(
      (
        await manager('POST', `/claims/${claim.id}/withdraw`, {
          reason: 'No longer sold.',
          wrong: false,
        })
      ).status,
    ).toBe(204);
    const { former } = (await app.nobody<CatalogueFitment>('GET', PATH)).body;
    expect(former.find((c) => c.code === claim.code)?.state).toBe('withdrawn');
  });

  it('are not kept while somebody writes: a change that was under way and ends later is seen', async () => {
    const claim = await published(903);
    const writer = await app.pool.connect();
    try {
      await writer.query('begin');
      // Takes its number in the trail now and is seen only once it ends, after a later number has been seen.
      await writer.query(
        "insert into claim_events (claim_id, at, from_state, to_state, note) values ($1, now(), 'published', 'stale', 'slow')",
        [claim.id],
      );
      await writer.query(
        "update claims set state = 'stale', stale_reason = 'slow', fell_by = 'evidence', fell_at = now() where id = $1",
        [claim.id],
      );
      await published(905);
      // Well inside one step of the clock, so that time alone moves nothing.
      app.clock.now = Math.ceil(app.clock.now / 30_000) * 30_000;
      expect(await codes()).toContain(claim.code);
      await writer.query('commit');
    } finally {
      writer.release();
    }
    const { former } = (await app.nobody<CatalogueFitment>('GET', PATH)).body;
    expect(former.find((c) => c.code === claim.code)?.state).toBe('stale');
  });

  it('a refusal is not kept, and who is signed in is answered for themselves', async () => {
    expect((await app.nobody('GET', '/catalogue/not-there')).status).toBe(404);
    expect((await app.nobody('GET', '/catalogue/not-there')).status).toBe(404);
    expect((await manager('GET', PATH)).headers.get('cache-control')).toBe('no-store');
  });

  it('many at once wait for one, and all are answered', async () => {
    await published(904);
    const answers = await Promise.all(Array.from({ length: 40 }, () => app.nobody('GET', PATH)));
    expect(new Set(answers.map((a) => a.headers.get('etag'))).size).toBe(1);
    expect(answers.every((a) => a.status === 200)).toBe(true);
  });

  it('answers of people are compressed too', async () => {
    const signedIn = await manager('GET', '/tests', undefined, { 'accept-encoding': 'gzip' });
    expect(signedIn.headers.get('content-encoding')).toBe('gzip');
  });
});
