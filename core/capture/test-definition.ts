/** One test as it is analysed: arms, pulls with their files and air, and how they are to be read and compared. */
import { TestDefinitionError } from '../base/errors.ts';
import { grouped } from '../base/grouped.ts';
import type { Guard } from '../base/guard.ts';
import type { BoostedSchool, Engine, Standard } from '../base/standards.ts';
import type { PlanLock } from '../plan/amendment.ts';
import type { OneWayFacts } from '../plan/one-way.ts';
import type { Setting } from '../plan/swept-setting.ts';
import type { Metric } from '../plan/metrics.ts';
import type { Alarm, SetAside } from '../register/control-state.ts';
import type { StartSensor, TemperatureSlope } from '../register/temperature-slope.ts';
import type { PartCategory } from '../register/parts.ts';
import type { Repeatability } from '../register/repeatability.ts';
import type { AirReading, AirUncertainty } from './air-reading.ts';
import type { ColumnChoices } from './pull-file-types.ts';
import type { SessionRecord } from './session/session-record.ts';
import type { ReadingOptions } from './reading-options.ts';

export interface TestPull {
  readonly id: string;
  readonly arm: string;
  /** True position in the session, warm-up pulls included. */
  readonly order: number;
  readonly mount: number | string;
  readonly counted: boolean;
  readonly file?: string | undefined;
  readonly columns?: ColumnChoices | undefined;
  /** The engine’s log as a file of its own, and by how much its time is shifted to the pull’s, s. */
  readonly log?:
    | {
        readonly file: string;
        readonly offsetS: number;
        /** Somebody set the shift, other than the engine speeds would. */ readonly byHand?:
          boolean | undefined;
        /** It has no engine speed, and lies by the clocks of both files. */ readonly byClock?:
          boolean | undefined;
      }
    | undefined;
  readonly air?: AirReading | undefined;
  readonly applied?:
    | {
        readonly standard: Standard;
        readonly factor?: number | undefined;
        readonly air?: AirReading | undefined;
      }
    | undefined;
  readonly excluded?: string | undefined;
  /** Whether it was left out after the result had been seen. */
  readonly excludedAfterResult?: boolean | undefined;
  /** The pull that this one repeats, at the end of its run. */
  readonly repeats?: string | undefined;
}

/** The start temperature that the locked plan names, and the slope that was registered then. */
export interface PlannedStart {
  readonly sensor: StartSensor;
  readonly slope?: TemperatureSlope | undefined;
}

export interface TestArm {
  readonly id: string;
  readonly role: 'baseline' | 'part';
  /** What people call it; a file that names another arm by it is found. */
  readonly label?: string | undefined;
  /** The sold thing it is a setting or combination of; arms of one product are held together. None: a condition, no product. */
  readonly product?: string | undefined;
  /** The part arm it builds on, where arms are stages of a ladder. */
  readonly from?: string | undefined;
  /** Kinds of parts in which it differs from the baseline: what of the log they act upon. */
  readonly parts?: readonly PartCategory[] | undefined;
  /** Where a sweep goes through an ordered setting: this arm’s. */
  readonly setting?: Setting | undefined;
}

/** Somebody's answer to a finding that nothing but a person can settle. */
export interface FindingAnswer {
  readonly code: string;
  /** The finding as it read when it was answered. */ readonly message: string;
  /** The arm it is about, where there are several; left out: whichever says so. */ readonly arm?: string;
  readonly text: string;
  readonly by: string;
}

export interface TestDefinition {
  readonly title: string;
  readonly standard: Standard;
  readonly engine: Engine;
  /** Power the engine is rated at, kW at the crank: what a reading can be held against. */
  readonly ratedPowerKw?: number | undefined;
  readonly band: { readonly fromRpm: number; readonly toRpm: number; readonly stepRpm: number };
  readonly smoothingRpm?: number | undefined;
  readonly confidence?: number | undefined;
  /** Guard of the intervals of single numbers, as the locked plan names it. */
  readonly guard?: Guard | undefined;
  /** How air is corrected on a boosted engine, as the plan names it. */
  readonly boostedSchool?: BoostedSchool | undefined;
  readonly model?:
    { readonly drift?: 'none' | 'linear' | undefined; readonly driftBound?: number | undefined } | undefined;
  readonly repeatability?: Repeatability | undefined;
  /** How well the dyno's sensors read the air, as they are registered: standard uncertainties in K, hPa and % of humidity. */
  readonly airSensors?: AirUncertainty | undefined;
  readonly arms: readonly TestArm[];
  /** What the register knows and a file may leave out. */
  readonly reading?: ReadingOptions | undefined;
  readonly pulls: readonly TestPull[];
  /** Metrics the plan names for the claim; every one pays for their number. `metric` alone names one. */
  readonly metric?: Metric | undefined;
  readonly metrics?: readonly Metric[] | undefined;
  readonly plan?: PlanLock | undefined;
  /** What was done otherwise than planned, as it was recorded at the dyno; none where pulls came as files. */
  readonly done?: SessionRecord | undefined;
  readonly answers?: readonly FindingAnswer[] | undefined;
  readonly startTemperature?: PlannedStart | undefined;
  /** Where the plan has no return to the baseline, because the part cannot be taken off again. */
  readonly oneWay?: OneWayFacts | undefined;
  /** What the dyno’s control vehicle said around the session, where it was out of its limits. */
  readonly control?: Alarm | undefined;
  /** What was taken out of its chart beside the session. */
  readonly setAside?: readonly (Omit<SetAside, 'at'> & { readonly day: string })[] | undefined;
}

/** Most points a grid may have. */
const MOST_POINTS = 2000;

/**
 * Id of the baseline of a definition that holds together.
 * Throws `TestDefinitionError` for one that does not, with the field.
 */
export function baselineOf(test: TestDefinition): string {
  const baselines = test.arms.filter((arm) => arm.role === 'baseline');
  if (baselines.length !== 1)
    throw new TestDefinitionError(
      'NO_BASELINE',
      `The test has ${baselines.length} baseline arms.`,
      'Give exactly one arm the role “baseline”.',
      { path: 'arms' },
    );
  checkPulls(test);
  checkBand(test.band);
  return baselines[0].id;
}

function checkPulls(test: TestDefinition): void {
  const seen = new Set<string>();
  const orders = new Set<number>();
  for (const pull of test.pulls) {
    if (!test.arms.some((arm) => arm.id === pull.arm))
      throw new TestDefinitionError(
        'UNKNOWN_ARM',
        `Pull ${pull.id} names arm “${pull.arm}”, which the test does not have.`,
        `The arms are: ${test.arms.map((arm) => arm.id).join(', ')}.`,
        { path: `pulls.${pull.id}.arm` },
      );
    if (seen.has(pull.id))
      throw new TestDefinitionError(
        'DUPLICATE_ID',
        `Two pulls are called “${pull.id}”.`,
        'Give every pull an id of its own.',
        { path: 'pulls' },
      );
    if (orders.has(pull.order))
      throw new TestDefinitionError(
        'DUPLICATE_ID',
        `Two pulls stand at position ${pull.order} of the session.`,
        'Give every pull, warm-up pulls included, its true position.',
        { path: `pulls.${pull.id}.order` },
      );
    seen.add(pull.id);
    orders.add(pull.order);
  }
}

function checkBand({ fromRpm, toRpm, stepRpm }: TestDefinition['band']): void {
  if (!(toRpm > fromRpm && stepRpm > 0 && (toRpm - fromRpm) / stepRpm <= MOST_POINTS)) {
    throw new TestDefinitionError(
      'BAD_BAND',
      `The rpm range ${grouped(fromRpm)} to ${grouped(toRpm)} rpm in steps of ${stepRpm} cannot be used.`,
      'Give a lower end, a higher end and a step of 10 to 250 rpm.',
      { path: 'band' },
    );
  }
}
