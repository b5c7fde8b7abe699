/** The demo in a database of its own, held to the promises that hold for any data: what is shown can be traced and recomputed. */
import { createHash } from 'node:crypto';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readTestFile } from '../contract/judge/test-file.ts';
import type { CataloguePage, PublicClaim } from '../contract/publish/claim.ts';
import { analyseTest, type TestDefinition, type TestResult } from '../core/judge/analyse-test.ts';
import type { StockAnswer } from '../core/register/ledger.ts';
import { claimText } from '../core/publish/claim.ts';
import { startApp, type Ask, type TestApp } from '../server/__tests__/app.ts';
import { loadDemo } from './publish/story.ts';

let app: TestApp;
let manager: Ask;
const rows = async <T extends object>(sql: string): Promise<T[]> => (await app.pool.query<T>(sql)).rows;
beforeAll(async () => {
  app = await startApp();
  await loadDemo({ db: app.db, log: pino({ level: 'silent' }), softwareVersion: 'test' });
  manager = await app.signIn('manager');
}, 300_000);
afterAll(async () => {
  await app.stop();
});

describe('evidence', () => {
  it('raw files are named by the hash of their bytes', async () => {
    const files = await rows<{ sha256: string; bytes: Buffer; size: number }>(
      'select sha256, bytes, size from raw_files',
    );
    expect(files.length).toBeGreaterThan(50);
    for (const file of files)
      expect([createHash('sha256').update(file.bytes).digest('hex'), file.bytes.length]).toEqual([
        file.sha256,
        file.size,
      ]);
  });
  it('every stored result is what the core computes from the stored inputs and bytes', async () => {
    const bytes = new Map(
      (await rows<{ sha256: string; bytes: Buffer }>('select sha256, bytes from raw_files')).map((f) => [
        f.sha256,
        f.bytes,
      ]),
    );
    const stored = await rows<{ inputs: { definition: TestDefinition }; result: TestResult }>(
      'select inputs, result from analyses',
    );
    expect(stored.length).toBeGreaterThan(5);
    for (const { inputs, result } of stored) {
      const again = JSON.parse(
        JSON.stringify(analyseTest(inputs.definition, (file) => bytes.get(file)).result),
      ) as TestResult;
      expect(again.contrasts).toEqual(result.contrasts);
      expect([again.verdict, again.grade]).toEqual([result.verdict, result.grade]);
    }
  }, 180_000);
  it('every claim has an analysis of its own test, and a published one was approved by somebody else', async () => {
    const claims = await rows<{
      code: string;
      state: string;
      author_id: string;
      reviewer_id: string | null;
      test_id: string;
      analysed: string;
    }>(
      'select c.code, c.state, c.author_id, c.reviewer_id, c.test_id, a.test_id ' +
        'as analysed from claims c join analyses a on a.id = c.analysis_id',
    );
    expect(new Set(claims.map((c) => c.state)).size).toBeGreaterThan(2);
    for (const claim of claims) {
      expect(claim.analysed).toBe(claim.test_id);
      if (claim.state === 'published') {
        expect(claim.reviewer_id).not.toBeNull();
        expect(claim.reviewer_id).not.toBe(claim.author_id);
      }
    }
  });
  it('a stranger recomputes every published claim from what is published', async () => {
    const { body: catalogue } = await app.nobody<CataloguePage>('GET', '/catalogue?limit=100');
    const claims: PublicClaim[] = catalogue.items.flatMap((fitment) => fitment.claims);
    expect(claims.length).toBeGreaterThan(0);
    for (const claim of claims) {
      const { body: evidence } = await app.nobody<{
        pulls: { label: string; file: { sha256: string } | null }[];
      }>('GET', `/evidence/${claim.code}`);
      const files = new Map<string, Uint8Array>();
      for (const pull of evidence.pulls) {
        if (!pull.file) continue;
        const { bytes } = await app.nobody('GET', `/evidence/${claim.code}/pulls/${pull.label}/file`);
        expect(createHash('sha256').update(bytes).digest('hex')).toBe(pull.file.sha256);
        files.set(`pulls/${pull.label}.csv`, bytes);
      }
      const definition = readTestFile((await app.nobody('GET', `/evidence/${claim.code}/test.json`)).body);
      const { result } = analyseTest(definition, (file) => files.get(file));
      const text = claimText(
        result,
        claim.metric,
        claim.unit,
        {
          subject: { kind: 'part', text: 'P', against: null },
          product: true,
          notAsSold: null,
          fitment: 'F',
          vehicle: 'V',
          fuel: 'x',
          calibration: 'x',
          gear: 'x',
          dyno: 'D',
        },
        claim.arm,
      );
      expect(text).toMatchObject({
        ok: true,
        value: { value: claim.value, rpm: claim.rpm, wording: claim.wording },
      });
    }
  }, 180_000);
});

describe('plans', () => {
  it('were locked before their first file, or say so by being indicative', async () => {
    const late = await rows<{ id: string; verdict: string | null }>(
      'select t.id, (select a.verdict from analyses a where a.test_id = t.id ' +
        'order by a.number desc limit 1) as verdict from tests t where exists ' +
        '(select 1 from pulls p join pull_files f on f.pull_id = p.id where ' +
        'p.test_id = t.id and (t.locked_at is null or f.attached_at < t.locked_at))',
    );
    for (const test of late) expect(test.verdict === null || test.verdict === 'not usable').toBe(true);
  });
  it('a claim stands only on a locked plan', async () =>
    expect(
      await rows('select c.code from claims c join tests t on t.id = c.test_id where t.locked_at is null'),
    ).toEqual([]));
  it('each has its counted pulls in runs of one length, the same warm-ups before every one', async () => {
    const pulls = await rows<{
      test_id: string;
      runs: string[];
      planned: number;
      counted: number;
      warm_ups: number;
      per_run: number;
    }>(`select t.id as test_id, t.run_order as runs, t.warm_ups, t.pulls_per_run as per_run,
      count(p.id)::int as planned, count(p.id) filter (where p.counted)::int as counted
      from tests t join pulls p on p.test_id = t.id group by t.id having not exists (select 1
        from plan_amendments a where a.test_id = t.id)`);
    expect(pulls.length).toBeGreaterThan(10);
    for (const test of pulls) {
      expect(test.counted).toBe(test.runs.length * test.per_run);
      expect(test.planned).toBe(test.runs.length * (test.per_run + test.warm_ups));
    }
  });
  it('no dyno and no vehicle is booked twice', async () => {
    expect(
      await rows(
        'select 1 from booking_blocks a join booking_blocks b on a.dyno_id = b.dyno_id and (a.test_id, ' +
          'a.block) < (b.test_id, b.block) and a.starts_at < b.ends_at and b.starts_at < a.ends_at',
      ),
    ).toEqual([]);
    expect(
      await rows(
        'select 1 from bookings a join bookings b on a.vehicle_id = b.vehicle_id and ' +
          'a.test_id < b.test_id and a.starts_at < b.ends_at and b.starts_at < a.ends_at',
      ),
    ).toEqual([]);
  });
});

describe('the register', () => {
  it('every part of an arm fits the fitment it was tested on, by the application grid', async () => {
    expect(
      await rows(
        'select t.number, p.sku from test_arms a join tests t on t.id = ' +
          'a.test_id join part_revisions r on r.id = a.part_revision_id join ' +
          'parts p on p.id = r.part_id where not exists (select 1 from ' +
          'applications x where x.part_id = p.id and x.fitment_id = t.fitment_id)',
      ),
    ).toEqual([]);
  });
  it('answers for every vehicle what is on it now and what of that is not stock', async () => {
    const vehicles = await rows<{ id: string }>('select id from vehicles');
    const answers = await Promise.all(
      vehicles.map(({ id }) =>
        manager<{ stock: StockAnswer }>('GET', `/vehicles/${id}/configuration?on=2026-11-24T12:00:00Z`),
      ),
    );
    expect(answers.map((a) => a.status)).toEqual(vehicles.map(() => 200));
    for (const {
      body: { stock },
    } of answers)
      expect(stock.stock === 'no').toBe(stock.notStock.length > 0);
    // The vehicle of the test set-up has nothing on record; the demo has cars of both kinds.
    expect(new Set(answers.map((a) => a.body.stock.stock))).toEqual(new Set(['yes', 'no', 'unknown']));
  });
  it('has somebody behind every change in the trail', async () =>
    expect(await rows("select id from audit_entries where person_name is null or person_name = ''")).toEqual(
      [],
    ));
});
