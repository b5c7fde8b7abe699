import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ByStandard } from '../../contract/correct/by-standard.ts';
import { STANDARDS } from '../../core/base/standards.ts';
import { isRefused } from '../../core/compare/result.ts';
import { startApp, type Ask, type TestApp } from './app.ts';
import { analysisOf, madeSession, measuredTest } from './made-session.ts';

let app: TestApp, manager: Ask, operator: Ask, partner: Ask;
beforeAll(async () => {
  app = await startApp();
  [manager, operator, partner] = (await Promise.all(
    ['manager', 'operator', 'partner'].map((key) => app.signIn(key)),
  )) as [Ask, Ask, Ask];
});
afterAll(async () => app.stop());

describe('a test under every standard', () => {
  it('is the analysis itself under the planned one, and keeps nothing', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(940));
    const { analysis } = await analysisOf(manager, id);
    const rows = (await app.pool.query('select from analyses')).rowCount;
    const { body } = await manager<ByStandard>('GET', `/tests/${id}/standards`);
    expect(body.standards.map((u) => u.standard)).toEqual(STANDARDS);
    const [contrast] = analysis!.result.contrasts;
    if (isRefused(contrast)) throw new Error('refused');
    const planned = body.standards.find((u) => u.standard === analysis!.result.standard)!;
    expect(planned.gains[0].average.gain).toBeCloseTo(contrast.relative.bandAverage.gain, 9);
    expect(planned.gains[0].upToKw).toBeCloseTo(contrast.power.upTo.gain, 9);
    expect((await app.pool.query('select from analyses')).rowCount).toBe(rows);
  });
  it('waits for what is missing, and is not for others', async () => {
    const bare = (await manager<{ id: string }>('POST', '/tests', app.plan())).body.id;
    const answer = await manager<{ error: { code: string } }>('GET', `/tests/${bare}/standards`);
    expect([answer.status, answer.body.error.code]).toEqual([409, 'NOT_COMPLETE']);
    expect((await partner('GET', `/tests/${bare}/standards`)).status).toBe(404);
  });
});
