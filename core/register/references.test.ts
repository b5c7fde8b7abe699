import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { keepReferences, namedIn, partReference, referencesIn, withNames } from './references.ts';

const id = (n: number): string => `00000000-0000-4000-8000-00000000000${n}`;
const ram = { id: id(1), name: 'Ram intake', sku: 'RI-1204' };
const long = { id: id(2), name: 'Ram intake long', sku: 'RI-1205' };
const quoted = { id: id(3), name: 'The 3" down-pipe “Hebrides”', sku: 'X' };
const parts = [ram, long, quoted];
const [R, L, Q] = parts.map((p) => partReference(p.id)) as [string, string, string];

describe('names that people type become references', () => {
  test.each([
    ['the RAM-INTAKE long, then the ram_intake', `the ${L}, then the ${R}`],
    ['Ram\u00a0\u2013\u00a0intake fitted', `${R} fitted`],
    ['ram\u200bintake', R],
    ['SKU ri1204 and RI 1205', `SKU ${R} and ${L}`],
    ['a 3" down‑pipe', 'a 3" down‑pipe'],
    ['the 3" down‑pipe “Hebrides” again', `${Q} again`],
  ])('%s', (typed, kept) => expect(keepReferences(typed, parts)).toBe(kept));
  test.each([
    'the program intake',
    'ram intakes',
    'X marks the spot',
    'no name here, 2026-11-24, RI-12045',
    'd1204ri1204a',
  ])('leaves “%s” alone', (text) => expect(keepReferences(text, parts)).toBe(text));
  it('keeps references that stand already, and is done after once', () => {
    const once = keepReferences(`${R} and the Ram intake`, parts);
    expect(once).toBe(`${R} and the ${R}`);
    expect(keepReferences(once, parts)).toBe(once);
  });
  it('never leaves a name in any text, and never touches another word', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom('Ram intake', 'RAM-intake', 'power', 'peakPower', '4f0a', '2026-11-24', 'ri-1204'),
          {
            minLength: 1,
            maxLength: 8,
          },
        ),
        (words) => {
          const kept = keepReferences(words.join(', '), parts);
          expect(kept).not.toMatch(/ram.?intake|ri-?1204/i);
          const others = words.filter((w) => !/ram.?intake|ri-1204/i.test(w));
          expect(kept.split(', ').filter((w) => w !== R)).toEqual(others);
        },
      ),
    ));
});

describe('reading them', () => {
  it('gives each its name and leaves the rest', () => {
    expect(
      withNames(`${R} beside ${L}`, (part) => (part === ram.id ? 'Project Skye' : 'Ram intake long')),
    ).toBe('Project Skye beside Ram intake long');
    expect(referencesIn(`${R} ${R} ${L}`)).toEqual([ram.id, long.id]);
  });
  it('the tripwire finds a name in plain words, whatever parts them', () => {
    expect(namedIn('Fitted: ＲＡＭ — intake', parts)).toMatchObject({ id: ram.id });
    expect(namedIn(`Fitted: ${R}`, parts)).toBeUndefined();
  });
});
