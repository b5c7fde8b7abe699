/** The car on the rollers as a stand-in plays it: one pull, sample by sample, with whatever fault is switched on. */
import type { Rng } from '../../../core/base/rng.ts';
import { powerW } from '../../../core/base/units.ts';
import { ENGINES, type EngineKind } from '../../../core/capture/simulated/engines.ts';
import { pullNoise, TYPICAL_NOISE } from '../../../core/capture/simulated/noise.ts';
import { airState } from '../../../core/correct/air.ts';
import { correctionFactor } from '../../../core/correct/standards.ts';
import type { FaultName } from './faults.ts';
import { airAt } from './weather.ts';

export const RATE_HZ = 40;
/** Rise of the loaded roller, rpm/s, and road speed for each engine rpm in the gear of the pull, km/h. */
const RAMP = 420;
const KMH_PER_RPM = 0.0312;
const START_RPM = 1500;
/** Effect of a part: a broad gain, per cent, for whatever is no baseline. */
const gainPercent = (rpm: number): number => 3 * Math.exp(-(((rpm - 5000) / 1800) ** 2));
/** lp a pull by which a warm car falls, by which one that adapts is low at first, and by which a leak takes boost away. */
const SOAK = 1;
const ADAPTS = [-3, -2, -1.2, -0.7, -0.3];
const LEAK = -4;
/** Torque in lb·ft where N·m is said. */
const LB_FT = 1 / 1.3558179483314;
/** Wheels that turn faster than the road, as a share, and the rpm from which they do. */
const SLIP = { share: 0.05, from: 4200, to: 4900 };
const LIFT_RPM = 5200;
const CUT = { from: 4300, to: 4650, share: 0.72 };
const LATE_RPM = 1100;

export interface PlayedPull {
  readonly engine: EngineKind;
  /** Key of the arm on the car. */ readonly configuration: string;
  readonly baseline: boolean;
  /** Moment, ms. */ readonly at: number;
  /** Pulls since the car came onto the rollers, and since something was changed on it. */
  readonly pullsBefore: number;
  readonly sinceInstall: number;
  readonly faults: ReadonlySet<FaultName>;
}
export interface PlayedSample {
  readonly t: number;
  readonly rpm: number;
  readonly kmh: number;
  readonly torqueNm: number;
  readonly powerKw: number;
}

/** Every sample of a pull, 40 a second of its own time. */
export function* playPull(pull: PlayedPull, rng: Rng): Generator<PlayedSample> {
  const engine = ENGINES[pull.engine];
  const { faults } = pull;
  const knots = Array.from({ length: 60 }, (_, i) => 1500 + 100 * i);
  const noise = pullNoise(knots, { ...TYPICAL_NOISE, level: 0.35, white: 0 })(rng);
  const air = airAt(pull.at);
  const { factor } = correctionFactor(
    'sae-j1349',
    airState({ ...air, humidity: { kind: 'relative', percent: air.humidityPct } }),
    engine,
  );
  const level =
    (faults.has('heat soak') ? -SOAK * pull.pullsBefore : 0) +
    (faults.has('adaptation after an install') ? (ADAPTS[pull.sinceInstall] ?? 0) : 0) +
    (faults.has('low boost') ? LEAK : 0);
  const torqueAt = (rpm: number): number => {
    const knot = noise[Math.min(knots.length - 1, Math.max(0, Math.round((rpm - knots[0]) / 100)))];
    const gain = pull.baseline ? 0 : gainPercent(rpm);
    const cut = faults.has('torque intervention') && rpm > CUT.from && rpm < CUT.to ? CUT.share : 1;
    return (
      ((engine.torqueNm(rpm) * (1 + gain / 100) * Math.exp((noise ? level + knot : 0) / 100)) / factor) * cut
    );
  };
  let rpm = START_RPM + (faults.has('late start') ? LATE_RPM : 0);
  let since = -0.6;
  let lifted = false;
  for (let i = 0; i < 60 * RATE_HZ; i++, since += 1 / RATE_HZ) {
    const build = since < 0 ? 0.25 : Math.min(1, 0.35 + since / 0.45);
    lifted ||= rpm >= engine.limitRpm || (faults.has('early lift') && rpm >= LIFT_RPM);
    const shaft = lifted ? -18 : torqueAt(rpm) * build;
    const slips = faults.has('wheel slip') && rpm > SLIP.from && rpm < SLIP.to;
    const shown = rpm * (slips ? 1 + SLIP.share * (0.6 + 0.4 * rng.uniform()) : 1) + 1.2 * rng.normal();
    const measured = shaft * (1 + 0.0035 * rng.normal());
    yield {
      t: i / RATE_HZ,
      rpm: shown,
      kmh: rpm * KMH_PER_RPM,
      torqueNm: faults.has('wrong unit') ? measured * LB_FT : measured,
      powerKw: powerW(measured, shown) / 1000,
    };
    if (lifted && (rpm -= 900 / RATE_HZ) < 4400 && faults.has('early lift')) return;
    if (lifted && rpm < engine.limitRpm - 400 && !faults.has('early lift')) return;
    if (since >= 0 && !lifted) rpm += (RAMP * (0.5 + 0.5 * build)) / RATE_HZ;
  }
}
