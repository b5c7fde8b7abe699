import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { settingOf, sweptSettings } from '../plan/swept-setting.ts';
import { settingTrend, type SettingPull } from './setting-trend.ts';

/** Three pulls of each pulley, one after the other, on one mounting. */
function sweep(
  perMm: number,
  { seed = 1, scatter = 0.3, mounts = false, values = [86, 92, 98] } = {},
): SettingPull[] {
  const rng = seededRng(seed);
  return values.flatMap((value, run) =>
    [0, 1, 2].map((k) => ({
      setting: { name: 'pulley', value, unit: 'mm' },
      average: 500 + perMm * (value - 92) + scatter * rng.normal(),
      run,
      mount: mounts ? run : 0,
      order: run * 6 + 4 + k,
    })),
  );
}
const error = { alpha: 0.025, driftBound: 0 };

describe('a trend over an ordered setting', () => {
  it('reads the number and the unit a setting begins with', () => {
    expect(settingOf('pulley', '92 mm')).toEqual({ name: 'pulley', value: 92, unit: 'mm' });
    expect(settingOf('opening', '12,5°')).toEqual({ name: 'opening', value: 12.5, unit: '°' });
    for (const words of ['insert in', 'half open', '', '92 mm with spacer', 'mm 92'])
      expect(settingOf('x', words)).toBeUndefined();
  });
  it('agrees with the textbook slope and its interval where nothing but the pulls scatter', () => {
    // By hand: three groups of three at −6, 0, 6 with means 0, 1, 2 and ±0.1 about them.
    // Slope 12/72 = 1/6; s² = 0.06/6 = 0.01; se = √(0.01/216); t(0.025; 6) = 2.446912.
    const pulls = [-6, 0, 6].flatMap((value, run) =>
      [-0.1, 0, 0.1].map((e, k) => ({
        setting: { name: 'pulley', value, unit: 'mm' },
        average: run + e,
        run,
        mount: 0,
        order: run * 3 + k,
      })),
    );
    const { change } = settingTrend(pulls, error)!;
    const lp = (pct: number) => 100 * Math.log1p(pct / 100);
    expect(lp(change.gain)).toBeCloseTo(2, 9);
    expect(lp(change.upper) - lp(change.gain)).toBeCloseTo(12 * 2.446912 * Math.sqrt(0.01 / 216), 5);
  });
  it('holds the truth as often as it says, and is wider by the drift that could have made it', () => {
    let held = 0;
    for (let seed = 1; seed <= 400; seed++) {
      const { change } = settingTrend(sweep(0, { seed }), error)!;
      if (change.lower <= 0 && change.upper >= 0) held += 1;
    }
    // Binomial at 95 % of 400: below 367 in one of 200.
    expect(held).toBeGreaterThanOrEqual(367);
    expect(held).toBeLessThan(396);
    const width = (driftBound: number): number => {
      const { change } = settingTrend(sweep(-0.2), { ...error, driftBound })!;
      return change.upper - change.lower;
    };
    expect(width(0.3)).toBeGreaterThan(1.5 * width(0));
  });
  it('over several mountings is told only where a mounting is registered', () => {
    expect(settingTrend(sweep(-0.2, { mounts: true }), error)).toBeUndefined();
    const mounted = settingTrend(sweep(-0.2, { mounts: true }), {
      ...error,
      mount: { variance: 0.4, df: 10 },
    })!;
    const plain = settingTrend(sweep(-0.2), error)!;
    expect(mounted.change.upper - mounted.change.lower).toBeGreaterThan(
      plain.change.upper - plain.change.lower,
    );
  });
  it('is none of two settings, nor of settings of different things', () => {
    expect(settingTrend(sweep(0.1, { values: [86, 98] }), error)).toBeUndefined();
    const mixed = sweep(0.1).map((p, i) => (i < 3 ? { ...p, setting: { ...p.setting, unit: 'in' } } : p));
    expect(settingTrend(mixed, error)).toBeUndefined();
  });
  it('is of the one setting in which arms of a sweep differ', () => {
    const arm = (key: string, settings: Record<string, string>) => ({
      key,
      changes: [{ kind: 'part fitted', category: 'supercharger', partRevisionId: 'r', settings } as const],
    });
    const swept = (...all: Record<string, string>[]) =>
      sweptSettings(all.map((settings, i) => arm(`p${i}`, settings)));
    expect(swept({ pulley: '92 mm', valve: 'open' }, { pulley: '86 mm', valve: 'open' }).get('p1')).toEqual({
      name: 'pulley',
      value: 86,
      unit: 'mm',
    });
    expect(swept({ pulley: '92 mm', valve: 'open' }, { pulley: '86 mm', valve: 'shut' }).size).toBe(0);
    expect(swept({ insert: 'in' }, { insert: 'out' }).size).toBe(0);
    expect(swept({ pulley: '92 mm' }, {}).size).toBe(0);
  });
});
