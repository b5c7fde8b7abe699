/** Uses a gain is averaged for: versions that are only added, and what a test says by them. */
import { describe, expect, it } from 'vitest';
import type { GainsByUse, UseProfiles } from '../../contract/register/use-profiles.ts';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, partner } = houseWith('manager', 'operator', 'partner');

type Refused = { error: { code: string } };
const list = async (by: Ask = manager): Promise<UseProfiles> =>
  (await by<UseProfiles>('GET', '/use-profiles')).body;
const level = (from: number, to: number) => [
  { at: from, weight: 1 },
  { at: to, weight: 1 },
];

describe('use profiles', () => {
  it('are there to begin with, changed by the manager alone, and never overwritten', async () => {
    const before = await list();
    expect(before.profiles.map((p) => p.name)).toEqual(['hill road', 'street', 'towing', 'track']);
    const towing = before.profiles.find((p) => p.name === 'towing')!;
    const next = { name: 'towing', note: 'Heavier vans.', points: level(25, 60), after: 1 };
    const path = `/use-profiles/${towing.id}/versions`;
    expect((await operator('POST', path, next)).status).toBe(403);
    expect((await partner('GET', '/use-profiles')).status).toBe(403);
    expect((await manager('POST', path, next)).status).toBe(201);
    const after = await list(operator);
    expect(after.profiles.find((p) => p.id === towing.id)).toMatchObject({
      version: 2,
      note: 'Heavier vans.',
    });
    expect(after.versions.filter((v) => v.id === towing.id).map((v) => v.version)).toEqual([2, 1]);
    await expect(app.pool.query(`update use_profile_versions set note = 'x'`)).rejects.toThrow();
    await expect(app.pool.query(`delete from use_profile_versions`)).rejects.toThrow();
    await expect(
      app.pool.query(
        `insert into use_profile_versions (profile_id, number, name, points, created_at)
          select profile_id, 7, name, points, now() from use_profile_versions limit 1`,
      ),
    ).rejects.toThrow(/does not follow/);
  });
  it('of two who change one at once, one is told; a name is used once', async () => {
    const street = (await list()).profiles.find((p) => p.name === 'street')!;
    const path = `/use-profiles/${street.id}/versions`;
    const asked = ['first', 'second'].map((note) =>
      manager<Refused>('POST', path, { name: 'street', note, points: level(30, 70), after: 1 }),
    );
    const answers = await Promise.all(asked);
    expect(answers.map((a) => a.status).sort()).toEqual([201, 409]);
    expect(answers.find((a) => a.status === 409)!.body.error.code).toBe('CHANGED_MEANWHILE');
    const twin = { name: 'Track', note: '', points: level(50, 90) };
    expect((await manager<Refused>('POST', '/use-profiles', twin)).body.error.code).toBe('NAME_TAKEN');
    for (const points of [
      [{ at: 20, weight: 1 }],
      level(60, 40),
      level(20, 400),
      [
        { at: 20, weight: 0 },
        { at: 50, weight: 0 },
      ],
    ])
      expect((await manager('POST', '/use-profiles', { ...twin, name: 'odd', points })).status).toBe(400);
    expect((await list()).profiles.some((p) => p.name === 'odd')).toBe(false);
  });
});

describe('a gain by use', () => {
  it('is the average where the weight is level, told only where enough of it was measured, and no more once retired', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(482, 2));
    const state = (await manager<AnalysisState>('GET', `/tests/${id}/analysis`)).body;
    const { contrasts } = state.analysis!.result as unknown as {
      contrasts: {
        relative: { bandAverage: { gain: number }; curve: { rpm: number }[] };
        power: { curve: { rpm: number; against: number }[] };
      }[];
    };
    const { curve } = contrasts[0].power;
    const peak = curve.reduce((a, b) => (b.against > a.against ? b : a)).rpm;
    const share = (rpm: number): number => Math.round((100 * rpm) / peak);
    const whole = {
      name: 'all of it',
      note: '',
      points: level(share(curve[0].rpm) - 1, share(curve.at(-1)!.rpm) + 1),
    };
    const low = { name: 'below all', note: '', points: level(5, 12) };
    for (const body of [whole, low]) expect((await manager('POST', '/use-profiles', body)).status).toBe(201);
    const of = async (): Promise<GainsByUse> => (await manager<GainsByUse>('GET', `/tests/${id}/uses`)).body;
    const told = await of();
    const by = (name: string) => told.arms[0].uses[told.profiles.findIndex((p) => p.name === name)];
    expect(by('all of it').gain!.gain).toBeCloseTo(contrasts[0].relative.bandAverage.gain, 3);
    expect(by('all of it').gain!.lower).toBeLessThan(by('all of it').gain!.gain);
    expect(by('below all')).toEqual({ covered: 0, gain: null });

    const own = (await list()).profiles.find((p) => p.name === 'below all')!;
    const retired = { name: own.name, note: '', points: own.points, after: 1, retired: true };
    expect((await manager('POST', `/use-profiles/${own.id}/versions`, retired)).status).toBe(201);
    expect((await of()).profiles.map((p) => p.name)).not.toContain('below all');
    expect((await partner('GET', `/tests/${id}/uses`)).status).toBe(404);
  });
});
