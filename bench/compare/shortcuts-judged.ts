/**
 * The same sessions as in the study of the shortcuts, judged: by the rules before (history and drift term, “up to”) and
 * by those in force. A-B, three pulls each, the part does nothing.
 */
import { seededRng } from '../../core/base/rng.ts';
import { pullNoise, TYPICAL_NOISE } from '../../core/capture/simulated/noise.ts';
import { gainBand } from '../../core/compare/gain-band.ts';
import { smoothedRows } from '../../core/compare/smoothing.ts';
import { rpmGrid } from '../../core/correct/torque-curve.ts';
import { apart, designLayout } from './designs.ts';
import { oldBand } from './old-band.ts';
import { HISTORY } from './old-claims-study.ts';
import type { Circumstance } from './shortcuts-study.ts';

const STEP_RPM = 50;
const rpm = rpmGrid(2000, 7000, STEP_RPM);
/** As it is registered: half of the square of the step between two mountings, lp². */
const MOUNT = { variance: TYPICAL_NOISE.remountStep ** 2 / 2, df: 10 };
const DRIFT_BOUND = 0.3;
const ALPHA = 0.025;

export const JUDGED_BY = ['rules before, with history', 'rules in force'] as const;
export type JudgedBy = (typeof JUDGED_BY)[number];
/** How often something, and 1 % or more, may be claimed of a part that does nothing, per cent of sessions. */
export interface FalseClaims {
  readonly some: number;
  readonly one: number;
}

/** @param remounted whether the arms stand in mountings of their own, as whoever judges knows */
export function judgedStudy(
  { shifts, remounted }: Circumstance,
  sessions: number,
  seed: number,
): Record<JudgedBy, FalseClaims> {
  const rng = seededRng(seed);
  const noise = pullNoise(rpm, TYPICAL_NOISE);
  const layout = { ...designLayout('A-B', 3, remounted), order: [1, 2, 3, 4, 5, 6] };
  const terms = {
    alpha: ALPHA,
    driftVariance: (DRIFT_BOUND * apart(layout)) ** 2 / 3,
    ...(remounted ? { mount: MOUNT } : {}),
  };
  const sums = JUDGED_BY.map(() => ({ some: 0, one: 0 }));
  for (let t = 0; t < sessions; t++) {
    const moved = shifts(rng);
    const rows = smoothedRows(
      moved.map((shift) => noise(rng).map((v) => v + shift)),
      STEP_RPM,
    );
    const lowers = [
      oldBand(rows, rpm, layout, { ...terms, history: HISTORY }).lower,
      gainBand(rows, rpm, layout, terms).lower,
    ];
    lowers.forEach((lower, k) => {
      const claim = 100 * Math.expm1(Math.max(...lower) / 100);
      sums[k].some += claim > 0 ? 100 / sessions : 0;
      sums[k].one += claim >= 1 ? 100 / sessions : 0;
    });
  }
  return Object.fromEntries(JUDGED_BY.map((by, k) => [by, sums[k]])) as Record<JudgedBy, FalseClaims>;
}
