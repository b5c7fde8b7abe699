import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { leastSpeed, ratedDoubt } from './rated.ts';

describe('rated power and torque', () => {
  it('meet at 5 252 rpm where hp and lb·ft read alike (1 hp = 550 ft·lbf/s; NIST SP 811, appendix B.8)', () => {
    expect(leastSpeed(0.745_699_9 * 100, 1.355_818 * 100)).toBeCloseTo(5252.1, 0);
  });
  it('of an engine that makes its power at a speed it can turn are never doubted', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 900, noNaN: true }),
        fc.integer({ min: 2500, max: 8000 }),
        fc.double({ min: 0.65, max: 1, noNaN: true }),
        (torqueNm, rpm, fallsTo) => {
          const powerKw = (torqueNm * fallsTo * 2 * Math.PI * rpm) / 60_000;
          expect(ratedDoubt(powerKw, torqueNm, 'spark')).toBeNull();
        },
      ),
    );
  });
  it('that no engine of the kind could have are, from either side', () => {
    expect(ratedDoubt(100, 17, 'spark')).toMatchObject({ side: 'high' });
    expect(ratedDoubt(110, 120, 'compression')).toMatchObject({ side: 'high' });
    expect(ratedDoubt(10, 170, 'spark')).toMatchObject({ side: 'low' });
  });
});
