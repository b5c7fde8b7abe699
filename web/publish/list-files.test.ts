import { expect, it } from 'vitest';
import type { TestSummary } from '../../contract/overview.ts';
import { testsFile } from './list-files.ts';

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
