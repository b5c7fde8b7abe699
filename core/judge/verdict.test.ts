import { expect, it } from 'vitest';
import { SUBJECT_KINDS } from '../plan/subject.ts';
import { shownVerdict } from './verdict.ts';

it('a claim says whether it is of the combination only, and what it still asks for', () => {
  expect(shownVerdict('claim', 'part')).toBe('claim');
  expect(shownVerdict('claim', undefined)).toBe('claim');
  expect(shownVerdict('claim', 'part with calibration')).toBe('claim for the combination only');
  expect(shownVerdict('claim', 'combination')).toBe('claim for the combination only');
  expect(shownVerdict('claim', 'setting', 'BEST_OF_SEVERAL')).toBe('needs a confirming test');
  expect(shownVerdict('claim', 'combination', 'BEST_OF_SEVERAL')).toBe('needs a confirming test');
  // What bars it otherwise is told by its gate, and what is no claim stays what it is.
  expect(shownVerdict('claim', 'part', 'BASELINE_NOT_STOCK')).toBe('claim');
  for (const kind of SUBJECT_KINDS)
    expect(shownVerdict('no gain shown', kind, 'BEST_OF_SEVERAL')).toBe('no gain shown');
});
