/** All finished tests of one part on one fitment, put together from what stands for them. */
import { describe, expect, it } from 'vitest';
import type { TogetherShown } from '../../contract/compare/together.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { OwnHistoryShown } from '../../contract/register/own-history.ts';
import { houseWith } from './house.ts';
import { madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, partner } = houseWith('manager', 'operator', 'partner');

const of = async (id: string): Promise<TogetherShown> =>
  (await manager<TogetherShown>('GET', `/tests/${id}/together`)).body;
/** A part that gives so much, per cent. */
const gaining = (percent: number) => ({
  arms: [
    { id: 'stock', role: 'baseline' as const },
    { id: 'part', role: 'part' as const, effect: [{ kind: 'constant' as const, percent }] },
  ],
});

describe('tests of one part on one fitment', () => {
  it('stand alone, then as two sessions of one car, and leave out what a gate fails with the cause', async () => {
    const first = await measuredTest(app, { manager, operator }, madeSession(900, 3, undefined, gaining(4)));
    const alone = await of(first);
    expect(alone).toMatchObject({ grade: 'single', mean: null, another: null, day: { registered: false } });
    expect(alone.vehicles).toHaveLength(1);
    expect(alone.vehicles[0].gain.gain).toBeCloseTo(alone.sessions[0].gain.gain, 9);

    const second = await measuredTest(
      app,
      { manager, operator },
      madeSession(901, 3, undefined, gaining(4)),
      { samePart: true },
    );
    const both = await of(first);
    expect(both.sessions.map((s) => s.testId).sort()).toEqual([first, second].sort());
    expect(both.vehicles).toHaveLength(1);
    const [a, b] = both.sessions.map((s) => s.gain.gain);
    const [joint] = both.vehicles;
    // The mean of the two in lp, whatever their scatter.
    expect(Math.log(1 + joint.gain.gain / 100)).toBeCloseTo(
      (Math.log(1 + a / 100) + Math.log(1 + b / 100)) / 2,
      6,
    );
    expect(joint.gain.upper - joint.gain.lower).toBeGreaterThan(0);
    // The same seen from the other test; nobody else may see it.
    expect((await of(second)).vehicles[0].gain.gain).toBeCloseTo(joint.gain.gain, 9);
    expect((await partner('GET', `/tests/${first}/together`)).status).toBe(404);

    // Leaving a pull out raises nothing: of the results with and without it the smaller is put together.
    const lowerOf = (shown: TogetherShown): number =>
      shown.sessions.find((s) => s.testId === second)!.gain.lower;
    const detail = (await manager<TestDetail>('GET', `/tests/${second}`)).body;
    for (const pull of detail.pulls.filter((p) => p.counted && p.arm === 'stock').slice(0, 2)) {
      const path = `/tests/${second}/pulls/${pull.id}/exclusion`;
      expect((await operator('POST', path, { reason: 'wheel slip' })).status).toBe(204);
      expect(lowerOf(await of(first))).toBeLessThanOrEqual(lowerOf(both) + 1e-9);
      await operator('DELETE', path);
    }

    // A session whose pulls were copied fails a gate: it is told, and not put together.
    const copied = madeSession(902, 3, undefined, gaining(9));
    const labels = (
      await manager<{ pulls: { label: string; counted: boolean }[] }>('GET', `/tests/${first}`)
    ).body.pulls
      .filter((p) => p.counted)
      .map((p) => p.label);
    const twin = {
      ...copied,
      bytesOf: (label: string) => copied.bytesOf(label === labels[4] ? labels[3] : label),
    };
    const third = await measuredTest(app, { manager, operator }, twin, { samePart: true });
    const told = await of(first);
    const out = told.sessions.find((s) => s.testId === third);
    expect(out === undefined || out.left !== null).toBe(true);
    expect(told.vehicles[0].gain.gain).toBeCloseTo(joint.gain.gain, 9);
  });
  it('another car makes two vehicles with a mean, and no range for a third', async () => {
    const { rows } = await app.pool.query<{ id: string; vehicle_id: string }>(
      `select id, vehicle_id from tests order by number limit 1`,
    );
    const other = await app.pool.query<{ id: string }>(
      `insert into vehicles
        select (jsonb_populate_record(v, jsonb_build_object('id', gen_random_uuid(), 'tag', 'SV-777'))).*
        from vehicles v where id = $1 returning id`,
      [rows[0].vehicle_id],
    );
    const second = { vehicleId: other.rows[0].id };
    await measuredTest(app, { manager, operator }, madeSession(903, 3, undefined, gaining(4)), {
      plan: second,
      samePart: true,
    });
    const shown = await of(rows[0].id);
    expect(shown.vehicles.map((v) => v.vehicle)).toContain('SV-777');
    expect(shown.grade).toBe('two vehicles');
    expect(shown.mean).not.toBeNull();
    expect(shown.another).toBeNull();
  });
  it('tell from day to day what repeats of other parts show, on the page of the dyno', async () => {
    const { rows } = await app.pool.query<{ dyno_id: string }>(`select dyno_id from tests limit 1`);
    const { body } = await manager<OwnHistoryShown>('GET', `/dynos/${rows[0].dyno_id}/history`);
    expect(body.days).toMatchObject({ registered: false, repeats: 1 });
    expect(body.days!.tests[0]).toHaveLength(2);
  });
});
