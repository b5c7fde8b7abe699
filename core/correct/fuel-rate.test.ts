import { describe, expect, it } from 'vitest';
import { readPullFile } from '../capture/pull-file.ts';
import { withFuelRate } from './fuel-rate.ts';
import { correctionFactor, engineFactor } from './standards.ts';
import { airState } from './air.ts';

const diesel = { ignition: 'compression', aspiration: 'turbo-intercooled', displacementL: 2 } as const;
const band = { fromRpm: 2000, toRpm: 4000 };
/** A pull whose fuel flow is so that every cycle burns the same: `mg` per litre and cycle at 2 L. */
const pull = (mg: number, head = 'Fuel flow (L/h)', perHour = 3600 / 0.832) => {
  const rows = Array.from({ length: 200 }, (_, i) => {
    const rpm = 1500 + 15 * i;
    const kgPerS = (mg * 1e-6 * 2 * rpm) / 120;
    return `${(i * 0.05).toFixed(2)},${rpm},300,${(kgPerS * perHour).toFixed(5)},220`;
  });
  const text = `Time (s),Engine speed (rpm),Torque (N·m),${head},Manifold pressure (kPa)\n${rows.join('\n')}\n`;
  return { file: readPullFile(new TextEncoder().encode(text), { fuel: 'diesel' }), ambientPa: 100_000 };
};

describe('fuel per litre and cycle', () => {
  it('is worked out from the logged flow: 110 mg at a boost ratio of 2.2 are qc 50, fm 0.66', () => {
    const engine = withFuelRate(diesel, [pull(110), pull(110)], band, 'diesel');
    expect(engine.fuelMgPerLitreCycle).toBeCloseTo(110, 1);
    expect(engine.boostRatio).toBeCloseTo(2.2, 6);
    expect(engineFactor(engine.fuelMgPerLitreCycle! / engine.boostRatio!)).toBeCloseTo(0.036 * 50 - 1.14, 3);
    const air = airState({ temperatureC: 30, pressureHpa: 980, humidity: { kind: 'relative', percent: 40 } });
    const { factor, remarks } = correctionFactor('iso-1585', air, engine);
    expect(remarks).toEqual([]);
    expect(factor).toBeGreaterThan(correctionFactor('iso-1585', air, diesel).factor);
  });
  it('comes to the same from a mass flow', () => {
    const engine = withFuelRate(diesel, [pull(110, 'Fuel flow (kg/h)', 3600)], band, 'diesel');
    expect(engine.fuelMgPerLitreCycle).toBeCloseTo(110, 1);
  });
  it('is left alone where it is stated, not logged, or the engine burns petrol', () => {
    const stated = { ...diesel, fuelMgPerLitreCycle: 70 };
    expect(withFuelRate(stated, [pull(110)], band, 'diesel')).toBe(stated);
    expect(withFuelRate(diesel, [], band, 'diesel')).toBe(diesel);
    const petrol = { ...diesel, ignition: 'spark' } as const;
    expect(withFuelRate(petrol, [pull(110)], band, 'petrol')).toBe(petrol);
  });
});
