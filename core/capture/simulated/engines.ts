/** Torque at the wheels in the reference atmosphere, N·m, for invented engines of several kinds. */
export type EngineKind = 'na4' | 'turbo3' | 'turbo5' | 'diesel4' | 'v8' | 'v6';

export interface EngineModel {
  readonly idleRpm: number;
  readonly limitRpm: number;
  readonly torqueNm: (rpm: number) => number;
  readonly ignition: 'spark' | 'compression';
  readonly aspiration: 'natural' | 'turbo-intercooled' | 'supercharged';
  /** Full-load lambda, manifold pressure at full load (kPa absolute), and air per torque (g/s per kW of shaft power). */
  readonly lambda: number;
  readonly manifoldKpa: number;
  readonly airPerKw: number;
}

const hump = (rpm: number, peak: number, at: number, below: number, above: number): number =>
  peak * Math.exp(-0.5 * ((rpm - at) / (rpm < at ? below : above)) ** 2);
/** Boost control holds torque flat between two speeds. */
const plateau = (rpm: number, peak: number, from: number, to: number, rise: number, fall: number): number =>
  peak / (1 + Math.exp(-(rpm - from) / rise)) / (1 + Math.exp((rpm - to) / fall));

export const ENGINES: Record<EngineKind, EngineModel> = {
  na4: {
    idleRpm: 850,
    limitRpm: 6900,
    torqueNm: (n) => hump(n, 158, 4300, 2900, 3000) + hump(n, 6, 5600, 500, 600),
    ignition: 'spark',
    aspiration: 'natural',
    lambda: 0.88,
    manifoldKpa: 98,
    airPerKw: 1.02,
  },
  turbo3: {
    idleRpm: 900,
    limitRpm: 6300,
    torqueNm: (n) => plateau(n, 172, 1650, 5700, 190, 520),
    ignition: 'spark',
    aspiration: 'turbo-intercooled',
    lambda: 0.83,
    manifoldKpa: 185,
    airPerKw: 1.0,
  },
  turbo5: {
    idleRpm: 800,
    limitRpm: 7000,
    torqueNm: (n) => plateau(n, 438, 2050, 6300, 230, 620),
    ignition: 'spark',
    aspiration: 'turbo-intercooled',
    lambda: 0.81,
    manifoldKpa: 235,
    airPerKw: 1.01,
  },
  diesel4: {
    idleRpm: 800,
    limitRpm: 4600,
    torqueNm: (n) => plateau(n, 345, 1450, 3700, 150, 420),
    ignition: 'compression',
    aspiration: 'turbo-intercooled',
    lambda: 1.32,
    manifoldKpa: 245,
    airPerKw: 1.55,
  },
  v8: {
    idleRpm: 700,
    limitRpm: 6400,
    torqueNm: (n) => hump(n, 395, 3900, 3200, 2900),
    ignition: 'spark',
    aspiration: 'natural',
    lambda: 0.87,
    manifoldKpa: 98,
    airPerKw: 1.04,
  },
  v6: {
    idleRpm: 750,
    limitRpm: 6500,
    torqueNm: (n) => hump(n, 298, 4100, 3000, 2900),
    ignition: 'spark',
    aspiration: 'natural',
    lambda: 0.88,
    manifoldKpa: 98,
    airPerKw: 1.03,
  },
};
