import { describe, expect, it, test } from 'vitest';
import { glyphOf } from '../compare/glyph.ts';
import { claimSubject } from '../plan/subject.ts';
import { claimText, type ClaimFacts } from '../publish/claim.ts';
import { isRefused, type TestResult } from './analyse-test.ts';
import type { Finding } from './finding.ts';
import { flatSession as session } from './flat-session.ts';
import { planGate } from './gates/plan-locked.ts';
import { outcome, outcomeOf } from './verdict.ts';

function average(result: TestResult, arm: string) {
  const contrast = result.contrasts.find((c) => c.arm === arm)!;
  if (isRefused(contrast)) throw new Error(contrast.code);
  return { ...contrast.relative.bandAverage, budget: contrast.budget };
}

describe('several parts between two baselines', () => {
  const result = session(['stock', 'out', 'in', 'stock'], { out: 4, in: 0 });
  it('have a contrast each, with findings of their own and one for the whole test', () => {
    expect(result.contrasts.map((c) => c.arm)).toEqual(['out', 'in']);
    expect(result.findings.filter((f) => f.gate === 'plan locked')).toHaveLength(1);
    for (const arm of ['out', 'in'])
      expect(result.findings.filter((f) => f.arm === arm).map((f) => f.gate)).toEqual([
        'design',
        'mounting',
        'warm-up',
        'repeats',
        'scatter of the arms',
        'repeatability',
        'settled',
        'factor',
        'same sweep',
        'start temperatures',
        'engine state',
        'log agrees',
        'effect',
        'losses told',
      ]);
  });
  it('are judged one by one; the test is known by the one that came furthest', () => {
    expect(outcomeOf(result.findings, 'out')).toEqual({ verdict: 'claim', grade: 'single' });
    expect(outcomeOf(result.findings, 'in').verdict).toBe('no gain shown');
    expect(result).toMatchObject({ verdict: 'claim', grade: 'single' });
  });
  it('find the gains that were put in', () => {
    expect(Math.abs(average(result, 'out').gain - 4)).toBeLessThan(0.5);
    expect(Math.abs(average(result, 'in').gain)).toBeLessThan(0.5);
  });
  it('pay for their number: alone, the same pulls give a narrower interval', () => {
    const width = ({ lower, upper }: { lower: number; upper: number }): number => upper - lower;
    const alone = session(['stock', 'out', 'stock'], { out: 4 });
    expect(width(average(result, 'out'))).toBeGreaterThan(width(average(alone, 'out')));
  });
  it('off the centre of the bracket the drift bound is in the budget, at the centre it is not', () => {
    expect(average(result, 'out').budget.map((b) => b.source)).toContain('drift');
    expect(result.findings.find((f) => f.arm === 'out' && f.gate === 'design')!.message).toContain(
      'off the centre of its bracket',
    );
    const three = session(['stock', 'a', 'b', 'c', 'stock'], { a: 1, b: 1, c: 1 });
    expect(average(three, 'b').budget.map((b) => b.source)).not.toContain('drift');
    expect(average(three, 'a').budget.map((b) => b.source)).toContain('drift');
  });
  it('a steady drift within the bound does not make a gain of nothing', () => {
    for (const drift of [0.08, -0.08]) {
      const soaked = session(['stock', 'a', 'b', 'stock'], {}, drift);
      for (const arm of ['a', 'b']) expect(average(soaked, arm).lower).toBeLessThan(0);
    }
  });
});

describe('claims of one arm', () => {
  const result = session(['stock', 'out', 'in', 'stock'], { out: 4, in: 0 });
  const facts: ClaimFacts = {
    subject: { kind: 'part', text: 'Two-way exhaust (insert out)', against: null },
    product: true,
    notAsSold: null,
    fitment: 'Ferry',
    vehicle: 'car',
    fuel: '95',
    calibration: 'stock',
    gear: '4th',
    dyno: 'Cell',
  };
  it('are worded from its own contrast, with what was claimed and against what', () => {
    const claim = claimText(
      result,
      'bandAverage',
      '%',
      {
        ...facts,
        subject: claimSubject({
          scope: 'part alone',
          differences: [{ subject: 'exhaust section', from: 'stock', to: 'Two-way exhaust (insert out)' }],
          label: 'out',
          against: 'the same vehicle with winter tyres',
        }),
      },
      'out',
    );
    if (!claim.ok) throw new Error(claim.code);
    expect(claim.value.value).toBe(Math.floor(10 * average(result, 'out').lower + 1e-9) / 10);
    expect(claim.value.wording).toMatch(
      /^At least \+\d\.\d % on average from 2\u202f500 to 6\u202f000 rpm, at the wheel/,
    );
    expect(claim.value.conditions[0]).toBe(
      'Two-way exhaust (insert out) against the same vehicle with winter tyres on Ferry',
    );
  });
  it('are refused for an arm that shows nothing, and for one that is not there', () => {
    expect(claimText(result, 'bandAverage', '%', facts, 'in')).toMatchObject({
      ok: false,
      code: 'NOT_POSITIVE',
    });
    expect(claimText(result, 'bandAverage', '%', facts, 'other')).toMatchObject({
      ok: false,
      code: 'NO_CONTRAST',
    });
  });
  it('have a glyph of their own', () => {
    const [out, inside] = result.contrasts.map(glyphOf);
    expect(out!.rpm.length).toBeLessThanOrEqual(41);
    expect(out!.rpm.at(-1)).toBe(6000);
    expect(Math.min(...out!.lower)).toBeGreaterThan(0);
    expect(Math.min(...inside!.lower)).toBeLessThan(0);
    expect(glyphOf(undefined)).toBeNull();
  });
});

describe('several metrics', () => {
  const order = ['stock', 'part', 'stock'];
  it('share alpha: each interval is wider than if it were named alone', () => {
    const one = average(session(order, { part: 2 }), 'part');
    const three = average(
      session(order, { part: 2 }, 0, { metrics: ['bandAverage', 'upTo', 'peakToPeak'] }),
      'part',
    );
    expect(three.lower).toBeLessThan(one.lower);
    expect(three.gain).toBe(one.gain);
  });
  it('pass the effect gate where any of them shows a gain, and say which', () => {
    const { findings } = session(order, { part: 2 }, 0, { metrics: ['bandAverage', 'upTo'] });
    expect(findings.find((f) => f.gate === 'effect')).toMatchObject({
      state: 'pass',
      message: expect.stringContaining('average over the rpm range: at least') as string,
    });
    expect(
      session(order, {}, 0, { metrics: ['bandAverage', 'upTo'] }).findings.find((f) => f.gate === 'effect'),
    ).toMatchObject({ state: 'fail', code: 'NO_GAIN_SHOWN' });
    expect(
      session(order, { part: -6 }, 0, { metrics: ['bandAverage', 'peakToPeak'] }).findings.find(
        (f) => f.gate === 'effect',
      ),
    ).toMatchObject({ state: 'fail', code: 'LOSS_ON_AVERAGE' });
  });
});

describe('the plan gate and amendments', () => {
  const lock = { lockedAt: '2026-11-01T08:00:00Z', firstPullAt: '2026-11-01T10:00:00Z' };
  const amendment = (at: string, ...fields: string[]) => ({
    number: 1,
    at,
    fields,
    reason: 'because it must be',
  });
  test.each([
    ['none', [], 'pass', 'PLAN_LOCKED'],
    [
      'one before the first pull, in what is claimed',
      [amendment('2026-11-01T09:00:00Z', 'metrics')],
      'pass',
      'PLAN_LOCKED',
    ],
    [
      'one after it, in how it is run',
      [amendment('2026-11-01T11:00:00Z', 'coolDownMinutes')],
      'caution',
      'AMENDED_AFTER_FIRST_PULL',
    ],
    ['one after it, in what is claimed', [amendment('2026-11-01T11:00:00Z', 'band')], 'fail', 'AMENDED_LATE'],
    [
      'an added run after it',
      [amendment('2026-11-01T11:00:00Z', 'addedRun')],
      'caution',
      'AMENDED_AFTER_FIRST_PULL',
    ],
  ] as const)('%s', (_what, amendments, state, code) =>
    expect(planGate({ ...lock, amendments })).toMatchObject({ state, code }),
  );
  it('a late change of what is claimed leaves the result indicative', () => {
    const result = session(['stock', 'part', 'stock'], { part: 4 }, 0, {
      plan: { ...lock, amendments: [amendment('2026-11-01T11:00:00Z', 'metrics')] },
    });
    expect(result.grade).toBe('indicative');
  });
});

describe('outcomes', () => {
  const finding = (gate: Finding['gate'], state: Finding['state'], code: string, arm?: string): Finding => ({
    gate,
    state,
    code,
    message: '',
    ...(arm ? { arm } : {}),
  });
  it('a failing gate of one arm does not hold the other back; one of the whole test holds both', () => {
    const own = [
      finding('effect', 'pass', 'GAIN_SHOWN', 'a'),
      finding('effect', 'pass', 'GAIN_SHOWN', 'b'),
      finding('mounting', 'fail', 'AB_REMOUNTED', 'b'),
    ];
    expect([outcomeOf(own, 'a').verdict, outcomeOf(own, 'b').verdict]).toEqual(['claim', 'not usable']);
    expect(outcomeOf([...own, finding('plan locked', 'fail', 'PLAN_NOT_LOCKED')], 'a').verdict).toBe(
      'not usable',
    );
  });
  it('the furthest stands for the test', () => {
    expect(
      outcome([
        { verdict: 'loss', grade: 'single' },
        { verdict: 'no gain shown', grade: 'single' },
      ]),
    ).toEqual({ verdict: 'no gain shown', grade: 'single' });
    expect(
      outcome([
        { verdict: 'claim', grade: 'indicative' },
        { verdict: 'claim', grade: 'single' },
      ]).grade,
    ).toBe('single');
  });
});
