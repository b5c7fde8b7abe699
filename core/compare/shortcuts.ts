import { pctFromLp } from '../base/units.ts';
import type { ComparedPull } from './compared-pull.ts';
import type { Rows } from './common-grid.ts';
import type { ContrastResult } from './result.ts';

/**
 * What the shortcuts would have said, %: shown beside the result, never publishable.
 * @param peaks largest smoothed value of each pull; @param raw curves before smoothing; lp
 */
export function shortcutsOf(
  pulls: readonly ComparedPull[],
  arm: string,
  peaks: readonly number[],
  raw: Rows,
): ContrastResult['shortcuts'] {
  const of = (part: boolean): number[] =>
    pulls
      .flatMap((pull, i) => ((pull.arm === arm) === part ? [i] : []))
      .sort((a, b) => pulls[a].order - pulls[b].order);
  const [part, stock] = [of(true), of(false)];
  const best = (list: number[]): number => Math.max(...list.map((i) => peaks[i]));
  const [lastPart, lastStock] = [part.at(-1)!, stock.at(-1)!];
  return {
    unit: '%',
    bestAgainstBest: pctFromLp(best(part) - best(stock)),
    lastAgainstFirst: pctFromLp(peaks[lastPart] - peaks[stock[0]]),
    largestOverlayDifference: pctFromLp(
      raw[lastPart].reduce((max, value, j) => Math.max(max, value - raw[lastStock][j]), -Infinity),
    ),
  };
}
