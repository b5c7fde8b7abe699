import {
  type Configuration,
  type Difference,
  type LedgerChange,
  type Names,
  type StockAnswer,
  type StockSpecification,
} from '../register/ledger.ts';
import type { PartRevision } from '../register/parts.ts';

export interface PlannedArm {
  readonly key: string;
  readonly label: string;
  readonly role: 'baseline' | 'part';
  /** The arm this one builds on; null builds on the vehicle as it stands. */
  readonly from: string | null;
  readonly changes: readonly LedgerChange[];
}

export interface PlannedCalibration {
  readonly id: string;
  readonly name: string;
  readonly expectsPartRevisionIds: readonly string[];
  readonly fuel: string | null;
}

export interface ArmsInput {
  readonly arms: readonly PlannedArm[];
  readonly present: Configuration;
  readonly stock: StockSpecification;
  /** Day of the plan and odometer, for the age of service items. */
  readonly at: string;
  readonly odometerKm: number | null;
  readonly revisions: ReadonlyMap<string, PartRevision>;
  readonly calibrations: ReadonlyMap<string, PlannedCalibration>;
  /** Ids of parts that the register says fit this fitment. */
  readonly fits: ReadonlySet<string>;
  readonly names: Names;
}

export type ArmProblemCode =
  | 'ARMS_ALIKE'
  | 'NEEDS_PART'
  | 'NEEDS_CALIBRATION'
  | 'NEEDS_FUEL'
  | 'CONFLICT'
  | 'NOT_LISTED_AS_FITTING'
  | 'BASELINE_NOT_STOCK'
  | 'BASELINE_WORN'
  | 'BASELINE_NOT_RECORDED'
  | 'CONFOUNDED'
  | 'CALIBRATION_EXPECTS_PART'
  | 'CALIBRATION_EXPECTS_FUEL';

export interface ArmProblem {
  readonly code: ArmProblemCode;
  readonly severity: 'stop' | 'caution';
  readonly text: string;
  readonly mend: string;
}

export type ClaimScope =
  | 'part alone'
  | 'part with what it needs'
  | 'part with its calibration'
  | 'calibration alone'
  | 'setting of the part'
  | 'combination'
  | 'nothing';

export interface AssessedArm {
  readonly key: string;
  readonly configuration: Configuration;
  /** Everything in which the arm differs from the baseline arm. Empty for the baseline itself. */
  readonly differences: readonly Difference[];
  /** The same against the arm it builds on, in a ladder. */
  readonly step: readonly Difference[];
  readonly scope: ClaimScope;
  readonly scopeText: string;
  readonly problems: readonly ArmProblem[];
}

export interface ArmsAssessment {
  readonly baseline: AssessedArm & { readonly stock: StockAnswer };
  readonly parts: readonly AssessedArm[];
}
