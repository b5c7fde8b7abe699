/** What the files say beyond the planned range of engine speeds: a window chosen around a loss does not hide it. */
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import { meanOf } from '../../compare/means.ts';
import type { PreparedTest } from '../../correct/prepare-test.ts';
import { curveReader, rpmGrid } from '../../correct/torque-curve.ts';
import { found, type Found } from '../finding.ts';

const gate = 'losses told' as const;
/** Beside the range by at most so much, and by at least so much that an average says something, rpm. */
const REACH = 1000;
const LEAST = 300;
/** Not up to the very end of a pull, where it was lifted, rpm. */
const LIFTED = 100;

export interface Beside {
  readonly fromRpm: number;
  readonly toRpm: number;
}

export function outsideWindow(
  { pulls, ofPull }: Pick<AnalysedContrast, 'pulls' | 'ofPull'>,
  prepared: PreparedTest,
  stepRpm: number,
): Found[] {
  return besides(pulls, prepared, stepRpm).flatMap((beside) => {
    const levels = pulls.map(({ id }) => levelOf(id, prepared, beside, stepRpm));
    if (levels.some((v) => v === undefined)) return [];
    const { d, upper } = ofPull(levels as number[]);
    return upper < 0 ? [found(gate, 'caution', 'LOSS_OUTSIDE_WINDOW', beside, { gain: d, upper })] : [];
  });
}

/** Ranges below and above the planned one that every pull went through. */
function besides(
  pulls: AnalysedContrast['pulls'],
  { corrected, grid }: PreparedTest,
  stepRpm: number,
): Beside[] {
  const sweeps = pulls.map(({ id }) => corrected.get(id)!.sweep);
  const [from, to] = [grid[0], grid.at(-1)!];
  const up = (rpm: number): number => Math.ceil(rpm / stepRpm) * stepRpm;
  const low = Math.max(up(Math.max(...sweeps.map((s) => s.fromRpm))), from - REACH);
  const high = Math.min(up(Math.min(...sweeps.map((s) => s.toRpm)) - LIFTED) - stepRpm, to + REACH);
  return [
    { fromRpm: low, toRpm: from - stepRpm },
    { fromRpm: to + stepRpm, toRpm: high },
  ].filter(({ fromRpm, toRpm }) => toRpm - fromRpm >= LEAST);
}

/** Mean corrected torque of a pull over a range, lp; undefined where it has none at some speed. */
function levelOf(
  id: string,
  { files, corrected }: PreparedTest,
  { fromRpm, toRpm }: Beside,
  stepRpm: number,
): number | undefined {
  const [file, { sweep, factor, undone }] = [files.get(id)!, corrected.get(id)!];
  const torque = curveReader(file.rpm, sweep, rpmGrid(fromRpm, toRpm, stepRpm), stepRpm)(file.torqueNm);
  if (torque.some((t) => !(t > 0))) return undefined;
  return meanOf([...torque].map((t) => 100 * Math.log((t / undone) * factor.factor)));
}
