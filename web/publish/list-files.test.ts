import { expect, it } from 'vitest';
import type { TestSummary } from '../../contract/overview.ts';
import { madeClaim } from '../__tests__/made.ts';
import { claimsFile, testsFile } from './list-files.ts';

const summary = {
  number: 3,
  title: '=HYPERLINK("http://x")',
  fitment: 'Oriel Tern 1.8 estate, 103 kW',
  vehicle: 'SV-014 Tern, grey',
  dyno: 'Cell 1',
  protocol: 'A-B-A',
  lockedAt: null,
  amendments: 0,
  pullsCaptured: 9,
  pullsCounted: 9,
  upToKw: -1.25,
  upToRpm: 5800,
  bandAveragePct: { gain: 1.5, lower: -0.2, upper: 3.1 },
  verdict: 'claim',
  grade: 'single',
  claimState: null,
} as TestSummary;

it('a list as a file keeps numbers as they are, and no text is taken for a formula', () => {
  const [head, row] = testsFile([summary]).split('\r\n');
  expect(head).toContain('"Gain up to, kW at the wheels"');
  // Numbers may be negative; a text that begins like a formula is held to be a text.
  expect(row).toContain(',-1.25,5800,1.5,-0.2,3.1,claim');
  expect(row).toContain('"\'=HYPERLINK(""http://x"")"');
});

it('of claims says of each value whether it is a limit or a mean, and of advice neither', () => {
  const interval = { gain: 5.4, lower: 3.1, upper: 7.8 };
  const rows = claimsFile([
    madeClaim({ value: 3, interval }),
    madeClaim({ value: 5, says: 'mean with range', interval, wording: '+5 kW (95 % range +3 to +8 kW)' }),
    madeClaim({ value: 8, tells: 'advice', interval }),
  ]).split('\r\n');
  expect(rows[0]).toContain('Value,Unit,The value is,From,To');
  expect(rows[1]).toContain(',3,kW,lower limit,3.1,7.8,');
  expect(rows[2]).toContain(`'+5 kW (95 % range +3 to +8 kW)`);
  expect(rows[2]).toContain(',5,kW,mean with range,3.1,7.8,');
  expect(rows[3]).toContain(',8,kW,,3.1,7.8,');
});
