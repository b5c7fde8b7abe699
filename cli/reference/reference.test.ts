import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { evaluateCase, type ReferenceCase } from './evaluate.ts';

/** Results of R 4.2.2 with limma 3.54.1, and of numpy and scipy for the interval rules; docs/method.md tells how they were made. */
const cases = ['r-results', 'rule-p', 'rules-s-t-d'].flatMap(
  (name) =>
    (
      JSON.parse(readFileSync(new URL(`./${name}.json`, import.meta.url), 'utf8')) as {
        cases: ReferenceCase[];
      }
    ).cases,
);
describe('reference results, at the tolerance each case gives', () => {
  test.each(cases.map((c) => [c.id, c] as const))('%s', (_id, c) => {
    const result = evaluateCase(c);
    expect(result.compared).toBeGreaterThan(0);
    expect(result, `worst ${result.worst} at ${result.where}`).toMatchObject({ state: 'agrees' });
  });
  test('no group is left out', () => {
    expect(cases).toHaveLength(165);
    expect(new Set(cases.map((c) => c.group)).size).toBe(30);
  });
});

test('a changed number in the reference is found', () => {
  const crit = structuredClone(cases.find((c) => c.id === 'crit-01')!);
  (crit.output as { u: number }).u *= 1 + 1e-6;
  expect(evaluateCase(crit)).toMatchObject({ state: 'differs', where: 'u' });
});
test('a group that is not computed is never called agreement', () =>
  expect(evaluateCase({ ...cases[0], group: 'something else' }).state).toBe('not computed'));
