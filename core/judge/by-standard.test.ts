import { describe, expect, it } from 'vitest';
import { DEFAULT_POLICY } from '../base/policy.ts';
import { seededRng } from '../base/rng.ts';
import { STANDARDS, type Engine } from '../base/standards.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import { airState } from '../correct/air.ts';
import { correctionFactor } from '../correct/standards.ts';
import { analyseTest } from './analyse-test.ts';
import { underEveryStandard, type UnderStandard } from './by-standard.ts';

const SPARK: Engine = { ignition: 'spark', aspiration: 'natural' };
const air = (temperatureC: number) => ({
  temperatureC,
  pressureHpa: 1000,
  humidity: { kind: 'relative', percent: 40 } as const,
});
const COOL = air(18);

/** Stock and a part worth 5 %, A-B-A, three pulls a run; the part’s runs in other air. */
function made(ofPart = COOL, engine = SPARK) {
  const rng = seededRng(7);
  const files = new Map<string, Uint8Array>();
  const pulls = ['stock', 'part', 'stock'].flatMap((arm, run) =>
    [1, 2, 3].map((k) => {
      const id = `p${3 * run + k}`;
      const level = 1 + 0.002 * rng.normal();
      const rows = Array.from({ length: 240 }, (_, i) => {
        const torque = 150 * level * (arm === 'part' ? 1.05 : 1);
        return `${(i * 0.05).toFixed(2)},${2000 + i * 19},${torque.toFixed(4)}`;
      });
      files.set(`${id}.csv`, new TextEncoder().encode(`Time (s),RPM,Torque (Nm)\n${rows.join('\n')}\n`));
      const order = 3 * run + k;
      return {
        id,
        arm,
        order,
        mount: 1,
        counted: true,
        file: `${id}.csv`,
        air: arm === 'part' ? ofPart : COOL,
      };
    }),
  );
  const test: TestDefinition = {
    title: 'standards',
    standard: 'sae-j1349',
    engine,
    band: { fromRpm: 2500, toRpm: 6000, stepRpm: 50 },
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part' },
    ],
    pulls,
  };
  return { test, readFile: (name: string) => files.get(name) };
}
function session(ofPart = COOL, engine = SPARK): UnderStandard[] {
  const { test, readFile } = made(ofPart, engine);
  return underEveryStandard(test, readFile, DEFAULT_POLICY);
}
const average = ({ gains }: UnderStandard): number => gains[0].average.gain;

describe('one test under every standard', () => {
  it('in the same air every standard says the same: what the arms share cancels', () => {
    const all = session();
    expect(all.map((u) => u.standard)).toEqual(STANDARDS);
    for (const under of all) expect(average(under)).toBeCloseTo(average(all[0]), 6);
  });
  it('kilowatts follow the factor', () => {
    const [none, ...others] = session();
    for (const { standard, gains } of others) {
      const { factor } = correctionFactor(standard, airState(COOL), SPARK);
      expect(gains[0].upToKw / none.gains[0].upToKw).toBeCloseTo(factor, 6);
    }
  });
  it('in other air for the part they differ by just the ratio of its factors', () => {
    const warm = air(33);
    const [same, other] = [session(), session(warm)];
    other.forEach((under, i) => {
      const by = (reading: typeof COOL) => correctionFactor(under.standard, airState(reading), SPARK).factor;
      const expected = (1 + average(same[i]) / 100) * (by(warm) / by(COOL));
      expect(1 + average(under) / 100).toBeCloseTo(expected, 6);
    });
    // The choice is worth telling: the standards do not weigh temperature alike.
    expect(Math.abs(average(other[1]) - average(other[2]))).toBeGreaterThan(0.2);
  });
  it('one that does not cover the engine says so, and the others stand', () => {
    const all = session(COOL, { ignition: 'compression', aspiration: 'turbo' });
    const without = all.filter((u) => u.gains.length === 0);
    expect(without.length).toBeGreaterThan(0);
    expect(without.length).toBeLessThan(all.length);
    for (const { why } of without) expect(why).toMatch(/\w/);
  });
});

describe('a boosted engine', () => {
  const turbo: Engine = { ignition: 'spark', aspiration: 'turbo' };
  it('is shown by the other schools too, under the planned standard only', () => {
    const { test, readFile } = made(air(33), turbo);
    const all = underEveryStandard(test, readFile, { ...DEFAULT_POLICY, boostedSchool: 'temperature only' });
    expect(all.map((u) => `${u.standard} ${u.school}`)).toEqual([
      'none correct',
      ...STANDARDS.filter((s) => s !== 'none').map((s) => `${s} temperature only`),
      `${test.standard} correct`,
      `${test.standard} do not correct`,
    ]);
    const of = (school: string): number =>
      average(all.find((u) => u.standard === test.standard && u.school === school)!);
    // Not corrected by the school is not corrected at all.
    const none = all.find((u) => u.standard === 'none')!.gains[0].average.gain;
    expect(of('do not correct')).toBeCloseTo(none, 10);
    expect(of('correct')).not.toBeCloseTo(of('temperature only'), 3);
  });
  it('says in the result what the house does, a natural one does not', () => {
    const policy = { ...DEFAULT_POLICY, boostedSchool: 'do not correct' } as const;
    const school = (engine: Engine) => {
      const { test, readFile } = made(air(33), engine);
      return analyseTest(test, readFile, { policy }).result;
    };
    expect(school(turbo).school).toBe('do not correct');
    expect(school(SPARK).school).toBeUndefined();
    // The plan's own school outranks a policy that came after it.
    const { test, readFile } = made(air(33), turbo);
    const planned = analyseTest({ ...test, boostedSchool: 'correct' }, readFile, { policy }).result;
    expect(planned.school).toBeUndefined();
    // The arms' air then differs, and nothing takes it out.
    expect(school(turbo).findings.find((f) => f.gate === 'factor')?.code).toMatch(/^UNCORRECTED_AIR/);
  });
});
