/** The baseline of one test held against those of others. */
import { describe, expect, it } from 'vitest';
import type { OtherBaselines } from '../../contract/compare/baselines.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, partner } = houseWith('manager', 'operator', 'partner');

describe('baselines of one fitment on other days', () => {
  it('are held against each other over the rpm both have, by who may see both', async () => {
    const first = await measuredTest(app, { manager, operator }, madeSession(480, 2));
    const of = (id: string, by: Ask = manager) => by<OtherBaselines>('GET', `/tests/${id}/baselines`);
    expect((await of(first)).body.baselines).toEqual([]);
    // The same car six per cent down.
    const tired = madeSession(481, 2, undefined, {
      arms: [
        { id: 'stock', role: 'baseline', effect: [{ kind: 'constant', percent: -6 }] },
        { id: 'part', role: 'part', effect: [{ kind: 'constant', percent: -4 }] },
      ],
    });
    const second = await measuredTest(app, { manager, operator }, tired);
    const [seen] = (await of(second)).body.baselines;
    expect(seen).toMatchObject({ testId: first, sameVehicle: true, sameDyno: true });
    expect(seen.pct).toBeLessThan(-4.5);
    expect(seen.pct).toBeGreaterThan(-7.5);
    const [back] = (await of(first)).body.baselines;
    expect(back.testId).toBe(second);
    expect((1 + seen.pct / 100) * (1 + back.pct / 100)).toBeCloseTo(1, 6);
    // While the other is computed again, as after a new policy, what stood last is still held against it.
    await app.pool.query('update tests set current_analysis_id = null where id = $1', [second]);
    expect((await of(first)).body.baselines).toEqual([back]);
    expect((await of(first, partner)).status).toBe(404);
  });
});

describe('what an arm costs', () => {
  it('is told of its parts, and not of a part the reader may not know', async () => {
    await app.pool.query(`update parts set price_cents = 50000, currency = 'EUR'`);
    const made = await manager<{ id: string }>('POST', '/tests', app.plan({}));
    const costOf = async (by: Ask) => {
      const { arms } = (await by<TestDetail>('GET', `/tests/${made.body.id}`)).body;
      return arms.map(({ role, cost }) => ({ role, cost }));
    };
    expect(await costOf(manager)).toEqual([
      { role: 'baseline', cost: null },
      {
        role: 'part',
        cost: {
          priceCents: 50_000,
          currency: 'EUR',
          installHours: expect.any(Number) as number,
          calibration: false,
        },
      },
    ]);
    await app.pool.query(`update parts set embargo_until = current_date + 30, code_name = 'Project Heron'`);
    expect((await costOf(operator)).every(({ cost }) => cost === null)).toBe(true);
  });
});
