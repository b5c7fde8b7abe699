import { describe, expect, it } from 'vitest';
import { readTestFile } from '../../contract/judge/test-file.ts';
import { analyseTest, isRefused } from '../../core/judge/analyse-test.ts';
import { smoothed } from '../../core/compare/smoothing.ts';
import { ScenarioSchema, type Scenario } from '../capture/scenario.ts';
import { coverage } from './coverage.ts';
import { simulateSession, truthLp } from './simulate.ts';

const scenario = (part: Partial<Record<keyof Scenario, unknown>> = {}): Scenario =>
  ScenarioSchema.parse({
    format: 'evidentia-scenario/1',
    seed: 11,
    title: 'check',
    engine: 'na4',
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part', effect: [{ kind: 'bump', percent: 5, centreRpm: 5200, widthRpm: 1500 }] },
    ],
    protocol: { order: ['stock', 'part', 'stock'], pulls: 3, warmUps: 3, remount: false },
    ...part,
  });
function analyse(s: Scenario) {
  const session = simulateSession(s);
  const analysis = analyseTest(readTestFile(session.test), (file) => {
    const f = session.files.find((x) => x.path === file);
    return f && new TextEncoder().encode(f.text);
  });
  const contrast = analysis.result.contrasts[0];
  if (isRefused(contrast)) throw new Error(contrast.code);
  return { session, analysis, contrast };
}

describe('from simulated files back to the truth they were made from', () => {
  it('without scatter the gain curve is the true one, smoothed as every curve is', () => {
    const quiet = {
      noise: { level: 0.001, slow: 0, quick: 0, white: 0, remountStep: 0 },
      logger: { torquePercent: 0, speedRpm: 0 },
    };
    const { session, contrast } = analyse(scenario(quiet));
    const truth = smoothed(truthLp(session.truth.gainPct.part), 50);
    contrast.relative.curve.forEach((p, j) =>
      expect(Math.abs(p.gain - 100 * (Math.exp(truth[j] / 100) - 1)), `${p.rpm} rpm`).toBeLessThan(0.06),
    );
  });
  it('the same seed gives the same bytes, another seed others', () => {
    expect(simulateSession(scenario()).files).toEqual(simulateSession(scenario()).files);
    expect(simulateSession(scenario()).files[0]).not.toEqual(
      simulateSession(scenario({ seed: 12 })).files[0],
    );
  });
  it('reads every style the logger writes to the same result', () => {
    const [comma, semicolon] = (['comma', 'semicolon'] as const).map(
      (style) => analyse(scenario({ logger: { style } })).contrast.relative.bandAverage,
    );
    expect(semicolon).toEqual(comma);
  });
  it('undoes a factor the dyno has applied', () => {
    const { session, contrast } = analyse(scenario());
    const test = readTestFile(session.test);
    const pulls = test.pulls.map((p) =>
      p.counted ? { ...p, applied: { standard: 'none' as const, factor: 1.031 } } : p,
    );
    const again = analyseTest({ ...test, pulls }, (file) =>
      new TextEncoder().encode(session.files.find((x) => x.path === file)!.text),
    ).result;
    expect(
      Math.abs(
        (again.pulls[0].peakPower!.kw * 1.031) / analyse(scenario()).analysis.result.pulls[0].peakPower!.kw -
          1,
      ),
    ).toBeLessThan(1e-12);
    expect((again.contrasts[0] as typeof contrast).relative.bandAverage.gain).toBeCloseTo(
      contrast.relative.bandAverage.gain,
      9,
    );
  });
});

describe('band and claim over simulated tests (a small version of `npm run bench`)', () => {
  it.each([
    [false, 'one mount'],
    [true, 're-mounted'],
  ])('re-mounted: %s', (remount) => {
    const { coveredPct, overclaimedPct, tests } = coverage({
      tests: 240,
      remount,
      effect: 'constant',
      seed: 5,
    });
    // 240 tests: allow three standard errors below 95 % and above 2.5 %.
    expect(coveredPct).toBeGreaterThan(95 - 3 * 100 * Math.sqrt((0.95 * 0.05) / tests));
    expect(overclaimedPct).toBeLessThan(2.5 + 3 * 100 * Math.sqrt((0.025 * 0.975) / tests));
  });
  it('would see a band that is too narrow: four tenths of the width do not cover', () =>
    expect(
      coverage({ tests: 240, remount: true, effect: 'constant', seed: 5, widthTimes: 0.4 }).coveredPct,
    ).toBeLessThan(90));
});
