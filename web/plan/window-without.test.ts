import { describe, expect, it } from 'vitest';
import { without } from './window-without.ts';

const band = { fromRpm: 2500, toRpm: 6500, stepRpm: 50 };
const seen = (side: 'low' | 'high', rpm: number) => ({ test: 7, side, rpm, times: 2.4 });

describe('a noisy end left out of the window', () => {
  it('ends or begins the window where the scatter begins, on the grid', () => {
    expect(without(band, seen('high', 5975))).toEqual({ ...band, toRpm: 5950 });
    expect(without(band, seen('low', 2975))).toEqual({ ...band, fromRpm: 3000 });
  });
  it('is nothing to say where the window leaves it out already', () => {
    expect(without({ ...band, toRpm: 5900 }, seen('high', 5950))).toBeUndefined();
    expect(without({ ...band, fromRpm: 3200 }, seen('low', 3000))).toBeUndefined();
  });
});
