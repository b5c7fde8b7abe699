import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { accountOf, type AccountedPull } from './account.ts';

const pull = (captured: boolean, excluded: string | null = null, counted = true): AccountedPull => ({
  counted,
  captured,
  excluded,
});

describe('the account of the pulls', () => {
  it('tells what is to come from what was never recorded', () =>
    expect(
      accountOf([
        pull(false, null, false),
        pull(true),
        pull(true, 'wheel slip'),
        pull(false, 'never recorded'),
        pull(false, 'wheel slip'),
        pull(false),
      ]),
    ).toEqual({
      planned: 5,
      warmUps: 1,
      captured: 2,
      toCome: 1,
      lost: 2,
      usable: 1,
      causes: [
        { cause: 'wheel slip', pulls: 2 },
        { cause: 'never recorded', pulls: 1 },
      ],
    }));
  it('adds up, whatever happened', () => {
    const any = fc.record({
      counted: fc.boolean(),
      captured: fc.boolean(),
      excluded: fc.constantFrom(null, 'wheel slip', 'never recorded'),
    });
    fc.assert(
      fc.property(fc.array(any), (pulls) => {
        const a = accountOf(pulls);
        const leftOut = a.causes.reduce((n, c) => n + c.pulls, 0);
        expect(a.planned).toBe(a.captured + a.toCome + a.lost);
        expect(a.planned + a.warmUps).toBe(pulls.length);
        expect(leftOut).toBe(a.lost + a.captured - a.usable);
      }),
    );
  });
});
