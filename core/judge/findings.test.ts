/** Findings that decide a claim, through the whole analysis: each is put in, and must come out. */
import { describe, expect, it, test } from 'vitest';
import { DEFAULT_POLICY } from '../base/policy.ts';
import { seededRng } from '../base/rng.ts';
import { rpmGrid, torqueCurve } from '../correct/torque-curve.ts';
import { findSweep } from '../capture/sweep.ts';
import { adviceText, claimText, type ClaimFacts } from '../publish/claim.ts';
import { analyseTest, isRefused, type TestDefinition, type TestPull } from './analyse-test.ts';
import { outcome } from './verdict.ts';

interface Run {
  readonly arm: string;
  readonly mount?: number;
  /** Level of the whole run, %. */ readonly level?: number;
}
interface Made {
  readonly gain?: (arm: string, rpm: number) => number;
  /** Torque over engine speed, N·m. */ readonly engine?: (rpm: number) => number;
  /** Pull-to-pull SD of the level, %. */ readonly scatter?: number;
  readonly change?: Partial<TestDefinition>;
  readonly air?: (arm: string) => { temperatureC: number; pressureHpa: number };
}
const flat = (rpm: number): number => 150 - ((rpm - 4000) / 400) ** 2 / 4;

/** A session of runs, three warm-up and three counted pulls each. */
function session(runs: readonly Run[], made: Made = {}) {
  const { gain = (arm: string) => (arm === 'part' ? 4 : 0), engine = flat, scatter = 0.3 } = made;
  const rng = seededRng(7);
  const files = new Map<string, Uint8Array>();
  const pulls: TestPull[] = [];
  for (const run of runs) {
    for (let k = 0; k < 6; k++) {
      const counted = k >= 3;
      const id = `${counted ? 'p' : 'w'}${pulls.length + 1}`;
      if (counted) {
        const level = (run.level ?? 0) + scatter * rng.normal();
        const rows = Array.from({ length: 480 }, (_, i) => {
          const rpm = 1900 + i * 10;
          const torque = engine(rpm) * (1 + (level + gain(run.arm, rpm)) / 100) * (1 + 0.0008 * rng.normal());
          return `${(i * 0.03).toFixed(2)},${rpm},${torque.toFixed(3)}`;
        });
        files.set(`${id}.csv`, new TextEncoder().encode(`Time (s),RPM,Torque (Nm)\n${rows.join('\n')}\n`));
      }
      pulls.push({
        id,
        arm: run.arm,
        order: pulls.length + 1,
        mount: run.mount ?? 1,
        counted,
        ...(counted
          ? {
              file: `${id}.csv`,
              air: {
                ...(made.air?.(run.arm) ?? { temperatureC: 22, pressureHpa: 1004 }),
                humidity: { kind: 'relative' as const, percent: 45 },
              },
            }
          : {}),
      });
    }
  }
  const arms = [...new Set(runs.map((r) => r.arm))];
  return analyseTest(
    {
      title: 'made up',
      standard: 'sae-j1349',
      engine: { ignition: 'spark', aspiration: 'natural' },
      band: { fromRpm: 2500, toRpm: 6000, stepRpm: 50 },
      metric: 'bandAverage',
      arms: arms.map((id) => ({ id, role: id === 'stock' ? ('baseline' as const) : ('part' as const) })),
      pulls,
      plan: { lockedAt: '2026-11-01T08:00:00Z', firstPullAt: '2026-11-01T10:00:00Z' },
      ...made.change,
    },
    (file) => files.get(file),
  ).result;
}
const ABA: readonly Run[] = [{ arm: 'stock' }, { arm: 'part' }, { arm: 'stock' }];
const codes = (result: { findings: readonly { code: string }[] }): string[] =>
  result.findings.map((f) => f.code);
const FACTS: ClaimFacts = {
  subject: { kind: 'part', text: 'Ram intake, revision B', against: null },
  product: true,
  notAsSold: null,
  fitment: 'F',
  vehicle: 'V',
  fuel: '95',
  calibration: 'stock',
  gear: '4th',
  tyres: '205/55 R16',
  dyno: 'D',
};

describe('the return to baseline', () => {
  const remounted = (level: number, mount?: { variance: number; df: number }) =>
    codes(
      session(
        [
          { arm: 'stock', mount: 1 },
          { arm: 'part', mount: 2 },
          { arm: 'stock', mount: 3, level },
        ],
        { change: { repeatability: { mount: mount ?? { variance: 0.405, df: 9.3 } } } },
      ),
    );
  it('is held against the mountings as well as the scatter', () => {
    expect(remounted(1.3)).not.toContain('BASELINE_DID_NOT_RETURN');
    expect(remounted(1.3, { variance: 0.001, df: 9.3 })).toContain('BASELINE_DID_NOT_RETURN');
    expect(remounted(4)).toContain('BASELINE_DID_NOT_RETURN');
  });
});

describe('without correction', () => {
  const air = (apart: number) => (arm: string) => ({
    temperatureC: 22,
    pressureHpa: arm === 'part' ? 1004 - apart : 1004,
  });
  test.each([
    [2, 'UNCORRECTED_SAME_AIR'],
    [14, 'UNCORRECTED_AIR_SOMEWHAT_APART'],
    [30, 'UNCORRECTED_AIR_APART'],
  ])('air %d hPa apart: %s', (apart, code) =>
    expect(codes(session(ABA, { air: air(apart), change: { standard: 'none' } }))).toContain(code),
  );
  it('no wording says that anything was corrected', () => {
    const text = claimText(session(ABA, { change: { standard: 'none' } }), 'bandAverage', '%', FACTS);
    if (!text.ok) throw new Error(text.code);
    expect(JSON.stringify(text.value)).not.toMatch(/uncorrected|corrected by/);
    expect(text.value.wording).toContain('not corrected for air');
  });
});

describe('scatter against the dyno’s history', () => {
  const at = (variance: number, scatter = 0.3) =>
    codes(session(ABA, { scatter, change: { repeatability: { bandAverage: { variance, df: 10 } } } }));
  test.each([
    [0.25, 'SCATTER_AS_USUAL'],
    [0.6, 'SCATTER_AS_USUAL'],
    [9, 'SCATTER_FAR_BELOW_HISTORY'],
  ])('variance %d: %s', (variance, code) => expect(at(variance)).toContain(code));
});

describe('a peak at the edge of the window', () => {
  const rising = { engine: (rpm: number) => 100 + rpm / 60, change: { metric: 'peakToPeak' as const } };
  it('is no peak, and is not claimed as one', () => {
    const result = session(ABA, rising);
    const contrast = result.contrasts[0];
    if (isRefused(contrast)) throw new Error('refused');
    expect(contrast.power.peakToPeak.atEdge).toBe(true);
    expect(result.pulls.every((p) => p.peakPower!.atEdge)).toBe(true);
    expect(codes(result)).toContain('PEAK_AT_EDGE');
    expect(result.verdict).toBe('no gain shown');
    expect(claimText(result, 'peakToPeak', 'kW', FACTS)).toMatchObject({ ok: false, code: 'PEAK_AT_EDGE' });
  });
  it('inside it is one', () => {
    const round = (rpm: number): number => 180 - ((rpm - 3200) / 60) ** 2 / 10;
    const result = session(ABA, { engine: round, change: { metric: 'peakToPeak' } });
    expect(codes(result)).toContain('GAIN_SHOWN');
    expect(result.pulls.some((p) => p.peakPower!.atEdge)).toBe(false);
  });
});

describe('policy is read', () => {
  it('for smoothing and confidence where a test does not say', () => {
    const wide = analyseWith({ smoothingRpm: 400, confidence: 0.8 });
    expect(wide).toMatchObject({ smoothingRpm: 400, confidence: 0.8 });
    expect(analyseWith({})).toMatchObject({ smoothingRpm: 200, confidence: 0.95 });
  });
  function analyseWith(change: Partial<typeof DEFAULT_POLICY>) {
    const test_: TestDefinition = {
      title: 't',
      standard: 'none',
      engine: { ignition: 'spark', aspiration: 'natural' },
      band: { fromRpm: 2500, toRpm: 6000, stepRpm: 50 },
      arms: [
        { id: 'stock', role: 'baseline' },
        { id: 'part', role: 'part' },
      ],
      pulls: [],
    };
    return analyseTest(test_, () => undefined, { policy: { ...DEFAULT_POLICY, ...change } }).result;
  }
});

describe('verdicts', () => {
  const loses = { gain: (arm: string) => (arm === 'part' ? -4 : 0) };
  it('a product that loses on average goes back to design; anything else is a loss', () => {
    const arms = [
      { id: 'stock', role: 'baseline' as const },
      { id: 'part', role: 'part' as const, product: 'rev' },
    ];
    expect(session(ABA, { ...loses, change: { arms } }).verdict).toBe('send back to design');
    expect(session(ABA, loses).verdict).toBe('loss');
  });
  it('a loss in part of the band with no gain anywhere is never “no gain shown”', () => {
    const result = session(ABA, { gain: (arm, rpm) => (arm === 'part' && rpm > 5700 ? -4 : 0) });
    expect(codes(result)).toContain('LOSS_SHOWN');
    expect(result.verdict).toBe('loss');
  });
  it('settings of one product that come out differently depend on the option', () => {
    const one = { grade: 'single' as const, product: 'rev' };
    expect(
      outcome([
        { ...one, verdict: 'claim' },
        { ...one, verdict: 'no gain shown' },
      ]).verdict,
    ).toBe('depends on the option');
    expect(
      outcome([
        { ...one, verdict: 'claim' },
        { ...one, product: 'other', verdict: 'no gain shown' },
      ]).verdict,
    ).toBe('claim');
  });
});

describe('advice', () => {
  it('says how much a change gives at the most, rounded up', () => {
    const result = session(ABA);
    const contrast = result.contrasts[0];
    if (isRefused(contrast)) throw new Error('refused');
    const advice = adviceText(result, '%', { ...FACTS, product: false });
    if (!advice.ok) throw new Error(advice.code);
    expect(advice.value.value).toBeGreaterThanOrEqual(contrast.relative.bandAverage.upper);
    expect(advice.value.wording).toMatch(/^Gives at most \+\d\.\d % on average/);
    expect(claimText(result, 'bandAverage', '%', { ...FACTS, product: false })).toMatchObject({
      ok: false,
      code: 'NO_PRODUCT',
    });
  });
  it('no gain is told with what the data still allow, a loss with its size', () => {
    const none = adviceText(session(ABA, { gain: () => 0 }), '%', FACTS);
    const loss = adviceText(session(ABA, { gain: (arm) => (arm === 'part' ? -4 : 0) }), 'kW', FACTS);
    expect(none).toMatchObject({
      ok: true,
      value: { wording: expect.stringMatching(/^No gain shown: at most \+/) as string },
    });
    expect(loss).toMatchObject({
      ok: true,
      value: { wording: expect.stringMatching(/^Loses power: −/) as string },
    });
  });
  it('a claim for another setting than the sold one names it first, and tells the sold one beside it', () => {
    const runs: readonly Run[] = [{ arm: 'stock' }, { arm: 'out' }, { arm: 'in' }, { arm: 'stock' }];
    const result = session(runs, { gain: (arm) => (arm === 'out' ? 5 : 0) });
    const text = claimText(
      result,
      'bandAverage',
      '%',
      { ...FACTS, notAsSold: { tested: 'insert out', sold: 'insert in', soldArm: 'in' } },
      'out',
    );
    if (!text.ok) throw new Error(text.code);
    expect(text.value.wording).toMatch(/^With insert out \(sold with insert in\): at least \+/);
    expect(text.value.disclosures[0]).toMatch(/^As sold \(insert in\): No gain shown: at most/);
    const alone = claimText(
      result,
      'bandAverage',
      '%',
      { ...FACTS, notAsSold: { tested: 'insert out', sold: 'insert in', soldArm: null } },
      'out',
    );
    expect(alone).toMatchObject({
      ok: true,
      value: { disclosures: ['As sold (insert in) it was not tested.'] },
    });
  });
});

it('a grid point wants four samples in its window, not three', () => {
  const sweep = findSweep({ rpm: Float64Array.from({ length: 60 }, (_, i) => 2000 + 60 * i) });
  const at = (rpms: number[]): number =>
    torqueCurve(
      Float64Array.from(rpms),
      Float64Array.from(rpms, () => 100),
      { ...sweep, indices: Int32Array.from(rpms, (_, i) => i), medianSpacingRpm: 20 },
      rpmGrid(3000, 3050, 50),
      50,
    )[0];
  expect(at([2965, 2985, 3015])).toBeNaN();
  expect(at([2965, 2985, 3015, 3035])).toBeCloseTo(100, 9);
});
