import { describe, expect, it, test } from 'vitest';
import { seededRng } from '../../base/rng.ts';
import { readPullFile } from '../../capture/pull-file.ts';
import { accountedGate } from './accounted.ts';
import { told } from '../finding.ts';
import type { HeldPull } from './held-pull.ts';
import { plausibleGate } from './plausible.ts';

const plausibleFindings = (...held: Parameters<typeof plausibleGate>) =>
  plausibleGate(...held).map((finding) => told(finding));

const arms = [
  { id: 'stock', label: 'stock' },
  { id: 'part', label: 'long inlet' },
];
interface Made {
  readonly seed?: number;
  readonly digits?: number;
  readonly preamble?: string;
  readonly header?: string;
  readonly change?: (torque: number, i: number) => number;
}
/** Text of a pull at 100 Hz: a flat engine with 0.3 % of noise on every sample. */
function textOf({
  seed = 1,
  digits = 2,
  preamble = '',
  header = 'Torque (Nm)',
  change = (t) => t,
}: Made): string {
  const rng = seededRng(seed);
  const rows = Array.from({ length: 400 }, (_, i) => {
    const rpm = 2000 + 10 * i;
    return `${rpm},${change(150 * (1 + 0.003 * rng.normal()), i).toFixed(digits)}`;
  });
  return `${preamble}RPM,${header}\n${rows.join('\n')}\n`;
}
const held = (id: string, made: Made, more: Partial<HeldPull> = {}): HeldPull => ({
  id,
  arm: 'stock',
  mount: 1,
  file: readPullFile(new TextEncoder().encode(textOf(made))),
  air: { temperatureC: 20, pressureHpa: 1004, humidity: { kind: 'relative', percent: 45 }, siteHeightM: 12 },
  applied: { standard: 'none' },
  ...more,
});
const codes = (...pulls: HeldPull[]): string[] => plausibleFindings(pulls, arms).map((f) => f.code);
const one = held('p1', { seed: 1 });

describe('copies', () => {
  it('separate recordings pass', () =>
    expect(codes(one, held('p2', { seed: 2 }), held('p3', { seed: 3, digits: 0 }))).toEqual([
      'PULLS_AS_HELD',
    ]));
  test.each<[string, HeldPull]>([
    ['the same bytes under other air', held('p2', { seed: 1 }, { air: { ...one.air!, temperatureC: 31 } })],
    ['the same but for a digit', held('p2', { seed: 1, change: (t, i) => (i === 200 ? t + 1 : t) })],
    ['the same, begun later', held('p2', { seed: 1, change: (t, i) => (i < 120 ? t * 1.01 : t) })],
  ])('%s', (_what, copy) => {
    const [finding] = plausibleFindings([one, copy], arms);
    expect(finding).toMatchObject({ code: 'COPIED_SAMPLES', state: 'fail' });
  });
  it('one recording times a constant, also when it is rounded again', () => {
    expect(codes(one, held('p2', { seed: 1, change: (t) => t * 1.04 }))).toEqual(['SCALED_COPY']);
    expect(
      codes(held('p1', { seed: 1, digits: 1 }), held('p2', { seed: 1, digits: 1, change: (t) => t * 1.04 })),
    ).toEqual(['SCALED_COPY']);
  });
  it('two quiet pulls written in whole newton metres are no copies', () =>
    expect(codes(held('p1', { seed: 1, digits: 0 }), held('p2', { seed: 2, digits: 0 }))).toEqual([
      'PULLS_AS_HELD',
    ]));
});

describe('what a file says of itself', () => {
  it('the label of another pull: of the other arm it fails, of the same one it is told', () => {
    const named = (label: string) => held('p1', { preamble: `# Pull: ${label}\n` });
    const others = [held('p2', { seed: 2 }), held('p4', { seed: 4 }, { arm: 'part' })];
    const of = (label: string) => plausibleFindings([named(label), ...others], arms);
    expect(of('p4, position 10')).toMatchObject([{ code: 'NAMES_OTHER_PULL', state: 'fail' }]);
    expect(of('p2, position 3')).toMatchObject([{ code: 'NAMES_OTHER_PULL', state: 'caution' }]);
    for (const own of ['p1, position 2', '4', 'evening']) expect(of(own)[0].code).toBe('PULLS_AS_HELD');
  });
  test.each<[string, string, Made, Partial<HeldPull>]>([
    ['a header that says corrected', 'SAYS_CORRECTED', { header: 'Corrected torque (Nm)' }, {}],
    ['a preamble that says corrected', 'SAYS_CORRECTED', { preamble: '# Correction: SAE J1349\n' }, {}],
    [
      'uncorrected where a factor would be taken off',
      'SAYS_UNCORRECTED',
      { preamble: '# Correction: uncorrected\n' },
      { applied: { standard: 'sae-j607' } },
    ],
    ['another arm', 'NAMES_OTHER_ARM', { preamble: '# Configuration: Long-inlet, 2nd\n' }, {}],
  ])('%s', (_what, code, made, more) => {
    const found = plausibleFindings([held('p1', made, more)], arms);
    expect(found).toMatchObject([{ code, state: 'fail' }]);
  });
  test.each<[string, Made, Partial<HeldPull>]>([
    ['uncorrected, and held to be', { preamble: '# Correction: none\n' }, {}],
    [
      'corrected, and held to be',
      { header: 'Corrected torque (Nm)' },
      { applied: { standard: 'din-70020' } },
    ],
    ['its own arm', { preamble: '# Configuration: stock\n' }, {}],
    ['both arms, as a session’s title does', { preamble: '# Setup: stock and long inlet\n' }, {}],
  ])('%s is no finding', (_what, made, more) =>
    expect(codes(held('p1', made, more))).toEqual(['PULLS_AS_HELD']),
  );
  it('days of one mounting: the next is a caution, another a failure', () => {
    const on = (id: string, day: string, seed: number) => held(id, { seed, preamble: `# Date: ${day}\n` });
    expect(plausibleFindings([on('p1', '2026-11-24', 1), on('p2', '2026-11-25', 2)], arms)).toMatchObject([
      { code: 'RECORDED_ON_OTHER_DAY', state: 'caution' },
    ]);
    expect(plausibleFindings([on('p1', '2026-11-24', 1), on('p2', '2026-10-02', 2)], arms)).toMatchObject([
      { code: 'RECORDED_ON_OTHER_DAY', state: 'fail' },
    ]);
  });
});

describe('one unit for all', () => {
  const pound = { header: 'Torque (lb-ft)' };
  const state = (...pulls: HeldPull[]) => plausibleFindings(pulls, arms).map((f) => [f.code, f.state]);
  it('another unit in the files of one arm fails: it would be a gain of 36 %', () => {
    const pulls = [one, held('p2', { seed: 2, ...pound }, { arm: 'part' })];
    expect(state(...pulls)).toEqual([['READ_FROM_DIFFERENT', 'fail']]);
    expect(plausibleFindings(pulls, arms)[0].message).toBe(
      'Pulls are not read alike: p1 from torque in N·m; p2 from torque in lb·ft.',
    );
  });
  it('so does power of one arm beside torque of the other', () => {
    const power = held(
      'p2',
      { seed: 2, header: 'Power (kW)', change: (_t, i) => 30 + i / 10 },
      { arm: 'part' },
    );
    expect(state(one, power)).toEqual([['READ_FROM_DIFFERENT', 'fail']]);
  });
  it('in both arms alike it is a caution: a wrong one would show as scatter', () => {
    const [a, b] = [held('p2', { seed: 2, ...pound }), held('p3', { seed: 3 }, { arm: 'part' })];
    expect(state(one, a, b, held('p4', { seed: 4, ...pound }, { arm: 'part' }))).toEqual([
      ['READ_FROM_DIFFERENT', 'caution'],
    ]);
  });
});

describe('pressure of the site', () => {
  // Standard atmosphere at 900 m: 909.71 hPa (ICAO Doc 7488 tables, from memory).
  test.each([
    [1013, 'station', 'PRESSURE_NOT_OF_SITE'],
    [908, 'station', 'PULLS_AS_HELD'],
    [1013, 'sea level', 'PULLS_AS_HELD'],
  ] as const)('%d hPa %s at 900 m: %s', (pressureHpa, pressureKind, code) =>
    expect(
      codes(held('p1', {}, { air: { ...one.air!, pressureHpa, pressureKind, siteHeightM: 900 } })),
    ).toEqual([code]),
  );
});

describe('accounted', () => {
  const out = {
    id: 'p5',
    excluded: 'wheel slip',
    hasFile: true,
    hasAir: true,
    comparable: true,
    afterResult: false,
  };
  test.each([
    ['nothing left out', [], 'pass', 'ALL_ANALYSED'],
    ['left out with its data', [out], 'pass', 'LEFT_OUT_WITH_CAUSE'],
    ['without its file', [{ ...out, hasFile: false, hasAir: false }], 'fail', 'EXCLUDED_INCOMPLETE'],
    ['without its air', [{ ...out, hasAir: false }], 'fail', 'EXCLUDED_INCOMPLETE'],
    [
      'never recorded',
      [{ ...out, excluded: 'never recorded', hasFile: false, hasAir: false }],
      'pass',
      'LEFT_OUT_WITH_CAUSE',
    ],
    [
      'never recorded, and there it is',
      [{ ...out, excluded: 'never recorded', hasAir: false }],
      'fail',
      'EXCLUDED_INCOMPLETE',
    ],
    ['air not read', [{ ...out, excluded: 'air not read', hasAir: false }], 'pass', 'LEFT_OUT_WITH_CAUSE'],
    ['after the result', [{ ...out, afterResult: true }], 'caution', 'EXCLUDED_AFTER_RESULT'],
    ['no curve to compare', [{ ...out, comparable: false }], 'caution', 'EXCLUDED_NOT_COMPARABLE'],
  ] as const)('%s', (_what, leftOut, state, code) =>
    expect(accountedGate(leftOut)).toMatchObject([{ gate: 'accounted', state, code }]),
  );
});
