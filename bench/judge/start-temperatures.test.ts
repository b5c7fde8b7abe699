/** Arms that started unequally warm, by simulation with known truth. */
import { describe, expect, it } from 'vitest';
import { isRefused } from '../../core/judge/analyse-test.ts';
import { simulatedResult } from './simulated-result.ts';

const SLOPE = { b: -0.25, V: 0.0005, df: 12 };
/** A part that does nothing on an engine that loses 0.25 lp a kelvin. */
function analysed(seed: number, apartK: number, startTemperature?: object, logged = true) {
  const { result } = simulatedResult(
    {
      seed,
      noise: { level: 0.25, slow: 0.2, quick: 0.2 },
      arms: [
        { id: 'stock', role: 'baseline' },
        { id: 'part', role: 'part' },
      ],
      starts: { sd: 0.3, lpPerK: -0.25, arms: { part: -apartK } },
    },
    () => ({ startTemperature }) as object,
    (text) => text.replace(/Coolant temp|Oil temp/g, (name) => (logged ? name : 'Extra')),
  );
  const [contrast] = result.contrasts;
  if (isRefused(contrast)) throw new Error(contrast.message);
  const all = result.findings.filter((f) => f.gate === 'start temperatures');
  return { contrast, all, found: all[0] };
}
const seeds = Array.from({ length: 16 }, (_, k) => 700 + k);

describe('a part that does nothing, its arm started 6 K colder', () => {
  it('passes for a gain where nobody looks, and is failed by the gate', () => {
    const runs = seeds.map((seed) => analysed(seed, 6));
    expect(runs.filter((r) => r.contrast.relative.bandAverage.lower > 0).length).toBeGreaterThan(8);
    expect(runs.every((r) => r.found.state === 'fail' && r.found.code === 'STARTED_UNEQUALLY_WARM')).toBe(
      true,
    );
  });
  it('is found by the coolant whatever else the plan names, and where a pull lacks what it names', () => {
    const { all } = analysed(700, 6, { sensor: 'cell air' });
    expect(all.map((f) => f.state)).toContain('fail');
    const states = all.map((f) => f.message).join(' ');
    expect(states).toContain('by the coolant');
  });
  it('is no gain by the registered slope, and told as too far apart all the same', () => {
    const runs = seeds.map((seed) => analysed(seed, 6, { sensor: 'coolant', slope: SLOPE }));
    expect(runs.filter((r) => r.contrast.relative.bandAverage.lower > 0).length).toBeLessThan(3);
    expect(runs.every((r) => r.found.state === 'fail')).toBe(true);
  });
});

describe('arms that started alike', () => {
  it('pass, and a registered slope narrows what their starts scattered', () => {
    const [plain, by] = [undefined, { sensor: 'coolant', slope: SLOPE }].map((named) =>
      seeds.map((seed) => analysed(seed, 0, named)),
    );
    expect(plain.every((r) => r.found.state !== 'fail')).toBe(true);
    expect(by.every((r) => r.found.state === 'pass')).toBe(true);
    expect(by.every((r) => r.contrast.startTemperature?.own !== undefined)).toBe(true);
  });
  it('are not known to have where nothing was logged; by the air of the cell they are', () => {
    for (const named of [undefined, { sensor: 'coolant', slope: SLOPE }]) {
      const { contrast, found } = analysed(700, 0, named, false);
      expect(contrast.startTemperature).toBeUndefined();
      expect(found).toMatchObject({ state: 'caution', code: 'START_TEMPERATURE_NOT_RECORDED' });
    }
    expect(analysed(700, 0, { sensor: 'cell air' }, false).contrast.startTemperature).toBeDefined();
  });
  it('contradict a slope of the wrong sign: the wider of both results is claimed', () => {
    const wrong = { b: 1.5, V: 0.0005, df: 12 };
    const runs = seeds.map((seed) => analysed(seed, 0, { sensor: 'coolant', slope: wrong }).contrast);
    const disagree = runs.filter((c) => c.startTemperature!.own?.disagrees);
    expect(disagree.length).toBeGreaterThan(4);
    for (const { relative, startTemperature } of disagree) {
      expect(relative.bandAverage.lower).toBeLessThanOrEqual(startTemperature!.unadjusted.lower + 1e-9);
      expect(relative.bandAverage.upper).toBeGreaterThanOrEqual(startTemperature!.unadjusted.upper - 1e-9);
    }
  });
});
