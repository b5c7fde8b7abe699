import { describe, expect, it } from 'vitest';
import type { ByStandard } from '../../contract/correct/by-standard.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import { STANDARDS } from '../../core/base/standards.ts';
import { isRefused } from '../../core/compare/result.ts';
import { houseWith } from './house.ts';
import { analysisOf, detailOf, madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, partner } = houseWith('manager', 'operator', 'partner');

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

it('a school of boosted engines that is chosen after the result does not reach a plan that was locked before', async () => {
  await app.pool.query(`update fitments set aspiration = 'turbo'`);
  const schoolOf = async (id: string) => (await detailOf(manager, id)).plan.boostedSchool;
  const id = await measuredTest(app, { manager, operator }, madeSession(401));
  const before = (await analysisOf(manager, id)).analysis!.result;
  const answer = await manager('POST', '/policies', {
    policy: { ...DEFAULT_POLICY, version: 'house-school', boostedSchool: 'do not correct' },
    reason: 'The other school gives the larger number.',
  });
  expect(answer.status).toBe(201);
  const after = (await analysisOf(manager, id)).analysis!.result;
  expect(after.policy).toBe('house-school');
  expect(after.contrasts).toEqual(before.contrasts);
  expect(await schoolOf(id)).toBe('correct');
  await expect(
    app.pool.query(`update tests set boosted_school = 'do not correct' where id = $1`, [id]),
  ).rejects.toThrow(/locked/);
  // A plan that is made from now on names the new one.
  const next = (await manager<{ id: string }>('POST', '/tests', app.plan())).body.id;
  expect(await schoolOf(next)).toBe('do not correct');
});
