import { describe, expect, it } from 'vitest';
import { inUnits, text } from '../__tests__/rendered.tsx';
import type { Contrast } from '../../core/compare/result.ts';
import { UncertaintyBudget } from './uncertainty-budget.tsx';

const curve = [80, 120].map((against, i) => ({
  rpm: 3000 + i,
  gain: 3,
  lower: 2,
  upper: 4,
  arm: 0,
  against,
}));
const shown = (change: Partial<Contrast> = {}): string =>
  text(
    <UncertaintyBudget
      contrast={
        {
          budget: [
            { source: 'repeatability', variance: 0.09, share: 0.9 },
            { source: 'drift', variance: 0.01, share: 0.1 },
          ],
          relative: { bandAverage: { interval: 'apart' } },
          power: { curve },
          ...change,
        } as unknown as Contrast
      }
    />,
  );

describe('the uncertainty budget', () => {
  it('gives every source in per cent and as power of the baseline’s average', () => {
    // 0.3 lp of 100 kW; 0.1 lp.
    expect(shown()).toMatch(/repeatability 90 % ±0\.30 %, ±0\.30 kW/);
    expect(shown()).toMatch(/drift bound 10 % ±0\.10 %, ±0\.10 kW/);
    expect(inUnits({ power: 'hp' }, shown)).toContain('±0.30 %, ±0.40 hp');
  });
  it('stands what the air leaves open beside the interval, and says where nothing is known of it', () => {
    const correction = { difference: 0.4, least: 0.3, most: 0.5, rule: 0.06, sensors: null };
    const told = shown({ correction });
    expect(told).toContain('+0.40 % between the arms; by other standards +0.30 to +0.50 %');
    expect(told).toContain('None registered for this dyno');
    expect(shown({ correction: { ...correction, sensors: 0.001 } })).toContain('less than ±0.01 %');
    expect(shown()).not.toContain('Beside the interval');
  });
});
