/** What a control vehicle reads on a dyno: the mean power of each of its pulls, corrected like any other. */
import { PullFileError } from '../base/errors.ts';
import { grouped } from '../base/grouped.ts';
import type { BoostedSchool, Engine, Standard } from '../base/standards.ts';
import { powerW } from '../base/units.ts';
import type { AirReading } from '../capture/air-reading.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import type { ReadingOptions } from '../capture/reading-options.ts';
import type { TestPull } from '../capture/test-definition.ts';
import { prepareTest } from './prepare-test.ts';

/** How every check of one control vehicle is read, so that they can be held against each other. */
export interface ControlReading {
  readonly standard: Standard;
  readonly band: { readonly fromRpm: number; readonly toRpm: number; readonly stepRpm: number };
  readonly engine: Engine;
  readonly school: BoostedSchool;
  /** What the dyno applies by itself. */ readonly applies: Standard;
  readonly reading?: ReadingOptions | undefined;
}
export interface ControlFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly air: AirReading;
}

/**
 * Power of each pull averaged over the range, in lp (100 times the natural logarithm of W), and when its file says it
 * was made.
 * Throws the error of the first file that cannot be used, with its name; `NO_SWEEP` for one that leaves out
 * part of the range.
 */
export function controlLevels(
  files: readonly ControlFile[],
  how: ControlReading,
): { values: number[]; recorded: (PullFile['recorded'] | undefined)[] } {
  const { standard, band, engine, school, applies, reading } = how;
  const pulls = files.map(({ name, air }, i): TestPull => ({
    id: name,
    arm: 'control',
    order: i + 1,
    mount: 1,
    counted: true,
    file: name,
    air,
    applied: { standard: applies },
  }));
  const prepared = prepareTest(
    {
      title: 'control vehicle',
      standard,
      engine,
      band,
      arms: [{ id: 'control', role: 'baseline' }],
      reading,
      pulls,
    },
    { readFile: (name) => files.find((file) => file.name === name)?.bytes },
    school,
  );
  return {
    values: pulls.map(({ id }) => levelOf(prepared.corrected.get(id)!.torqueNm, prepared.grid, id)),
    recorded: pulls.map(({ id }) => prepared.files.get(id)?.recorded),
  };
}

function levelOf(torqueNm: Float64Array, grid: readonly number[], file: string): number {
  const levels = Array.from(torqueNm, (t, j) => 100 * Math.log(powerW(t, grid[j])));
  if (levels.some((v) => !Number.isFinite(v)))
    throw new PullFileError(
      'NO_SWEEP',
      `The pull does not cover ${grouped(grid[0])} to ${grouped(grid.at(-1)!)} rpm, by which this control vehicle is read.`,
      'Drive the whole range, as in the checks before.',
      { file },
    );
  return levels.reduce((sum, v) => sum + v, 0) / levels.length;
}
