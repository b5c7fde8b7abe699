/**
 * The plan of a test as one document: what is decided before the first pull. Locking it makes its first version, each
 * amendment the next one, with a reason; every version is kept whole with its hash. All that is said of the fields of
 * a plan (which there are, which may be amended, how they read) stands here once.
 */
import { grouped } from '../base/grouped.ts';
import type { Guard } from '../base/guard.ts';
import { STANDARD_NAMES, type BoostedSchool, type Standard } from '../base/standards.ts';
import type { Difference, LedgerChange } from '../register/ledger.ts';
import type { Amendable } from './amendment.ts';
import type { Control } from './controls.ts';
import type { StartSensor } from '../register/temperature-slope.ts';
import type { PlannedSlope } from './planned-slope.ts';
import { METRIC_NAMES, type Metric } from './metrics.ts';

export const PLAN_FORMAT = 'evidentia-plan/2';

/** Fields of a plan. Speeds in rpm, times in min, fractions and log points per pull as their names say. */
export interface PlanFields {
  readonly question: string;
  readonly fitmentId: string;
  readonly vehicleId: string;
  readonly partRevisionId: string | null;
  readonly dynoId: string;
  /** Control vehicle that stands in for a return to the baseline; plans of before have none. */
  readonly controlId?: string | null;
  readonly standard: Standard;
  readonly band: { readonly fromRpm: number; readonly toRpm: number; readonly stepRpm: number };
  readonly smoothingRpm: number;
  readonly confidence: number;
  readonly guard: Guard;
  readonly boostedSchool: BoostedSchool;
  /** The start temperature by which arms are compared, and its slope as it was registered at the lock. */
  readonly startSensor: StartSensor | null;
  readonly startSlope: PlannedSlope | null;
  readonly driftBound: number;
  readonly metrics: readonly Metric[];
  readonly protocol: string;
  readonly runOrder: readonly string[];
  readonly pullsPerRun: number;
  readonly warmUps: number;
  readonly remount: boolean;
  readonly coolDownMinutes: number;
  readonly gear: string;
  readonly fuel: string;
  readonly calibration: string;
  readonly tyres: string;
  readonly controls: readonly Control[];
  readonly photographs: readonly string[];
  readonly logs: readonly string[];
}
export interface PlanArm {
  readonly key: string;
  readonly label: string;
  readonly role: 'baseline' | 'part';
  readonly fromKey: string | null;
  readonly changes: readonly LedgerChange[];
  readonly partRevisionId: string | null;
  readonly scope: string;
  readonly scopeText: string;
  readonly differences: readonly Difference[];
}
export interface PlanPull {
  readonly position: number;
  readonly label: string;
  readonly arm: string;
  readonly run: number;
  readonly mount: number;
  readonly counted: boolean;
}
export interface PlanDocument {
  readonly format: typeof PLAN_FORMAT;
  /** 1 as locked; amendment n makes version n + 1. */ readonly version: number;
  /** Why it was amended; null for the first. */ readonly reason: string | null;
  readonly fields: PlanFields;
  readonly arms: readonly PlanArm[];
  readonly sheet: readonly PlanPull[];
  /** Versions of what the plan was made on. */
  readonly plannedOn: {
    readonly dyno: { readonly record: number | null; readonly facts: number | null };
    readonly fitment: number | null;
    readonly policy: string;
  };
}

const list = (values: readonly string[]): string => values.join(', ') || 'none';
/** Fields that may be amended, each as people read it in the list of amendments. */
const IN_WORDS: {
  readonly [K in Exclude<Amendable, 'addedRun' | 'repeatedPull'>]: (value: PlanFields[K]) => string;
} = {
  question: (text) => text,
  gear: (text) => text,
  fuel: (text) => text,
  metrics: (metrics) => metrics.map((m) => METRIC_NAMES[m]).join('; '),
  band: ({ fromRpm, toRpm, stepRpm }) => `${grouped(fromRpm)} to ${grouped(toRpm)} rpm, every ${stepRpm}`,
  standard: (standard) => STANDARD_NAMES[standard],
  controls: (controls) =>
    controls
      .map((c) => `${c.quantity} ${c.target === null ? 'equal' : c.target} ± ${c.tolerance} ${c.unit}`)
      .join('; ') || 'none',
  coolDownMinutes: (minutes) => `${minutes} min`,
  photographs: list,
  logs: list,
};
export type AmendableField = keyof typeof IN_WORDS;
export const AMENDABLE_FIELDS = Object.keys(IN_WORDS) as AmendableField[];

const wordsOf = <K extends AmendableField>(field: K, fields: Pick<PlanFields, K>): string =>
  IN_WORDS[field](fields[field]);

/** What an amendment changes in the fields of a plan, in words; nothing for a field that reads the same after it. */
export function fieldChanges(
  before: PlanFields,
  changes: Partial<Pick<PlanFields, AmendableField>>,
): { field: AmendableField; from: string; to: string }[] {
  const after = { ...before, ...changes };
  return AMENDABLE_FIELDS.filter((field) => changes[field] !== undefined)
    .map((field) => ({ field, from: wordsOf(field, before), to: wordsOf(field, after) }))
    .filter(({ from, to }) => from !== to);
}
