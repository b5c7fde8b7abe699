/**
 * Several parts that all do nothing: how often any of them is said to give something, by averages and by bands.
 * `npm run bench -- families` prints the table of docs/method.md.
 */
import type { Family } from '../../core/base/family-quantile.ts';
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { ENGINES } from '../../core/capture/simulated/engines.ts';
import { mountShift, pullNoise, TYPICAL_NOISE } from '../../core/capture/simulated/noise.ts';
import { compareTest, type ContrastPair, type CurvePull } from '../../core/compare/compare-test.ts';
import { rpmGrid } from '../../core/correct/torque-curve.ts';

export const SEED = 20264;
const STEP_RPM = 50;
const grid = rpmGrid(2500, 6500, STEP_RPM);
const ALPHA = 0.025;
const MOUNT_DF = 10;

export interface FamilyCell {
  readonly together: Family['kind'];
  readonly parts: number;
  readonly pulls: number;
  readonly remount: boolean;
  /** Scatter of the first part over that of every other arm. */
  readonly noisier: number;
}
export interface FamilyRates {
  /** Per cent of sessions in which any average, or any band, shows what is not there. */
  readonly average: number;
  readonly band: number;
  /** Sessions in which any of all averages’ two limits misses the truth. */
  readonly missed: number;
  /** Mean half-width of an average, lp. */
  readonly half: number;
}

export const FAMILY_CELLS: readonly FamilyCell[] = (['many to one', 'all pairs', 'stages'] as const).flatMap(
  (together) =>
    [2, 3, 4].flatMap((parts) =>
      [
        { remount: false, noisier: 1 },
        { remount: false, noisier: 2 },
        { remount: true, noisier: 1 },
      ]
        .filter(() => !(together === 'all pairs' && parts === 2))
        .map((rest) => ({ together, parts, pulls: 3, ...rest })),
    ),
);

function pairsOf({ together, parts }: FamilyCell): ContrastPair[] {
  const names = Array.from({ length: parts }, (_, i) => `p${i + 1}`);
  if (together === 'many to one') return names.map((arm) => ({ arm, against: 'stock' }));
  if (together === 'stages')
    return names.map((arm, i) => ({ arm, against: i === 0 ? 'stock' : names[i - 1] }));
  return names.flatMap((arm, i) => names.slice(0, i).map((against) => ({ arm, against })));
}

function session(
  { parts, pulls, remount, noisier }: FamilyCell,
  noise: (rng: Rng) => Float64Array,
  rng: Rng,
): CurvePull[] {
  const order = ['stock', ...Array.from({ length: parts }, (_, i) => `p${i + 1}`), 'stock'];
  const torque = Float64Array.from(grid, (r) => ENGINES.na4.torqueNm(r));
  return order.flatMap((arm, run) => {
    const mount = remount ? mountShift(TYPICAL_NOISE, rng) : 0;
    return Array.from({ length: pulls }, (_, k): CurvePull => {
      const error = noise(rng);
      const scale = arm === 'p1' ? noisier : 1;
      return {
        id: `${run}-${k}`,
        arm,
        order: run * (pulls + 3) + 4 + k,
        mount: remount ? run : 0,
        counted: true,
        excluded: false,
        comparable: true,
        torqueNm: torque.map((t, j) => t * Math.exp((scale * error[j] + mount) / 100)),
      };
    });
  });
}

export function familyStudy(cell: FamilyCell, sessions: number, seed = SEED): FamilyRates {
  const rng = seededRng(seed);
  const noise = pullNoise(grid, TYPICAL_NOISE);
  const pairs = pairsOf(cell);
  const mount = { variance: TYPICAL_NOISE.remountStep ** 2 / 2, df: MOUNT_DF };
  const total = { average: 0, band: 0, missed: 0, half: 0 };
  for (let t = 0; t < sessions; t++) {
    const compared = compareTest({ pulls: session(cell, noise, rng), grid, stepRpm: STEP_RPM }, pairs, {
      smoothingRpm: 200,
      alpha: ALPHA,
      together: cell.together,
      drift: 'none',
      driftBound: 0,
      bracketed: false,
      guard: 'strict',
      repeatability: cell.remount ? { mount } : {},
      slope: null,
    });
    const results = compared.map(({ outcome }) => {
      if (!outcome.ok) throw new Error(outcome.refused.code);
      return outcome.value;
    });
    total.average += results.some((r) => r.average.lower > 0) ? 1 : 0;
    total.missed += results.some((r) => r.average.lower > 0 || r.average.upper < 0) ? 1 : 0;
    total.band += results.some((r) => r.band.lower.some((v) => v > 0)) ? 1 : 0;
    total.half += results.reduce((sum, r) => sum + r.average.used.half, 0) / results.length;
  }
  return {
    average: (100 * total.average) / sessions,
    band: (100 * total.band) / sessions,
    missed: (100 * total.missed) / sessions,
    half: total.half / sessions,
  };
}

export function familyReport(sessions: number): string {
  return [
    '| contrasts | parts | re-mounted | first part’s scatter | any average > 0, % | any limit misses, % ' +
      '| any band > 0, % | half-width, lp |',
    '|---|---|---|---|---|---|---|---|',
    ...FAMILY_CELLS.map((cell, i) => {
      const { average, band, missed, half } = familyStudy(cell, sessions, SEED + i);
      return (
        `| ${cell.together} | ${cell.parts} | ${cell.remount ? 'yes' : 'no'} | ${cell.noisier}× | ` +
        `${average.toFixed(1)} | ${missed.toFixed(1)} | ${band.toFixed(1)} | ${half.toFixed(2)} |`
      );
    }),
  ].join('\n');
}
