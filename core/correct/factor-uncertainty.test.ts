import { describe, expect, it } from 'vitest';
import { airUncertainty, factorUncertainty } from './factor-uncertainty.ts';

const petrol = { ignition: 'spark', aspiration: 'natural' } as const;
const reading = (temperatureC: number, pressureHpa: number, percent: number) => ({
  temperatureC,
  pressureHpa,
  humidity: { kind: 'relative', percent } as const,
});

describe('how well a factor is known', () => {
  it('DIN 70020 by its own derivatives: u²/F² = (u_p/p)² + (u_T/2T)²', () => {
    const u = factorUncertainty('din-70020', reading(21.4, 1004.2, 48), petrol, 'correct', {
      temperature: 0.5,
      pressure: 0.6,
    })!;
    const byHand = Math.hypot(0.6 / 1004.2, 0.5 / (2 * (21.4 + 273.15)));
    expect(u.pct / 100).toBeCloseTo(byHand, 8);
    expect(u.shares.pressure! + u.shares.temperature!).toBeCloseTo(1, 12);
    expect(u.shares.temperature).toBeGreaterThan(u.shares.pressure!);
  });
  it('of a factor that corrects nothing there is nothing to know', () => {
    const known = { temperature: 0.5, pressure: 1, humidity: 2 };
    expect(factorUncertainty('none', reading(30, 950, 60), petrol, 'correct', known)!.pct).toBe(0);
    const turbo = { ignition: 'spark', aspiration: 'turbo' } as const;
    expect(factorUncertainty('sae-j1349', reading(30, 950, 60), turbo, 'do not correct', known)!.pct).toBe(0);
  });
  it('grows with damp heat by the hygrometer’s share', () => {
    const of = (t: number) =>
      factorUncertainty('sae-j1349', reading(t, 1000, 60), petrol, 'correct', {
        pressure: 0.4,
        humidity: 3,
      })!;
    expect(of(38).shares.humidity!).toBeGreaterThan(of(12).shares.humidity!);
    expect(of(38).pct).toBeGreaterThan(of(12).pct);
  });
  it('is not said where no sensor is registered', () => {
    expect(factorUncertainty('sae-j1349', reading(20, 1000, 40), petrol, 'correct', {})).toBeUndefined();
  });
});

describe('the sensors of a dyno', () => {
  it('are known by what they sense, in their own units; the least certain counts', () => {
    expect(
      airUncertainty([
        { quantity: 'air temperature', uncertainty: 0.9, unit: '°F' },
        { quantity: 'Barometer', uncertainty: 0.02, unit: 'inHg' },
        { quantity: 'barometer of the hall', uncertainty: 0.1, unit: 'hPa' },
        { quantity: 'relative humidity', uncertainty: 2, unit: '%' },
        { quantity: 'lambda', uncertainty: 0.01, unit: 'λ' },
        { quantity: 'air temperature', uncertainty: 3, unit: 'hPa' },
      ]),
    ).toEqual({ temperature: 0.5, pressure: expect.closeTo(0.677, 3) as number, humidity: 2 });
  });
});
