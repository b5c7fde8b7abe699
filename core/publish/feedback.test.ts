import { describe, expect, it } from 'vitest';
import { fittingLines, type FittingFact } from './feedback.ts';

const QUIET: FittingFact = { minutes: null, difficulty: null, tools: '', broke: '', renewed: '' };

describe('how a part fitted', () => {
  it('is told against the hours its maker gives, and only what was written down', () => {
    expect(
      fittingLines(
        [
          { ...QUIET, minutes: 95, difficulty: 'hard', broke: 'clip 4' },
          { ...QUIET, minutes: 80, difficulty: 'hard' },
        ],
        1,
      ),
    ).toEqual([
      'Fitted in 95 min, 80 min; given as 60 min.',
      'Found: hard.',
      'Broke or had to be replaced: clip 4.',
    ]);
  });
  it('says nothing where nobody wrote anything', () => {
    expect(fittingLines([], 2)).toEqual([]);
    expect(fittingLines([QUIET], 2)).toEqual([]);
  });
});
