import { describe, expect, it } from 'vitest';
import { anotherUnit } from './another-unit.ts';

const found = (ratio: number, flow?: number): boolean => anotherUnit(ratio, flow).length > 0;

describe('arms as far apart as two units', () => {
  it('are found either way round, with a gain of the part on top', () => {
    for (const ratio of [1.3558, 1 / 1.3558, 9.8, 1.3558 * 1.03, 1.3558 * 0.97])
      expect(found(ratio)).toBe(true);
    for (const ratio of [1, 1.1, 1.2, 1.5, 0.9, 2]) expect(found(ratio)).toBe(false);
  });
  it('are believed where the airflow rises with the power, and not where it does not', () => {
    expect(found(1.36, 1.34)).toBe(false);
    expect(found(1.36, 1.01)).toBe(true);
  });
});
