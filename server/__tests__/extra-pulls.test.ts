/** Extra warm-up pulls that were made at the dyno and stand on no run sheet: judged, and published with the rest. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Evidence } from '../../contract/publish/claim.ts';
import { startApp, type TestApp } from './app.ts';
import { analysisOf, detailOf, madeSession, measuredTest, publish } from './made-session.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startApp();
});
afterAll(async () => {
  await app.stop();
});

it('an extra warm-up before every run is counted by the gates and shown with the claim', async () => {
  const [manager, operator, reviewer] = await Promise.all([
    app.signIn('manager'),
    app.signIn('operator'),
    app.signIn('reviewer'),
  ]);
  const id = await measuredTest(app, { manager, operator }, madeSession(301, 7));
  const { pulls } = await detailOf(manager, id);
  const [{ dyno_id: dyno, operator: person }] = (
    await app.pool.query<{ dyno_id: string; operator: string }>(
      `select dyno_id, (select id from people where role = 'operator' limit 1) as operator from tests where id = $1`,
      [id],
    )
  ).rows;
  const [session, mounting] = [randomUUID(), randomUUID()];
  await app.pool.query(
    `insert into bench_sessions (id, test_id, dyno_id, number, day, opened_at, opened_by) values ($1, $2, $3, 1, '2026-11-05', now(), $4)`,
    [session, id, dyno, person],
  );
  await app.pool.query(
    `insert into mountings (id, session_id, number, at, by) values ($1, $2, 1, now(), $3)`,
    [mounting, session, person],
  );
  // As it was done: before the first pull of every run one that no sheet has.
  let order = 0;
  const record = (arm: string, pullId: string | null, sha256: string | null) =>
    app.pool.query(
      `insert into recordings (id, session_id, mounting_id, pull_id, arm, state, asked_at, asked_by,
         device_key, "order", began_at, ended_at, samples, file_sha256, lines_sha256)
       values ($1, $2, $3, $4, $5, 'complete', now(), $6, $7, $8, now(), now(), 400, $9, $9)`,
      [randomUUID(), session, mounting, pullId, arm, person, `d-${++order}`, order, sha256],
    );
  const [first] = pulls.filter((p) => p.file);
  for (const [i, pull] of pulls.entries()) {
    if (i === 0 || pulls[i - 1].run !== pull.run) await record(pull.arm, null, first.file!.sha256);
    await record(pull.arm, pull.id, pull.file?.sha256 ?? first.file!.sha256);
  }
  const { findings } = (await analysisOf(manager, id)).analysis!.result;
  expect(findings.find((f) => f.gate === 'warm-up')).toMatchObject({
    state: 'pass',
    message: expect.stringContaining('4 uncounted pulls') as string,
  });
  expect(findings.find((f) => f.code === 'DONE_OTHERWISE')?.state).toBe('caution');
  const claim = await publish({ manager, reviewer }, id);
  const evidence = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
  expect(evidence.pulls.filter((p) => p.label.startsWith('extra'))).toHaveLength(3);
  expect(evidence.pulls.find((p) => p.label === 'extra 1')).toMatchObject({ counted: false, file: null });
});
