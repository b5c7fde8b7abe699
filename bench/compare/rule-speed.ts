/** Time of one contrast: both rules on nine pulls of 81 points, beside the rules they replaced, in one run. */
import { seededRng } from '../../core/base/rng.ts';
import { gainBand } from '../../core/compare/gain-band.ts';
import { scalarGain } from '../../core/compare/scalar-gain.ts';
import { smoothedRows } from '../../core/compare/smoothing.ts';
import { designLayout } from './designs.ts';
import { NOISE_MODELS, pullDrawer } from './noise-models.ts';
import { oldBand } from './old-band.ts';
import { HISTORY } from './old-claims-study.ts';
import { oldScalar } from './old-scalar.ts';
import { STUDY_GRID } from './rules-study.ts';

/** Median time in ms of the band and both scalars (average and peak) by each set of rules. */
export function ruleSpeed(rounds = 400): { pAndS: number; old: number; oldHistory: number } {
  const rng = seededRng(7);
  const layout = designLayout('A-B-A', 3, false);
  const rpm = Array.from(
    { length: STUDY_GRID.points },
    (_, j) => STUDY_GRID.fromRpm + STUDY_GRID.stepRpm * j,
  );
  const draw = pullDrawer(rpm, NOISE_MODELS[0]);
  const sessions = Array.from({ length: 20 }, () => {
    const raw = layout.arm.map((arm) => draw(arm, rng));
    return {
      rows: smoothedRows(raw, STUDY_GRID.stepRpm),
      averages: raw.map((row) => row.reduce((a, b) => a + b, 0) / row.length),
      peaks: raw.map((row) => Math.max(...row)),
    };
  });
  const terms = { alpha: 0.025 };
  type Session = (typeof sessions)[number];
  const timed = (work: (s: Session) => unknown): number => {
    const times: number[] = [];
    for (let i = 0; i < rounds; i++) {
      const from = performance.now();
      work(sessions[i % sessions.length]);
      times.push(performance.now() - from);
    }
    return times.sort((a, b) => a - b)[rounds >> 1];
  };
  const pAndS = (s: Session): unknown => [
    gainBand(s.rows, rpm, layout, terms),
    scalarGain(s.averages, s.rows, layout, terms, 'strict'),
    scalarGain(s.peaks, s.rows, layout, terms, 'strict'),
  ];
  const old = (history?: typeof HISTORY) => (s: Session) => [
    oldBand(s.rows, rpm, layout, { ...terms, history }),
    oldScalar(s.averages, layout, { ...terms, history }),
    oldScalar(s.peaks, layout, { ...terms, history }),
  ];
  // The first round of each warms the compiler.
  for (const work of [pAndS, old(), old(HISTORY)]) timed(work);
  return { pAndS: timed(pAndS), old: timed(old()), oldHistory: timed(old(HISTORY)) };
}
