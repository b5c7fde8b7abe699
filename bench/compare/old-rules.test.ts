/** The rules that were replaced, as far as the comparison with them rests on more than reference cases. */
import { describe, expect, it } from 'vitest';
import { kappaSquared } from './kappa.ts';
import { moderatedVariance } from './moderated-variance.ts';

describe('variance by the old rules', () => {
  it('a session as quiet as the history adds its df; a noisier one discounts the history', () => {
    expect(moderatedVariance([0.5], 6, 0.5, { variance: 0.5, df: 10 })).toMatchObject({ f: 1, df: 16 });
    expect(moderatedVariance([1.5], 6, 1.5, { variance: 0.5, df: 10 })).toMatchObject({
      f: 3,
      df: 10 / 3 + 6,
    });
  });
  it('unequal arms are inflated only when the smaller one is also the noisier', () => {
    const arm = [0, 0, 0, 0, 1, 1] as const;
    const run = [0, 0, 0, 0, 1, 1];
    const scatter = (stock: number, part: number) =>
      [stock, -stock, stock, -stock, part, -part].map((v) => Float64Array.of(v));
    expect(kappaSquared(scatter(1, 0.1), { arm, run })).toBe(1);
    expect(kappaSquared(scatter(0.1, 1), { arm, run })).toBeCloseTo(2 / 2 / (1 / 4 + 1 / 2), 12);
  });
});
