import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { fuelPower } from '../correct/fuel-power.ts';
import { signalRoughness } from '../correct/signal-roughness.ts';
import type { ChannelCurves } from '../correct/channel-curves.ts';
import type { PartCategory } from '../register/parts.ts';
import { corroboration, type EvidencePull } from './corroboration.ts';
import { scalarGain } from './scalar-gain.ts';

const ARM = [0, 0, 0, 1, 1, 1, 0, 0, 0] as const;
const layout = {
  arm: ARM,
  run: [0, 0, 0, 1, 1, 1, 2, 2, 2],
  mount: ARM.map(() => 1),
  order: ARM.map((_, i) => i + 1),
  covariate: false,
};
const scalar = (values: readonly number[]) => scalarGain(values, null, layout, { alpha: 0.025 }, 'strict');
const POINTS = 40;

/** Nine pulls of which the part's has so much more power, airflow and so on; noise of 0.3 % between pulls. */
function session(
  change: Partial<Record<'power' | 'air' | 'inlet' | 'iat' | 'before' | 'map' | 'back', number>>,
  seed = 7,
): EvidencePull[] {
  const rng = seededRng(seed);
  return ARM.map((arm) => {
    const flat = (value: number): number[] => Array.from({ length: POINTS }, () => value);
    const of = (key: keyof typeof change): number => arm * (change[key] ?? 0);
    const noise = (): number => 0.3 * rng.normal();
    const curves: ChannelCurves = {
      ...('air' in change ? { massAirFlow: flat(0.09 * (1 + (of('air') + noise()) / 100)) } : {}),
      ...('inlet' in change ? { inletPressure: flat(97_000 + 100 * (of('inlet') + noise())) } : {}),
      ...('iat' in change ? { intakeAirTemperature: flat(48 + of('iat') + noise()) } : {}),
      ...('before' in change ? { chargePressure: flat(180_000 + 100 * (of('before') + noise())) } : {}),
      ...('map' in change ? { manifoldPressure: flat(170_000 + 100 * (of('map') + noise())) } : {}),
      ...('back' in change ? { exhaustPressure: flat(120_000 + 100 * (of('back') + noise())) } : {}),
    };
    return { curves, power: 460 + of('power') + noise() };
  });
}
const told = (pulls: EvidencePull[], ...categories: PartCategory[]) =>
  corroboration({ pulls, range: { from: 0, to: POINTS }, categories, scalar });
const row = (result: ReturnType<typeof told>, of: string) => result!.rows.find((r) => r.of === of)!;

describe('a gain held against the log', () => {
  it('an intake whose inlet pressure rises is measured; airflow that goes with the power supports it', () => {
    const result = told(session({ power: 4, air: 4, inlet: 9 }), 'intake');
    expect(result!.mechanism).toBe('measured');
    expect(row(result, 'inlet pressure')).toMatchObject({ direct: true, says: 'supports', unit: 'hPa' });
    expect(row(result, 'inlet pressure').change.gain).toBeCloseTo(9, 0);
    expect(row(result, 'airflow').says).toBe('supports');
    expect(Math.abs(row(result, 'airflow').toPower!.gain)).toBeLessThan(1);
  });
  it('the same channel says nothing of a part that does not act upon it', () => {
    const result = told(session({ power: 4, air: 4, inlet: 9 }), 'exhaust section');
    expect(result!.mechanism).toBe('consistent with the log');
    expect(result!.rows.every((r) => !r.direct)).toBe(true);
  });
  it('power without air is a hypothesis, and the log is against it', () => {
    const result = told(session({ power: 8, air: 0.2 }), 'intake');
    expect(row(result, 'airflow').says).toBe('against');
    expect(result!.mechanism).toBe('hypothesis');
  });
  it('an intercooler that makes the charge hotter or drops more pressure is no reason', () => {
    const cold = told(session({ power: 3, air: 3, iat: -6, before: -8, map: 1 }), 'intercooler');
    expect(cold!.mechanism).toBe('measured');
    expect(row(cold, 'intercooler pressure drop').change.gain).toBeCloseTo(-9, 0);
    const hot = told(session({ power: 3, air: 3, iat: 4 }), 'intercooler');
    expect(row(hot, 'charge temperature').says).toBe('against');
    expect(hot!.mechanism).toBe('hypothesis');
  });
  it('a change within the noise leaves it open', () => {
    const result = told(session({ power: 3, back: 0 }), 'downpipe');
    expect(row(result, 'back-pressure').says).toBe('open');
    expect(result!.mechanism).toBe('hypothesis');
  });
  it('says measured of a part that moves nothing in at most about 2.5 of 100 sessions', () => {
    const measured = Array.from({ length: 400 }, (_, k) =>
      told(session({ power: 0, back: 0 }, 100 + k), 'downpipe'),
    ).filter((r) => r!.mechanism === 'measured').length;
    // Binomial: above 20 of 400 has a chance of 0.2 % at 2.5 %.
    expect(measured).toBeLessThanOrEqual(20);
  });
  it('a gap in one pull, or no log at all, is no evidence', () => {
    const pulls = session({ power: 3, back: -5 });
    pulls[4].curves.exhaustPressure![3] = null;
    expect(told(pulls, 'downpipe')).toBeNull();
    expect(told(session({ power: 3 }), 'intake')).toBeNull();
  });
});

describe('how rough a signal is', () => {
  it('finds the noise of a rising signal, not its rise', () => {
    const rng = seededRng(3);
    const values = Float64Array.from({ length: 4000 }, (_, i) => 100 + 0.02 * i + 1.4 * rng.normal());
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    expect(signalRoughness(values, [...values.keys()])! * mean).toBeCloseTo(1.4, 1);
    const smooth = Float64Array.from({ length: 100 }, (_, i) => 50 + 3 * i);
    expect(signalRoughness(smooth, [...smooth.keys()])!).toBeLessThan(1e-12);
    expect(signalRoughness(smooth, [1, 2, 3])).toBeUndefined();
  });
});

describe('power from fuel', () => {
  it('is the flow over the fuel per energy, in pounds and hours as the rule is told', () => {
    // 100 lb/h at 0.5 lb/(hp·h) is 200 hp (method.md: P = fuel/BSFC).
    const m3s = (100 * 0.45359237) / 3600 / 745;
    const boosted = fuelPower(m3s, { ignition: 'spark', aspiration: 'turbo' }, 'petrol')!;
    expect(boosted.high / 745.6998715822702).toBeCloseTo(200, 9);
    expect(boosted.low).toBeLessThan(boosted.high);
    expect(fuelPower(m3s, { ignition: 'compression', aspiration: 'turbo' }, 'diesel')).toBeUndefined();
  });
});
