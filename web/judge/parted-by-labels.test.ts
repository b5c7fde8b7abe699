import fc from 'fast-check';
import { expect, it } from 'vitest';
import { partedByLabels } from './parted-by-labels.ts';

const named = (text: string, labels: readonly string[]): string[] =>
  partedByLabels(text, labels)
    .filter((part) => part.label)
    .map((part) => part.text);

it('names the pulls that are meant, whole', () => {
  expect(named('p1 and p12 differ; not xp1, p123 or p1a', ['p1', 'p12'])).toEqual(['p1', 'p12']);
  expect(named('Pulls p3, p5: stuck.', ['p3', 'p4', 'p5'])).toEqual(['p3', 'p5']);
  expect(named('a (+) is no label of p.3', ['p.3', '(+)'])).toEqual(['(+)', 'p.3']);
  expect(named('nothing', [])).toEqual([]);
});
it('loses nothing of a text', () => {
  fc.assert(
    fc.property(fc.string(), fc.array(fc.string({ minLength: 1 }), { maxLength: 5 }), (text, labels) => {
      expect(
        partedByLabels(text, labels)
          .map((part) => part.text)
          .join(''),
      ).toBe(text);
    }),
  );
});
