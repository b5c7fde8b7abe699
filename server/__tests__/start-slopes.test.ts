/** The slope over a start temperature: from the dyno’s own finished tests into the next plan, its result and its claim. */
import { describe, expect, it } from 'vitest';
import type { StartSlopes } from '../../contract/register/start-slopes.ts';
import { isRefused, type Contrast } from '../../core/compare/result.ts';
import { houseWith } from './house.ts';
import { analysisOf, detailOf, draft, madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, partner } = houseWith('manager', 'operator', 'partner');

/** An engine that loses 0.3 lp a kelvin of coolant, started by 2 K more or less warm each time. */
const STARTS = { sd: 2, lpPerK: -0.3 };
const sessionOf = (seed: number, arms: Record<string, number> = {}, percent = 7) =>
  madeSession(seed, percent, undefined, { starts: { ...STARTS, arms } });
const contrastOf = async (id: string): Promise<Contrast> => {
  const [contrast] = (await analysisOf(manager, id)).analysis!.result.contrasts;
  if (isRefused(contrast)) throw new Error(contrast.message);
  return contrast;
};
const found = async (id: string): Promise<string[]> =>
  (await analysisOf(manager, id))
    .analysis!.result.findings.filter((f) => f.gate === 'start temperatures')
    .map((f) => `${f.state} ${f.code}`);
const slopes = async (query = ''): Promise<StartSlopes['slopes']> => {
  const { body } = await manager<StartSlopes>('GET', `/dynos/${app.ids.dyno}/start-slopes${query}`);
  return body.slopes;
};

describe('the start temperature', () => {
  it('is compared by the slope that the dyno’s past tests show, once they show it', async () => {
    expect(await slopes()).toEqual([]);
    const early = await measuredTest(app, { manager, operator }, sessionOf(401), {
      plan: { startSensor: 'coolant' },
    });
    // Nothing is registered: nothing is moved, and what the arms are apart costs.
    expect((await contrastOf(early)).startTemperature).toMatchObject({ slope: 0 });
    for (let k = 0; k < 6; k++) await measuredTest(app, { manager, operator }, sessionOf(410 + k));
    const coolant = (await slopes()).find((s) => s.sensor === 'coolant')!;
    expect(coolant).toMatchObject({ registered: true, reasons: [], sessions: 7, of: 'engines' });
    expect(coolant.slope).toBeCloseTo(-0.3, 1);
    expect((await slopes(`?vehicleId=${app.ids.vehicle}`)).find((s) => s.sensor === 'coolant')).toMatchObject(
      {
        of: 'vehicle',
        registered: true,
      },
    );

    // The part does nothing, and its arm started colder: what would pass for a gain is taken off, and told.
    const cold = sessionOf(430, { part: -3 }, 0);
    const by = await measuredTest(app, { manager, operator }, cold, { plan: { startSensor: 'coolant' } });
    const { plan } = await detailOf(manager, by);
    expect(plan.startSlope!.tests).toHaveLength(7);
    expect(plan.startSlope!.b).toBeCloseTo(coolant.slope!, 9);
    const { startTemperature, relative } = await contrastOf(by);
    expect(startTemperature!.apartK).toBeLessThan(-1);
    const moved = -startTemperature!.slope * startTemperature!.apartK;
    expect(relative.bandAverage.gain - startTemperature!.unadjusted.gain).toBeCloseTo(moved, 1);
    expect(Math.abs(relative.bandAverage.gain)).toBeLessThan(Math.abs(startTemperature!.unadjusted.gain));
    expect(await found(by)).toContain('fail STARTED_UNEQUALLY_WARM');
    const budget = (await contrastOf(by)).budget.map((b) => b.source);
    expect(budget).toContain('start temperature');
    expect((await draft(manager, by)).body.error?.code).toBeDefined();

    // A real gain of arms that started alike may be claimed, and the claim says what was adjusted.
    const gained = madeSession(440, 7, undefined, { starts: { ...STARTS, sd: 0.3 } });
    const good = await measuredTest(app, { manager, operator }, gained, { plan: { startSensor: 'coolant' } });
    const drafted = await draft(manager, good);
    expect(drafted.body.disclosures.join(' ')).toMatch(
      /Compared at one start temperature by the dyno’s own slope \(−0\.\d\d % a kelvin\)/,
    );

    // A plan that names none is judged by the same difference, unadjusted.
    const unnamed = await measuredTest(app, { manager, operator }, sessionOf(431, { part: -3 }, 0));
    expect((await contrastOf(unnamed)).startTemperature).toBeUndefined();
    expect(await found(unnamed)).toEqual(['fail STARTED_UNEQUALLY_WARM']);
  });

  it('is fixed by the lock, in the database too, and is for the house', async () => {
    const { rows } = await app.pool.query<{ id: string }>(
      `select id from tests where start_slope is not null limit 1`,
    );
    for (const change of [`start_sensor = null, start_slope = null`, `start_slope = '{"b": 9}'`])
      await expect(app.pool.query(`update tests set ${change} where id = $1`, [rows[0].id])).rejects.toThrow(
        /locked/,
      );
    expect(
      (
        await manager('POST', `/tests/${rows[0].id}/amendments`, {
          reason: 'Another sensor would read better.',
          changes: { startSensor: 'oil' },
        })
      ).status,
    ).toBeGreaterThanOrEqual(400);
    expect((await partner('GET', `/dynos/${app.ids.dyno}/start-slopes`)).status).toBe(403);
    const wrong = await manager('POST', '/tests', app.plan({ startSensor: 'intake air' }));
    expect(wrong.status).toBe(400);
  });
});
