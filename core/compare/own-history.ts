/**
 * How far pulls of a dyno scatter, from its own finished sessions: for the repeatability gate, the planner and the
 * flyer flag. Never from the session that is judged by it; no interval rests on it.
 */
import { historyIsEnough, historyPrior } from './history-prior.ts';
import type { KnownVariance } from '../register/repeatability.ts';

/** A finished session: counted pulls with run, band average and peak (lp), and smoothed power curve (lp; NaN: none). */
export interface PastSession {
  readonly run: readonly (number | string)[];
  readonly averages: readonly number[];
  readonly peaks: readonly number[];
  readonly curves: readonly ArrayLike<number>[];
}
export interface OwnHistory {
  readonly curve: KnownVariance;
  readonly bandAverage: KnownVariance;
  readonly peak: KnownVariance;
  readonly sessions: number;
  /** Residual degrees of freedom over all of them. */ readonly dfTotal: number;
}

/** Points along the common range at which the scatter of a session is looked at. */
const POINTS = 21;

/** Residual variance of each column about the means of its run. */
function withinRuns(rows: readonly ArrayLike<number>[], run: PastSession['run']): number[] {
  const df = dfOf(run);
  const groups = [...new Set(run)].map((id) => run.flatMap((r, i) => (r === id ? [i] : [])));
  return Array.from({ length: rows[0].length }, (_, j) => {
    let ss = 0;
    for (const members of groups) {
      const mean = members.reduce((s, i) => s + rows[i][j], 0) / members.length;
      ss += members.reduce((s, i) => s + (rows[i][j] - mean) ** 2, 0);
    }
    return ss / df;
  });
}
const dfOf = (run: PastSession['run']): number => run.length - new Set(run).size;

/** Some columns of curves, evenly along the longest stretch in which every pull has a value. */
function atPoints(curves: PastSession['curves']): number[][] | undefined {
  const whole = Array.from({ length: curves[0]?.length ?? 0 }, (_, j) =>
    curves.every((c) => Number.isFinite(c[j])),
  );
  const [from, to] = [whole.indexOf(true), whole.lastIndexOf(true)];
  if (from < 0 || to - from < POINTS - 1) return undefined;
  const columns = Array.from({ length: POINTS }, (_, k) =>
    Math.round(from + ((to - from) * k) / (POINTS - 1)),
  );
  return columns.every((j) => whole[j]) ? curves.map((c) => columns.map((j) => c[j])) : undefined;
}

const known = (sessions: readonly number[][], df: readonly number[]): KnownVariance => {
  const { s0sq, d0 } = historyPrior(sessions, df);
  return { variance: s0sq, df: d0 };
};

/** @returns undefined where there are too few sessions or pulls (four, and twenty degrees of freedom) */
export function ownHistory(sessions: readonly PastSession[]): OwnHistory | undefined {
  const used = sessions.flatMap(({ run, averages, peaks, curves }) => {
    const points = atPoints(curves);
    return points && dfOf(run) > 0 ? [{ run, averages, peaks, points }] : [];
  });
  const df = used.map((s) => dfOf(s.run));
  if (!historyIsEnough(df)) return undefined;
  const scalar = (of: 'averages' | 'peaks'): KnownVariance =>
    known(
      used.map((s) =>
        withinRuns(
          s[of].map((v) => [v]),
          s.run,
        ),
      ),
      df,
    );
  return {
    curve: known(
      used.map((s) => withinRuns(s.points, s.run)),
      df,
    ),
    bandAverage: scalar('averages'),
    peak: scalar('peaks'),
    sessions: used.length,
    dfTotal: df.reduce((a, b) => a + b, 0),
  };
}
