/** How policy words the number of a claim: lower limit or mean with its range, and in which steps. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CLAIM_FORMS, DEFAULT_RULES, type ClaimRules } from '../base/policy.ts';
import { CLAIM_STEP, type ClaimUnit } from '../base/rounding.ts';
import { isRefused } from '../compare/result.ts';
import { flatSession } from '../judge/flat-session.ts';
import { adviceText, claimText, type ClaimFacts } from './claim.ts';
import { saidOf, type Reading } from './claim-reading.ts';
import { MADE_FACTS } from './made-facts.ts';

const facts = (rules?: Partial<ClaimRules>): ClaimFacts =>
  rules ? { ...MADE_FACTS, rules: { ...DEFAULT_RULES, ...rules } } : MADE_FACTS;
const MEAN = facts({ says: 'mean with range' });
const session = (percent: number) =>
  flatSession(['stock', 'part', 'stock'], { part: percent }, 0, {
    metrics: ['bandAverage', 'peakToPeak', 'upTo'],
  });
const result = session(5);
const contrast = result.contrasts[0];
if (isRefused(contrast)) throw new Error(contrast.code);

describe('a mean with its range', () => {
  const said = claimText(result, 'bandAverage', '%', MEAN);
  it('is the mean towards less, its range outwards, in the words and in the record', () => {
    const { gain, lower, upper } = contrast.relative.bandAverage;
    if (!said.ok) throw new Error(said.code);
    const { value, says, interval, wording } = said.value;
    expect(says).toBe('mean with range');
    expect(interval).toEqual({ gain, lower, upper });
    expect([gain - value >= -1e-9, gain - value < 0.1]).toEqual([true, true]);
    const shown = /^\+(\d\.\d) % \(95 % range \+(\d\.\d) to \+(\d\.\d) %\) on average from/.exec(wording);
    const [mean, from, to] = shown!.slice(1).map(Number);
    expect(mean).toBe(value);
    expect([lower - from >= -1e-9, lower - from < 0.1]).toEqual([true, true]);
    expect([to - upper >= -1e-9, to - upper < 0.1]).toEqual([true, true]);
  });
  it('is never more sure than it is: 99.9 of a hundred are not all of them', () => {
    const sure = claimText({ ...result, confidence: 0.999 }, 'bandAverage', '%', MEAN);
    if (!sure.ok) throw new Error(sure.code);
    expect(sure.value.wording).toContain('(99.9 % range ');
    expect(sure.value.conditions.join()).toContain('99.9 % band over the whole range');
  });
  it('is larger than the lower limit, which stays what the default says', () => {
    const least = claimText(result, 'bandAverage', '%', facts());
    if (!said.ok || !least.ok) throw new Error('refused');
    expect(least.value).toMatchObject({
      says: 'lower limit',
      wording: expect.stringMatching(/^At least \+/) as string,
    });
    expect(said.value.value).toBeGreaterThan(least.value.value);
    expect(claimText(result, 'bandAverage', '%', facts({}))).toEqual(least);
  });
  it('of the peak names both peaks as well; an “up to” is a limit either way', () => {
    const peak = claimText(result, 'peakToPeak', 'kW', MEAN);
    if (peak.ok) expect(peak.value.wording).toMatch(/^\+\d+(\.5)? kW \(95 % range .* kW\) peak power at the/);
    else expect(peak.code).toBe('PEAK_AT_EDGE');
    const upTo = (of: ClaimFacts) => claimText(result, 'upTo', 'kW', of);
    expect(upTo(MEAN)).toEqual(upTo(facts()));
  });
  it('is no claim where its range begins at zero, however large the mean', () => {
    const coarse = facts({ says: 'mean with range', steps: { ...CLAIM_STEP, '%': 10 } });
    expect(claimText(result, 'bandAverage', '%', coarse)).toMatchObject({ ok: false, code: 'NOT_POSITIVE' });
    expect(claimText(session(0), 'bandAverage', '%', MEAN)).toMatchObject({
      ok: false,
      code: 'NOT_POSITIVE',
    });
  });
  it('with and without what was left out is the smaller mean, with a range as wide as both', () => {
    const reading = (gain: number, lower: number, upper: number): Reading => ({
      limit: lower,
      interval: { gain, lower, upper },
      rpm: null,
      words: (shown) => `at least ${shown}`,
      ranged: (shown, range) => `${shown} (${range})`,
    });
    const [all, without] = [reading(5.4, 2.1, 8.7), reading(5, 3, 7)];
    expect(
      saidOf(all, [{ reading: all }, { reading: without }], 'hp', MEAN.rules!, result.confidence),
    ).toMatchObject({
      value: 5,
      interval: { gain: 5, lower: 2.1, upper: 8.7 },
      words: '+5 (95 % range +2 to +9 hp)',
    });
  });
});

describe('the steps of policy', () => {
  it('round what is claimed and what is told as advice', () => {
    const steps = { ...CLAIM_STEP, kW: 2, '%': 0.5 };
    for (const unit of ['kW', '%'] as const) {
      const claimed = claimText(result, 'bandAverage', unit, facts({ steps }));
      const told = adviceText(result, unit, facts({ steps }));
      for (const text of [claimed, told])
        if (text.ok) expect((text.value.value / steps[unit]) % 1).toBeCloseTo(0, 6);
      expect([claimed.ok, told.ok]).toEqual([true, true]);
    }
  });
  it('never let more be said than is supported, in any form and unit', () => {
    const tenths = fc.integer({ min: 1, max: 100 }).map((n) => n / 10);
    const units = Object.keys(CLAIM_STEP) as ClaimUnit[];
    const made = fc.record({
      gain: fc.double({ min: -5, max: 60, noNaN: true }),
      down: fc.double({ min: 0, max: 12, noNaN: true }),
      up: fc.double({ min: 0, max: 30, noNaN: true }),
      step: tenths,
      unit: fc.constantFrom(...units),
      says: fc.constantFrom(...CLAIM_FORMS),
    });
    fc.assert(
      fc.property(made, ({ gain, down, up, step, unit, says }) => {
        const interval = { gain, lower: gain - down, upper: gain + up };
        const reading: Reading = {
          limit: interval.lower,
          interval,
          rpm: null,
          words: (shown) => shown,
          ranged: (_shown, range) => range,
        };
        const steps = { ...CLAIM_STEP, [unit]: step };
        const said = saidOf(reading, [{ reading }], unit, { says, steps }, 0.95);
        if (!said.ok) {
          expect(interval.lower).toBeLessThan(step);
          return;
        }
        expect(said.value).toBeGreaterThan(0);
        expect(said.value).toBeLessThanOrEqual((says === 'lower limit' ? interval.lower : gain) + 1e-6);
        if (says === 'lower limit') return;
        const [from, to] = said.words
          .replaceAll(/[^\d.+−t]/g, ' ')
          .split('t')
          .map((end) => Number(end.trim().split(/\+/).at(-1)!.replaceAll(' ', '')));
        expect(from).toBeLessThanOrEqual(interval.lower + 1e-6);
        expect(to).toBeGreaterThanOrEqual(interval.upper - 1e-6);
      }),
      { numRuns: 300 },
    );
  });
});
