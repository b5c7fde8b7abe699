import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factsOf } from './trail-words.ts';

describe('details of the trail', () => {
  it('tell a change as from and to, by field', () =>
    expect(
      factsOf({ changes: { driftBound: { from: null, to: 0.2 }, opening: { from: [], to: ['Mon'] } } }),
    ).toEqual([
      { what: 'drift bound', value: 'nothing → 0.2' },
      { what: 'opening', value: 'none → Mon' },
    ]));
  it('take changes that are listed, too', () =>
    expect(factsOf({ changes: [{ field: 'gear', from: '3rd', to: '4th' }, 'order'] })).toEqual([
      { what: 'gear', value: '3rd → 4th' },
      { what: 'changed', value: 'order' },
    ]));
  it('read other facts as they are', () =>
    expect(factsOf({ label: 'A2', isCounted: false, air: { temperatureC: -2.5 }, note: '' })).toEqual([
      { what: 'label', value: 'A2' },
      { what: 'is counted', value: 'no' },
      { what: 'air', value: 'temperature c −2.5' },
      { what: 'note', value: 'nothing' },
    ]));
  it('shorten hashes and long texts, and say a moment as people do', () => {
    const [hash, text, start] = factsOf({
      sha256: 'a1'.repeat(32),
      note: 'word '.repeat(60),
      start: '2026-11-30T07:00:00.000Z',
    });
    expect(hash).toEqual({ what: 'sha256', value: 'a1a1a1a1a1a1…', whole: 'a1'.repeat(32) });
    expect(text.value).toHaveLength(161);
    expect(text.whole).toHaveLength(300);
    expect(start.value).toMatch(/^30 Nov 2026, \d\d:00$/);
  });
  it('are words whatever was kept', () =>
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (detail) =>
        factsOf(detail).every(({ what, value }) => typeof what === 'string' && !value.includes('[object')),
      ),
    ));
});
