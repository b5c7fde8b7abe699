import fc from 'fast-check';
import { expect, test } from 'vitest';
import { designOf, runsOf, type PlacedPull } from './design.ts';

/** `A` and `B` counted, `a` and `b` warm-ups, `|` a re-mount. */
function session(text: string): PlacedPull[] {
  let mount = 1;
  const out: PlacedPull[] = [];
  for (const letter of text) {
    if (letter === '|') {
      mount += 1;
      continue;
    }
    out.push({
      arm: letter.toUpperCase() === 'A' ? 'stock' : 'part',
      order: out.length + 1,
      mount,
      counted: letter === letter.toUpperCase(),
    });
  }
  return out;
}
test.each([
  ['aaaAAAbbbBBBaaaAAA', 'A-B-A', 'A-B-A', false, [3, 3, 3], [3, 3, 3]],
  ['AAABBB', 'A-B', 'A-B', true, [3, 3], [0, 0]],
  ['AA|BB|BB|AA', 'A-B-B-A', 'A-B-B-A', false, [2, 2, 2, 2], [0, 0, 0, 0]],
  ['AABBAABB', 'A-B-A-B', 'alternating', false, [2, 2, 2, 2], [0, 0, 0, 0]],
  ['AA|AABB', 'A-A-B', 'A-B', true, [2, 2, 2], [0, 0, 0]],
  ['aaAAAbBBB', 'A-B', 'A-B', true, [3, 3], [2, 1]],
  ['aaAAbbBBbbBBaaAA', 'A-B-B-A', 'A-B-B-A', false, [2, 2, 2, 2], [2, 2, 2, 2]],
  ['aaAAAa', 'A', 'other', true, [3], [2]],
] as const)('%s is %s', (text, label, kind, confounded, pulls, warmUps) =>
  expect(designOf(runsOf(session(text)), 'stock')).toMatchObject({
    label,
    kind,
    driftConfounded: confounded,
    pullsPerRun: pulls,
    warmUpsPerRun: warmUps,
  }),
);

test('every counted pull is in exactly one run, in order', () =>
  fc.assert(
    fc.property(fc.stringMatching(/^[ABab|]{1,40}$/), (text) => {
      const pulls = session(text);
      const kept = runsOf(pulls).flatMap((run) => run.counted);
      expect(kept).toEqual(pulls.filter((p) => p.counted));
    }),
  ));
