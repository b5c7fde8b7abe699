import { describe, expect, it, test } from 'vitest';
import { TestDefinitionError } from '../base/errors.ts';
import { seededRng } from '../base/rng.ts';
import { claimText, type ClaimFacts } from '../publish/claim.ts';
import { analyseTest, isRefused, type TestDefinition, type TestPull } from './analyse-test.ts';
import { claimRounded } from '../base/rounding.ts';

/** Pull files of a flat 150 N·m engine, each with a level of its own; `gain` in per cent by arm and rpm. */
function made(
  runs: readonly { arm: string; levels: readonly number[]; mount?: number; warmUps?: number }[],
  gain: (arm: string, rpm: number) => number = (arm) => (arm === 'part' ? 4 : 0),
) {
  const files = new Map<string, Uint8Array>();
  const pulls: TestPull[] = [];
  const rng = seededRng(99);
  for (const run of runs) {
    for (let w = 0; w < (run.warmUps ?? 3); w++)
      pulls.push({
        id: `w${pulls.length + 1}`,
        arm: run.arm,
        order: pulls.length + 1,
        mount: run.mount ?? 1,
        counted: false,
      });
    for (const level of run.levels) {
      const id = `p${files.size + 1}`;
      const wave = rng.normal();
      const rows = Array.from({ length: 260 }, (_, i) => {
        const rpm = 1900 + i * 18;
        const told = (1 + gain(run.arm, rpm) / 100) * (1 + level / 100);
        const torque = 150 * told * (1 + 0.001 * wave * Math.sin(rpm / 700));
        return `${(i * 0.05).toFixed(2)},${rpm},${torque.toFixed(4)}`;
      });
      files.set(`${id}.csv`, new TextEncoder().encode(`Time (s),RPM,Torque (Nm)\n${rows.join('\n')}\n`));
      pulls.push({
        id,
        arm: run.arm,
        order: pulls.length + 1,
        mount: run.mount ?? 1,
        counted: true,
        file: `${id}.csv`,
        air: { temperatureC: 22, pressureHpa: 1004, humidity: { kind: 'relative', percent: 45 } },
      });
    }
  }
  const test: TestDefinition = {
    title: 'made up',
    standard: 'sae-j1349',
    engine: { ignition: 'spark', aspiration: 'natural' },
    band: { fromRpm: 2500, toRpm: 6000, stepRpm: 50 },
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part' },
    ],
    pulls,
    plan: { lockedAt: '2026-11-01T08:00:00Z', firstPullAt: '2026-11-01T10:00:00Z' },
  };
  return {
    test,
    files,
    run: (change: Partial<TestDefinition> = {}) =>
      analyseTest({ ...test, ...change }, (file) => files.get(file)).result,
  };
}
const FACTS: ClaimFacts = {
  subject: { kind: 'part', text: 'P', against: null },
  product: true,
  notAsSold: null,
  fitment: 'F',
  vehicle: 'V',
  fuel: 'x',
  calibration: 'x',
  gear: 'x',
  dyno: 'D',
};

const A = { arm: 'stock', levels: [0, 0.3, -0.2] };
const B = { arm: 'part', levels: [0.1, -0.3, 0.2] };
const A2 = { arm: 'stock', levels: [-0.1, 0.25, 0.1] };
const codes = (result: { findings: readonly { code: string }[] }): string[] =>
  result.findings.map((f) => f.code);

describe('a clean A-B-A', () => {
  const result = made([A, B, A2]).run();
  const contrast = result.contrasts[0];
  it('finds the gain that was put in, and can be claimed', () => {
    expect(result).toMatchObject({ verdict: 'claim', grade: 'single' });
    if (isRefused(contrast)) throw new Error(contrast.code);
    expect(Math.abs(contrast.relative.bandAverage.gain - 4)).toBeLessThan(0.3);
    expect(contrast).toMatchObject({
      design: 'A-B-A',
      rule: 'pooled, guarded',
      pulls: { arm: 3, against: 6 },
    });
  });
  it('tells how far it is, step by step to the last', () => {
    const told: [number, number][] = [];
    const { test: definition, files } = made([A, B, A2]);
    const onStep = (done: number, of: number): void => void told.push([done, of]);
    analyseTest(definition, (file) => files.get(file), { onStep });
    const of = 2 * definition.pulls.length;
    expect(told).toEqual(Array.from({ length: of }, (_, i) => [i + 1, of]));
  });
  it('keeps power, torque and per cent consistent: P = T·ω, gain = arm − stock', () => {
    if (isRefused(contrast)) throw new Error(contrast.code);
    contrast.power.curve.forEach((p, j) => {
      const t = contrast.torque.curve[j];
      expect(Math.abs(p.arm - p.against - p.gain)).toBeLessThan(1e-9);
      expect(Math.abs((100 * p.gain) / p.against - contrast.relative.curve[j].gain)).toBeLessThan(1e-9);
      // Means are of smoothed logarithms, so the product holds to the curvature of ln ω over the window.
      expect(Math.abs((t.against * p.rpm) / 9549.2966 / p.against - 1)).toBeLessThan(2e-3);
    });
  });
  it('has a budget whose shares make one', () => {
    if (isRefused(contrast)) throw new Error(contrast.code);
    expect(contrast.budget.reduce((s, b) => s + b.share, 0)).toBeCloseTo(1, 12);
  });
});

describe('samples that are no readings', () => {
  /** The same files with the torque of one row of some pulls ten times what it was. */
  const withTens = (line: number, names: readonly string[]) => {
    const sound = made([A, B, A2]);
    const files = new Map(
      [...sound.files].map(([name, bytes]) => {
        if (!names.includes(name)) return [name, bytes] as const;
        const rows = new TextDecoder().decode(bytes).split('\n');
        const cells = rows[line].split(',');
        rows[line] = [cells[0], cells[1], (10 * Number(cells[2])).toFixed(4)].join(',');
        return [name, new TextEncoder().encode(rows.join('\n'))] as const;
      }),
    );
    return analyseTest(sound.test, (file) => files.get(file)).result;
  };
  const ofPart = ['p4.csv', 'p5.csv', 'p6.csv'];
  it.each([60, 120, 200])('one in every pull of the part, on line %i, ends in no claim', (line) => {
    const result = withTens(line, ofPart);
    expect(result.verdict).toBe('not usable');
    expect(result.findings.filter((f) => f.gate === 'readings')).toMatchObject(
      ofPart.map((name) => ({
        state: 'fail',
        code: 'OUTLIER',
        message: expect.stringContaining(name.slice(0, 2)) as string,
      })),
    );
  });
  it('outside the analysed range it is told as a caution', () => {
    const result = withTens(25, ['p4.csv']);
    expect(result.findings.filter((f) => f.gate === 'readings').map((f) => f.state)).toEqual(['caution']);
    expect(result.verdict).toBe('claim');
  });
  it('readings far from what the engine is rated at are no readings of it', () => {
    const sound = made([A, B, A2]);
    const gates = (ratedPowerKw: number | undefined) =>
      analyseTest({ ...sound.test, ratedPowerKw }, (file) => sound.files.get(file))
        .result.findings.filter((f) => f.gate === 'readings')
        .map((f) => f.code);
    expect(gates(100)).toEqual(['READINGS_SOUND']);
    expect(new Set(gates(20))).toEqual(new Set(['BEYOND_ENGINE']));
    expect(new Set(gates(600))).toEqual(new Set(['BEYOND_ENGINE']));
    expect(gates(undefined)).toEqual(['READINGS_SOUND']);
  });
});

describe('what cannot be analysed comes back with its code', () => {
  test.each([
    ['an arm without pulls', () => made([A]).run(), 'ERROR_NO_DATA'],
    [
      'one pull each',
      () =>
        made([
          { arm: 'stock', levels: [0] },
          { arm: 'part', levels: [0] },
        ]).run(),
      'NOT_ENOUGH_PULLS',
    ],
    [
      'a band no pull covers far enough',
      () => made([A, B, A2]).run({ band: { fromRpm: 5700, toRpm: 6900, stepRpm: 50 } }),
      'TOO_SHORT',
    ],
    [
      're-mounted without registered variance',
      () =>
        made([
          { ...A, mount: 1 },
          { ...B, mount: 2 },
          { ...A2, mount: 3 },
        ]).run(),
      'NO_CLAIM_MOUNT_UNKNOWN',
    ],
    ['a drift term for A-B', () => made([A, B]).run({ model: { drift: 'linear' } }), 'DRIFT_CONFOUNDED'],
  ] as const)('%s', (_what, run, code) => {
    const result = run();
    expect(result.contrasts[0]).toMatchObject({ code });
    expect(codes(result)).toContain(code);
    expect(result.grade).toBe('indicative');
  });
  it('the same bytes counted twice', () => {
    const m = made([A, B, A2]);
    m.files.set('p2.csv', m.files.get('p1.csv')!);
    expect(m.run().contrasts[0]).toMatchObject({ code: 'DUPLICATE_PULLS' });
  });
});

describe('mountings', () => {
  const remounted = made([
    { ...A, mount: 1 },
    { ...B, mount: 2 },
    { ...A2, mount: 3 },
  ]);
  it('carry the registered variance into the interval', () => {
    const one = made([A, B, A2]).run().contrasts[0];
    const three = remounted.run({ repeatability: { mount: { variance: 0.405, df: 9.3 } } }).contrasts[0];
    if (isRefused(one) || isRefused(three)) throw new Error('refused');
    expect(three.budget.map((b) => b.source)).toEqual(['repeatability', 'mount']);
    expect(three.budget[1].variance).toBeCloseTo(0.405 * 1.5, 12);
    expect(three.relative.bandAverage.upper - three.relative.bandAverage.lower).toBeGreaterThan(
      2 * (one.relative.bandAverage.upper - one.relative.bandAverage.lower),
    );
  });
  it('become the unit when both arms have two of their own and none is registered', () =>
    expect(
      made([
        { ...A, mount: 1 },
        { ...B, mount: 2 },
        { ...A2, mount: 3 },
        { ...B, levels: [0.3, 0, 0.2], mount: 4 },
      ]).run().contrasts[0],
    ).toMatchObject({ rule: 'mounting means' }));
});

describe('gates', () => {
  test.each([
    ['A-B is provisional', () => made([A, B]).run(), 'AB_PROVISIONAL', 'needs more pulls'],
    ['unequal warm-up', () => made([A, { ...B, warmUps: 1 }, A2]).run(), 'WARM_UP_UNEQUAL', 'not usable'],
    [
      'no warm-up',
      () => made([A, B, A2].map((r) => ({ ...r, warmUps: 0 }))).run(),
      'WARM_UP_NONE',
      'not usable',
    ],
    [
      'a plan locked late',
      () =>
        made([A, B, A2]).run({
          plan: { lockedAt: '2026-11-02T08:00:00Z', firstPullAt: '2026-11-01T10:00:00Z' },
        }),
      'PLAN_LOCKED_LATE',
      'not usable',
    ],
    [
      'scatter above 2 %',
      () => made([{ ...A, levels: [0, 5, -4] }, B, A2]).run(),
      'SCATTER_TOO_HIGH',
      'not usable',
    ],
    ['no gain', () => made([A, B, A2], () => 0).run(), 'NO_GAIN_SHOWN', 'no gain shown'],
    [
      'a loss throughout',
      () => made([A, B, A2], (arm) => (arm === 'part' ? -5 : 0)).run(),
      'LOSS_ON_AVERAGE',
      'loss',
    ],
    [
      'a baseline that did not return',
      () => made([A, B, { ...A2, levels: [2.1, 2.4, 2.2] }]).run(),
      'BASELINE_DID_NOT_RETURN',
      'claim',
    ],
  ] as const)('%s', (_what, run, code, verdict) => {
    const result = run();
    expect(codes(result)).toContain(code);
    expect(result.verdict).toBe(verdict);
  });
  it('a factor out of range fails', () => {
    const m = made([A, B, A2]);
    const cold = m.test.pulls.map((p) => (p.air ? { ...p, air: { ...p.air, temperatureC: 8 } } : p));
    expect(m.run({ pulls: cold })).toMatchObject({ verdict: 'not usable' });
    expect(codes(m.run({ pulls: cold }))).toContain('TEMPERATURE_OUT_OF_RANGE');
  });
  it('arms corrected more than 2 % apart fail', () => {
    const m = made([A, B, A2]);
    const apart = m.test.pulls.map((p) =>
      p.air && p.arm === 'part' ? { ...p, air: { ...p.air, pressureHpa: 975 } } : p,
    );
    expect(codes(m.run({ pulls: apart }))).toContain('FACTORS_APART');
  });
});

describe('a proven loss', () => {
  const result = made([A, B, A2], (arm, rpm) => (arm === 'part' ? (rpm < 3400 ? -4 : 5) : 0)).run();
  it('is found and asks to be told', () => {
    expect(codes(result)).toContain('LOSS_TO_DISCLOSE');
    expect(result.contrasts[0]).toMatchObject({ relative: { losses: [{ fromRpm: 2500 }] } });
  });
  it('goes with the claim, away from zero', () => {
    const text = claimText(result, 'upTo', 'kW', FACTS);
    expect(text).toMatchObject({
      ok: true,
      value: { disclosures: [expect.stringMatching(/^Proven loss: −\d\.\d % near [23]/)] },
    });
  });
});

describe('excluded pulls', () => {
  const m = made([A, { ...B, levels: [0.1, -2.6, 0.2] }, A2]);
  const pulls = m.test.pulls.map((p) => (p.id === 'p5' ? { ...p, excluded: 'wheel slip' } : p));
  const result = m.run({ pulls });
  it('stay listed with their cause and are shown both ways', () => {
    expect(result.pulls.find((p) => p.id === 'p5')).toMatchObject({ excluded: 'wheel slip' });
    expect(result.contrasts[0]).toMatchObject({ pulls: { arm: 2 }, withExcluded: {} });
  });
  it('the smaller of both is claimed', () => {
    const contrast = result.contrasts[0];
    if (isRefused(contrast)) throw new Error(contrast.code);
    const text = claimText(result, 'bandAverage', '%', FACTS);
    expect(contrast.withExcluded!.relative.bandAverage.lower).toBeLessThan(
      contrast.relative.bandAverage.lower,
    );
    if (text.ok)
      expect(text.value.value).toBe(claimRounded(contrast.withExcluded!.relative.bandAverage.lower, '%'));
    else expect(text.code).toBe('NOT_POSITIVE');
  });
  it('and is told with the engine speed it was found at', () => {
    // The excluded pull is stronger low down and weaker high up: with it the largest gain is elsewhere.
    const tilted = made([A, { ...B, levels: [0.1, -0.1, 0.2] }, A2], (arm, rpm) =>
      arm === 'part' ? 7 + (rpm - 4250) / 1000 : 0,
    );
    const odd = new TextDecoder()
      .decode(tilted.files.get('p5.csv'))
      .split('\n')
      .map((line) => {
        const [t, rpm, torque] = line.split(',');
        return torque && Number(rpm) > 3500
          ? `${t},${rpm},${(Number(torque) * (1 - 0.05 * Math.min(1, (Number(rpm) - 3500) / 1000))).toFixed(3)}`
          : line;
      })
      .join('\n');
    tilted.files.set('p5.csv', new TextEncoder().encode(odd));
    const both = tilted.run({
      pulls: tilted.test.pulls.map((p) => (p.id === 'p5' ? { ...p, excluded: 'wheel slip' } : p)),
    });
    const contrast = both.contrasts[0];
    if (isRefused(contrast)) throw new Error(contrast.code);
    const again = contrast.withExcluded!;
    expect(again.relative.upTo.gain).toBeLessThan(contrast.relative.upTo.gain);
    expect(again.relative.upTo.rpm).not.toBe(contrast.relative.upTo.rpm);
    const text = claimText(both, 'upTo', '%', FACTS);
    expect(text).toMatchObject({
      ok: true,
      value: { value: claimRounded(again.relative.upTo.gain, '%'), rpm: again.relative.upTo.rpm },
    });
  });
});

describe('a definition that does not hold together', () => {
  const m = made([A, B, A2]);
  test.each([
    [
      'no baseline',
      {
        arms: [
          { id: 'stock', role: 'part' as const },
          { id: 'part', role: 'part' as const },
        ],
      },
      'NO_BASELINE',
    ],
    ['an unknown arm', { pulls: [{ ...m.test.pulls[0], arm: 'other' }] }, 'UNKNOWN_ARM'],
    ['one position twice', { pulls: m.test.pulls.map((p) => ({ ...p, order: 1 })) }, 'DUPLICATE_ID'],
    ['a band upside down', { band: { fromRpm: 6000, toRpm: 2500, stepRpm: 50 } }, 'BAD_BAND'],
    [
      'a file that is not there',
      { pulls: m.test.pulls.map((p) => (p.file ? { ...p, file: 'lost.csv' } : p)) },
      'FILE_MISSING',
    ],
  ])('%s', (_what, change, code) => {
    try {
      m.run(change);
      expect.unreachable();
    } catch (error) {
      expect(error).toBeInstanceOf(TestDefinitionError);
      expect((error as TestDefinitionError).code).toBe(code);
    }
  });
});

test.each([
  [3.49, 'kW', 3],
  [3.5, 'kW', 3.5],
  [0.49, 'kW', 0],
  [-1.61, '%', -1.7],
  [2.0199, '%', 2],
  [7.99, 'hp', 7],
  [-0.2, 'kW', -0.5],
] as const)('a claim of %d %s is shown as %d: gains towards zero, losses away', (value, unit, shown) =>
  expect(claimRounded(value, unit)).toBe(shown),
);
