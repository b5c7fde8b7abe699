/** What rules O and B would have let people claim of four true gains, two runs on one mounting, as “up to”. */
import { seededRng } from '../../core/base/rng.ts';
import { lp } from '../../core/base/units.ts';
import { smoothedRows } from '../../core/compare/smoothing.ts';
import { designLayout } from './designs.ts';
import { NOISE_MODELS, pullDrawer } from './noise-models.ts';
import { oldBand } from './old-band.ts';
import { STUDY_GRID, STUDY_RPM } from './study-grid.ts';

/** What a dyno's past tells of a pull's curve, lp². */
export const HISTORY = { variance: 0.68, df: 10 };
const [FIRST, LAST] = [STUDY_RPM[0], STUDY_RPM[STUDY_RPM.length - 1]];
/** True gains, %. */
export const TRUE_GAINS: Readonly<Record<string, (rpm: number) => number>> = {
  'constant +2': () => 2,
  'bump +5, 600 rpm wide': (rpm) => 5 * Math.exp(-4 * Math.LN2 * ((rpm - 4500) / 600) ** 2),
  'top end +4, −1 low': (rpm) => -1 + 5 * Math.min(1, Math.max(0, (rpm - FIRST) / (LAST - FIRST))),
  nothing: () => 0,
};
export interface Claimed {
  /** Sessions in which more than nothing, and at least 1 %, may be claimed, and more than the truth, %; mean claim, %. */
  readonly some: number;
  readonly one: number;
  readonly tooMuch: number;
  readonly mean: number;
}

export function oldClaims(
  rule: 'O' | 'B',
  n: number,
  truth: (rpm: number) => number,
  sessions: number,
  seed: number,
): Claimed {
  const rng = seededRng(seed);
  const layout = designLayout('A-B', n, false);
  const draw = pullDrawer(STUDY_RPM, NOISE_MODELS[0]);
  const gain = Float64Array.from(STUDY_RPM, (rpm) => lp(1 + truth(rpm) / 100));
  const [smooth] = smoothedRows([gain], STUDY_GRID.stepRpm);
  const most = 100 * Math.expm1(Math.max(...smooth) / 100);
  const terms = { alpha: 0.025, ...(rule === 'B' ? { history: HISTORY } : {}) };
  const sums = { some: 0, one: 0, tooMuch: 0, mean: 0 };
  for (let t = 0; t < sessions; t++) {
    const raw = layout.arm.map((arm) => draw(arm, rng).map((v, j) => v + arm * gain[j]));
    const { lower } = oldBand(smoothedRows(raw, STUDY_GRID.stepRpm), STUDY_RPM, layout, terms);
    const claim = 100 * Math.expm1(Math.max(...lower) / 100);
    sums.some += claim > 0 ? 100 / sessions : 0;
    sums.one += claim >= 1 ? 100 / sessions : 0;
    sums.tooMuch += claim > most ? 100 / sessions : 0;
    sums.mean += claim / sessions;
  }
  return sums;
}

export function oldClaimsReport(sessions: number, seed = 20265): string {
  const rows = [3, 4, 5].flatMap((n) => (['O', 'B'] as const).map((rule) => ({ n, rule })));
  const names = Object.keys(TRUE_GAINS);
  return [
    `| n | rule | ${names.join(' | ')} |`,
    `|---|---|${names.map(() => '---|').join('')}`,
    ...rows.map(({ n, rule }) => {
      const cells = names.map((name) => oldClaims(rule, n, TRUE_GAINS[name], sessions, seed + n));
      const text = cells.map(
        (c) => `${c.some.toFixed(1)} / ${c.one.toFixed(0)} / ${c.mean.toFixed(1)} (${c.tooMuch.toFixed(2)})`,
      );
      return `| ${n} | ${rule} | ${text.join(' | ')} |`;
    }),
  ].join('\n');
}
