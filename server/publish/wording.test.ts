import { describe, expect, it } from 'vitest';
import type { ClaimForm } from '../../core/base/policy.ts';
import type { Interval } from '../../core/compare/result.ts';
import type { Claim } from '../../contract/publish/claim.ts';
import { stillHolds, type Wording } from './wording.ts';

const BASIS = 'Wheel figures, corrected by SAE J1349, 200 rpm smoothing';
const claim = {
  subject: 'Intake, revision B',
  disclosures: [],
  conditions: [BASIS],
  tells: 'gain',
  value: 5,
  says: 'lower limit',
  wording: 'up to 5 kW',
} as unknown as Claim;
const now = (
  change: {
    value?: number;
    says?: ClaimForm;
    interval?: Interval;
    basis?: string;
    disclosures?: string[];
    verdict?: string;
  } = {},
): Wording =>
  ({
    facts: { subject: { text: 'Intake, revision B' } },
    text: {
      ok: true,
      value: {
        value: change.value ?? 5,
        says: change.says ?? 'lower limit',
        interval: change.interval ?? null,
        conditions: [change.basis ?? BASIS],
        disclosures: change.disclosures ?? [],
        wording: 'up to 5 kW',
      },
    },
    verdict: change.verdict ?? 'claim',
    grade: 'single',
  }) as unknown as Wording;

describe('whether a claim still says at most what its analysis supports', () => {
  it('holds where nothing moved, or the result grew', () => {
    expect(stillHolds(claim, now())).toBe(true);
    expect(stillHolds(claim, now({ value: 6 }))).toBe(true);
  });
  it('does not where the number shrank, a loss is untold, or the verdict turned', () => {
    expect(stillHolds(claim, now({ value: 4 }))).toBe(false);
    expect(stillHolds(claim, now({ disclosures: ['Proven loss at 3 000 rpm'] }))).toBe(false);
    expect(stillHolds(claim, now({ verdict: 'no gain shown' }))).toBe(false);
  });
  it('does not where the air is corrected in another way, however the number came out', () => {
    const basis = 'Wheel figures, corrected by SAE J1349, for temperature only, 200 rpm smoothing';
    expect(stillHolds(claim, now({ value: 6, basis }))).toBe(false);
  });
  it('as a mean only while a mean may be said, and neither it nor its range is larger than what is found', () => {
    const range = { gain: 5.3, lower: 3.2, upper: 7.4 };
    const mean = { ...claim, says: 'mean with range' as const, interval: range };
    const found = (change: Partial<Interval> = {}, value = 5) =>
      now({ says: 'mean with range', value, interval: { ...range, ...change } });
    expect(stillHolds(mean, found())).toBe(true);
    expect(stillHolds(mean, found({ gain: 6.2, lower: 4, upper: 8 }, 6))).toBe(true);
    expect(stillHolds(mean, found({ gain: 4.9 }, 4.5))).toBe(false);
    expect(stillHolds(mean, found({ lower: 3.1 }))).toBe(false);
    expect(stillHolds(mean, found({ upper: 7.3 }))).toBe(false);
    // By its lower limit alone it would say as much; the words are others.
    expect(stillHolds(mean, now({ value: 6 }))).toBe(false);
    expect(stillHolds(claim, found({}, 9))).toBe(false);
  });
});
