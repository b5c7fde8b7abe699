import { describe, expect, it } from 'vitest';
import type { Claim } from '../../contract/publish/claim.ts';
import { stillHolds, type Wording } from './wording.ts';

const BASIS = 'Wheel figures, corrected by SAE J1349, 200 rpm smoothing';
const claim = {
  subject: 'Intake, revision B',
  disclosures: [],
  conditions: [BASIS],
  tells: 'gain',
  value: 5,
  wording: 'up to 5 kW',
} as unknown as Claim;
const now = (
  change: { value?: number; basis?: string; disclosures?: string[]; verdict?: string } = {},
): Wording =>
  ({
    facts: { subject: { text: 'Intake, revision B' } },
    text: {
      ok: true,
      value: {
        value: change.value ?? 5,
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
});
