/**
 * First step of an analysis: files to corrected curves. What is wrong with the file of a counted pull is thrown;
 * what is odd about any file is remarked.
 */
import type { OnStep } from '../base/on-step.ts';
import { EvidentiaError, TestDefinitionError } from '../base/errors.ts';
import type { BoostedSchool, Engine, Standard } from '../base/standards.ts';
import type { Doubt } from '../capture/doubts/doubt.ts';
import { doubtsIn } from '../capture/doubts/doubts-in.ts';
import { joinLog } from '../capture/join-log.ts';
import { readPullFile } from '../capture/pull-file.ts';
import { type PullFile } from '../capture/pull-file-types.ts';
import type { TestDefinition, TestPull } from '../capture/test-definition.ts';
import { airState, type AirState } from './air.ts';
import { withFuelRate } from './fuel-rate.ts';
import { pullLog, type PullLog } from './pull-log.ts';
import { pullReadings, type PullReadings } from './pull-readings.ts';
import { correctPull, type CorrectedPull } from './pull-correction.ts';
import type { Applied } from './standards.ts';
import { sensorStarts, startsOf, type SensorStarts } from './starts.ts';
import { rpmGrid } from './torque-curve.ts';

/** What is odd about a file: of a pull that is used, or why one that is not counted cannot be. */
export interface FileRemark {
  readonly pull: string;
  readonly code: string;
  readonly message: string;
  readonly usable: boolean;
  /** By how much two readings of one thing in it differ throughout, as a share. */
  readonly share?: number | undefined;
}
/** Every pull that could be read, by its id. */
export interface PreparedTest {
  readonly grid: readonly number[];
  /** The engine as it was corrected for: with the fuel rate of the baseline, where it was logged. */
  readonly engine: Engine;
  readonly files: ReadonlyMap<string, PullFile>;
  readonly air: ReadonlyMap<string, AirState>;
  readonly corrected: ReadonlyMap<string, CorrectedPull>;
  /** What the logs of the pulls that are used say of the engine. */
  readonly logs: ReadonlyMap<string, PullLog>;
  /** What those logs give beside torque: clock, fuel, boost. */
  readonly logged: ReadonlyMap<string, PullReadings>;
  /** What each pull started from, by the sensors arms may be compared by. */
  readonly starts: ReadonlyMap<string, SensorStarts>;
  readonly remarks: readonly FileRemark[];
  /** Samples of pulls that do not look like readings. */
  readonly doubts: readonly PullDoubt[];
}
export interface PullDoubt extends Doubt {
  readonly pull: string;
}
export interface Sources {
  /** Bytes of a file named in the definition; undefined when it is not there. */
  readonly readFile: (file: string) => Uint8Array | undefined;
  /** Files as they were parsed before, by pull, to save reading the same bytes again. */
  readonly parsed?: ReadonlyMap<string, PullFile> | undefined;
  /** Told after each step: two a pull, reading and correcting. */
  readonly onStep?: OnStep | undefined;
}

/** Throws the error of the first counted pull that cannot be used, with its file. */
export function prepareTest(
  test: TestDefinition,
  sources: Sources,
  school: BoostedSchool = 'correct',
): PreparedTest {
  const { fromRpm, toRpm, stepRpm } = test.band;
  const grid = rpmGrid(fromRpm, toRpm, stepRpm);
  const files = new Map<string, PullFile>();
  const air = new Map<string, AirState>();
  const corrected = new Map<string, CorrectedPull>();
  const logs = new Map<string, PullLog>();
  const logged = new Map<string, PullReadings>();
  const starts = new Map<string, SensorStarts>();
  const remarks: FileRemark[] = [];
  const doubts: PullDoubt[] = [];
  const said = (pull: TestPull, error: unknown): void => {
    if (!(error instanceof EvidentiaError)) throw error;
    if (isWanted(pull)) throw error.where.file ? error : error.at({ file: pull.file! });
    remarks.push({ pull: pull.id, code: String(error.code), message: error.message, usable: false });
  };
  let steps = 0;
  const step = (): void => sources.onStep?.((steps += 1), 2 * test.pulls.length);
  for (const pull of test.pulls) {
    step();
    if (!pull.file) {
      if (isWanted(pull)) throw noFile(pull);
      continue;
    }
    try {
      files.set(pull.id, sources.parsed?.get(pull.id) ?? parsed(test, pull, sources));
    } catch (error) {
      said(pull, error);
    }
  }
  const engine = withFuelRate(test.engine, baselineFiles(test, files), test.band, test.reading?.fuel);
  for (const pull of test.pulls) {
    step();
    const file = files.get(pull.id);
    if (!file) continue;
    try {
      const state = airOf(pull, test.standard);
      air.set(pull.id, state);
      const correction = { standard: test.standard, school };
      const curve = correctPull(file, state, engine, correction, appliedOf(pull), grid, stepRpm);
      corrected.set(pull.id, curve);
      starts.set(pull.id, sensorStarts(startsOf(file, curve.sweep), pull.air?.temperatureC));
      if (isWanted(pull)) {
        logs.set(pull.id, pullLog(file, curve, grid, stepRpm));
        logged.set(pull.id, pullReadings(file, curve, state.pressurePa));
      }
      doubts.push(...doubtsIn(file, curve.sweep).map((doubt) => ({ ...doubt, pull: pull.id })));
      remarks.push(...remarksOn(pull, file));
    } catch (error) {
      said(pull, error);
    }
  }
  return { grid, engine, files, air, corrected, logs, logged, starts, remarks, doubts };
}

const isWanted = (pull: TestPull): boolean => pull.counted && !pull.excluded;
/** One rate for both arms: a factor that the part moved would hide or make a gain. */
const baselineFiles = ({ arms, pulls }: TestDefinition, files: ReadonlyMap<string, PullFile>) => {
  const baseline = arms.find((arm) => arm.role === 'baseline')?.id;
  return pulls.flatMap((pull) => {
    const file = files.get(pull.id);
    const { air } = pull;
    const ambientPa = air && air.pressureKind !== 'sea level' ? 100 * air.pressureHpa : null;
    return file && isWanted(pull) && pull.arm === baseline ? [{ file, ambientPa }] : [];
  });
};

const noFile = (pull: TestPull): TestDefinitionError =>
  new TestDefinitionError(
    'FILE_MISSING',
    `Counted pull ${pull.id} has no file.`,
    'Attach its file, or exclude the pull with a reason.',
    { path: `pulls.${pull.id}` },
  );

const remarksOn = (pull: TestPull, file: PullFile): FileRemark[] =>
  file.findings
    .filter((finding) => finding.code !== 'NO_FINAL_LINE_END')
    .map(({ code, message, share }) => ({ pull: pull.id, code, message, usable: true, share }));

function parsed(test: TestDefinition, pull: TestPull, sources: Sources): PullFile {
  const file = readPullFile(bytesOf(pull.file!, pull, sources), {
    ...test.reading,
    file: pull.file,
    columns: pull.columns,
    channels: 'needed',
  });
  if (!pull.log) return file;
  const log = readPullFile(bytesOf(pull.log.file, pull, sources), {
    ...test.reading,
    file: pull.log.file,
    channels: 'needed',
    torque: 'optional',
  });
  return joinLog(file, log, pull.log.offsetS);
}
function bytesOf(file: string, pull: TestPull, { readFile }: Sources): Uint8Array {
  const bytes = readFile(file);
  if (bytes) return bytes;
  throw new TestDefinitionError(
    'FILE_MISSING',
    `A file of pull ${pull.id} is not there.`,
    'Put the file beside the test file, or correct the path.',
    { file },
  );
}

function appliedOf(pull: TestPull): Applied | undefined {
  return (
    pull.applied && {
      standard: pull.applied.standard,
      factor: pull.applied.factor,
      air: pull.applied.air && airState(pull.applied.air),
    }
  );
}

/** Whether anything is computed from the air of a pull. */
export const needsAir = (pull: TestPull, standard: Standard): boolean =>
  !(
    standard === 'none' &&
    (pull.applied === undefined || pull.applied.standard === 'none' || pull.applied.factor !== undefined)
  );

/** ISA air stands in only where no standard needs a reading. */
function airOf(pull: TestPull, standard: Standard): AirState {
  if (pull.air) return airState(pull.air);
  if (!needsAir(pull, standard)) {
    return airState({ temperatureC: 15, pressureHpa: 1013.25, humidity: { kind: 'relative', percent: 0 } });
  }
  throw new TestDefinitionError(
    'TEST_FILE_INVALID',
    `Pull ${pull.id} has no air reading.`,
    'Enter temperature, pressure and humidity for it.',
    { path: `pulls.${pull.id}.air` },
  );
}
