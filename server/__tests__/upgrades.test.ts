/** What can be done to a car of a fitment, by the tests there are. */
import { describe, expect, it } from 'vitest';
import type { TestDetail } from '../../contract/overview.ts';
import type { Upgrades } from '../../contract/publish/upgrades.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, partner } = houseWith('manager', 'operator', 'partner');

describe('the drive of a supercharger', () => {
  it('is told with the arm that fits it, and not to who may not know the part', async () => {
    await app.pool.query(`alter table part_revisions disable trigger user`);
    await app.pool.query(
      `update part_revisions set drive_crank_mm = 172, drive_head_mm = 86, most_drive_rpm = 14000`,
    );
    await app.pool.query(`alter table part_revisions enable trigger user`);
    const made = await manager<{ id: string }>('POST', '/tests', app.plan({}));
    const driveOf = async (by: Ask) =>
      (await by<TestDetail>('GET', `/tests/${made.body.id}`)).body.arms.find((arm) => arm.role === 'part')!
        .drive;
    expect(await driveOf(operator)).toEqual({ ratio: 2, mostRpm: 14_000 });
    await app.pool.query(`update parts set embargo_until = current_date + 30, code_name = 'Project Heron'`);
    expect(await driveOf(operator)).toBeNull();
    await app.pool.query(`update parts set embargo_until = null`);
    await expect(
      app.pool.query(
        `insert into part_revisions (id, part_id, revision, drive_crank_mm)
          select gen_random_uuid(), part_id, 'Z', -3 from part_revisions limit 1`,
      ),
    ).rejects.toThrow(/drive_is_above_zero/);
  });
});

describe('steps of an upgrade', () => {
  it('are the changes measured on the fitment with what they cost, one for all tests of a change', async () => {
    await app.pool.query(`update parts set price_cents = 50000, currency = 'EUR'`);
    const first = await measuredTest(app, { manager, operator }, madeSession(930, 3));
    const { fitment } = (await manager<TestDetail>('GET', `/tests/${first}`)).body;
    const of = async (by: Ask = manager) => by<Upgrades>('GET', `/fitments/${fitment.id}/upgrades`);
    const [step] = (await of()).body.steps;
    expect(step).toMatchObject({ priceCents: 50_000, currency: 'EUR', after: [] });
    expect(step.hours).toBeGreaterThan(0);
    expect(step.parts.length).toBeGreaterThan(0);
    expect(step.tests.map((t) => t.id)).toEqual([first]);

    const second = await measuredTest(app, { manager, operator }, madeSession(931, 3), { samePart: true });
    const { steps } = (await of()).body;
    expect(steps).toHaveLength(1);
    expect(steps[0].tests.map((t) => t.id).sort()).toEqual([first, second].sort());
    expect(steps[0].gain.gain).not.toBe(step.gain.gain);
    expect((await of(partner)).status).toBe(403);
    expect((await manager('GET', `/fitments/${first}/upgrades`)).status).toBe(404);

    // While a test is computed again, as after a new policy, what stood last counts.
    await app.pool.query('update tests set current_analysis_id = null');
    expect((await of()).body.steps).toEqual(steps);

    // Who may not know the part learns neither its price nor its hours.
    await app.pool.query(`update parts set embargo_until = current_date + 30, code_name = 'Project Heron'`);
    expect((await of(operator)).body.steps[0]).toMatchObject({ priceCents: null, hours: null });
  });
});
