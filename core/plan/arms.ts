/**
 * Arms: configurations under test, each built as changes to what is on the vehicle now (or to the
 * arm before it, in a ladder). From them follows everything that differs between two arms, and so
 * whose gain a result would be.
 */
import {
  configurationDifferences,
  isStock,
  type Configuration,
  type Deviation,
  type Difference,
  type LedgerChange,
  type LedgerEntry,
  type Names,
  type StockAnswer,
  type StockSpecification,
  fuelAgrees,
  configurationOn,
} from '../register/ledger.ts';
import type { PartCategory, PartRevision } from '../register/parts.ts';

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

/** A configuration after some changes: the ledger's own rules, with times that only keep their order. */
export function afterChanges(
  before: Configuration,
  changes: readonly LedgerChange[],
  at: string,
): Configuration {
  const entries: LedgerEntry[] = changes.map((change, i) => ({
    id: String(i).padStart(4, '0'),
    at,
    enteredAt: at,
    odometerKm: null,
    supersedes: null,
    change,
  }));
  return configurationOn(entries, at, before);
}

/** Builds every arm and says what differs, what is missing, and which claim could follow. */
export function assessArms(input: ArmsInput): ArmsAssessment {
  const built = new Map<string, Configuration>();
  for (const arm of input.arms)
    built.set(
      arm.key,
      afterChanges(
        arm.from === null ? input.present : (built.get(arm.from) ?? input.present),
        arm.changes,
        input.at,
      ),
    );
  const baselineArm = input.arms.find((arm) => arm.role === 'baseline')!;
  const baseline = built.get(baselineArm.key)!;
  const stock = isStock(baseline, input.stock, input.at, input.odometerKm, input.names);
  const listed = (deviations: readonly Deviation[]): string => deviations.map((d) => d.text).join('; ');
  const baselineProblems: ArmProblem[] = [];
  if (stock.stock === 'no')
    baselineProblems.push({
      code: 'BASELINE_NOT_STOCK',
      severity: 'caution',
      text: `The baseline is not stock: ${listed(stock.notStock)}.`,
      mend: 'Put it back to stock, or keep it on purpose: the claim will then say what the part was measured against.',
    });
  if (stock.worn.length > 0)
    baselineProblems.push({
      code: 'BASELINE_WORN',
      severity: 'caution',
      text: `Not fresh: ${listed(stock.worn)}.`,
      mend: 'Renew it before the first pull; a part that renews it would be credited with the difference.',
    });
  if (stock.notRecorded.length > 0)
    baselineProblems.push({
      code: 'BASELINE_NOT_RECORDED',
      severity: 'caution',
      text: `Not known: ${listed(stock.notRecorded)}.`,
      mend: 'Look at the car and write it into its ledger.',
    });

  const parts = input.arms
    .filter((arm) => arm.role === 'part')
    .map((arm): AssessedArm => {
      const configuration = built.get(arm.key)!;
      const differences = configurationDifferences(baseline, configuration, input.names);
      const step =
        arm.from === null
          ? differences
          : configurationDifferences(built.get(arm.from) ?? baseline, configuration, input.names);
      const alike: ArmProblem[] =
        arm.from !== null && step.length === 0 && differences.length > 0
          ? [
              {
                code: 'ARMS_ALIKE',
                severity: 'stop',
                text: 'This stage is the same as the one it builds on.',
                mend: 'Say what it adds, or leave it out.',
              },
            ]
          : [];
      return {
        key: arm.key,
        configuration,
        differences,
        step,
        ...scopeOf(baseline, configuration, input),
        problems: [...alike, ...problemsOf(configuration, baseline, differences, input)],
      };
    });
  return {
    baseline: {
      key: baselineArm.key,
      configuration: baseline,
      differences: [],
      step: [],
      scope: 'nothing',
      scopeText: 'The baseline.',
      problems: [...baselineProblems, ...fitProblems(baseline, input)],
      stock,
    },
    parts,
  };
}

/** Parts of the arm that the baseline does not have in this revision; and those that only have another setting. */
function changedParts(baseline: Configuration, arm: Configuration, input: ArmsInput) {
  const renewed: PartRevision[] = [];
  const reset: PartRevision[] = [];
  const removed: PartCategory[] = [];
  for (const category of new Set([
    ...Object.keys(baseline.parts),
    ...Object.keys(arm.parts),
  ]) as Set<PartCategory>) {
    const [before, after] = [baseline.parts[category], arm.parts[category]];
    if (!after) {
      removed.push(category);
      continue;
    }
    const revision = input.revisions.get(after.partRevisionId);
    if (!revision) continue;
    if (before?.partRevisionId !== after.partRevisionId) renewed.push(revision);
    else if (
      JSON.stringify(Object.entries(before.settings).sort()) !==
      JSON.stringify(Object.entries(after.settings).sort())
    )
      reset.push(revision);
  }
  return { renewed, reset, removed };
}

/** Whose gain would it be? The wording follows what differs, not what was meant. */
function scopeOf(
  baseline: Configuration,
  arm: Configuration,
  input: ArmsInput,
): { scope: ClaimScope; scopeText: string } {
  const { renewed, reset, removed } = changedParts(baseline, arm, input);
  const tuned = baseline.calibrationId !== arm.calibrationId;
  const surroundings =
    (baseline.fuel ?? '') !== (arm.fuel ?? '') ||
    (baseline.tyres ?? '') !== (arm.tyres ?? '') ||
    baseline.otherChanges.join() !== arm.otherChanges.join();
  const changed = renewed.length + reset.length + removed.length;
  if (changed === 0 && !tuned && !surroundings)
    return { scope: 'nothing', scopeText: 'The arms are alike: nothing can be claimed.' };
  const named = renewed.map((r) => r.name).join(' + ');
  // The parts that the others need belong to them; what is left must be one.
  const needed = new Set(renewed.flatMap((r) => r.needs.partIds));
  const own = renewed.filter((r) => !needed.has(r.partId));
  const fuelNeeded =
    renewed.some((r) => r.needs.fuel !== null && arm.fuel !== null && fuelAgrees(r.needs.fuel, arm.fuel)) &&
    (baseline.tyres ?? '') === (arm.tyres ?? '') &&
    baseline.otherChanges.join() === arm.otherChanges.join();
  if (surroundings && !fuelNeeded)
    return {
      scope: 'combination',
      scopeText:
        'More than the part differs: only the combination could be claimed, with everything in it named.',
    };
  if (renewed.length === 0 && removed.length === 0 && reset.length === 0)
    return {
      scope: 'calibration alone',
      scopeText: 'Only the calibration differs: the claim is the calibration’s.',
    };
  if (reset.length === 1 && renewed.length === 0 && removed.length === 0 && !tuned)
    return {
      scope: 'setting of the part',
      scopeText: `Only the setting of the ${reset[0].name.toLowerCase()} differs: the claim is the setting’s.`,
    };
  if (own.length !== 1 || reset.length > 0 || removed.length > 0)
    return {
      scope: 'combination',
      scopeText: `Several things differ (${[named, ...reset.map((r) => `${r.name} reset`), ...removed.map((c) => `${c} back to stock`), ...(tuned ? ['calibration'] : [])].filter(Boolean).join(', ')}): only the combination could be claimed.`,
    };
  if (tuned) {
    return own[0].needs.calibration
      ? {
          scope: 'part with its calibration',
          scopeText: `${own[0].name} needs a calibration: the claim names both together.`,
        }
      : {
          scope: 'combination',
          scopeText: `${own[0].name} and a calibration differ together, and the part does not need one: only the combination could be claimed. A ladder separates them.`,
        };
  }
  if (renewed.length > 1 || (fuelNeeded && surroundings))
    return {
      scope: 'part with what it needs',
      scopeText: `${own[0].name} with what it needs (${[...renewed.filter((r) => r !== own[0]).map((r) => r.name), ...(surroundings ? [arm.fuel!] : [])].join(', ')}): the claim names them.`,
    };
  return {
    scope: 'part alone',
    scopeText: `Only the ${own[0].name.toLowerCase()} differs: the claim may be the part’s own.`,
  };
}

function problemsOf(
  arm: Configuration,
  baseline: Configuration,
  differences: readonly Difference[],
  input: ArmsInput,
): ArmProblem[] {
  const problems: ArmProblem[] = [];
  if (differences.length === 0)
    problems.push({
      code: 'ARMS_ALIKE',
      severity: 'stop',
      text: 'This arm is the same as the baseline.',
      mend: 'Say what is changed in it.',
    });
  problems.push(...fitProblems(arm, input));
  const confounders = differences.filter(
    (d) =>
      d.subject === 'tyres' ||
      d.subject === 'other change' ||
      (d.subject === 'fuel' &&
        !Object.values(arm.parts).some((p) => {
          const need = input.revisions.get(p.partRevisionId)?.needs.fuel;
          return need && arm.fuel && fuelAgrees(need, arm.fuel);
        })),
  );
  if (confounders.length > 0 && differences.length > confounders.length) {
    problems.push({
      code: 'CONFOUNDED',
      severity: 'caution',
      text: `Beside the part also ${confounders.map((d) => `${d.subject} (${d.from} to ${d.to})`).join(', ')} changes.`,
      mend: 'Change it in the baseline too, or claim the combination.',
    });
  }
  if (
    arm.calibrationId !== null &&
    baseline.calibrationId === null &&
    !Object.values(arm.parts).some((p) => input.revisions.get(p.partRevisionId)?.needs.calibration) &&
    differences.some((d) => d.subject !== 'calibration')
  ) {
    problems.push({
      code: 'CONFOUNDED',
      severity: 'caution',
      text: 'A retuned arm is held against an untuned baseline, and no part in it needs the calibration.',
      mend: 'Use the ladder protocol with the calibration as a step of its own.',
    });
  }
  return problems;
}

/** What holds for a configuration by itself: needs met, no conflicts, parts listed for the fitment. */
function fitProblems(configuration: Configuration, input: ArmsInput): ArmProblem[] {
  const problems: ArmProblem[] = [];
  const fitted = Object.values(configuration.parts).flatMap((p) => {
    const r = input.revisions.get(p.partRevisionId);
    return r ? [r] : [];
  });
  const partIds = new Set(fitted.map((r) => r.partId));
  const nameOf = (partId: string): string =>
    [...input.revisions.values()].find((r) => r.partId === partId)?.name ??
    'a part that is not in the register';
  for (const part of fitted) {
    for (const needed of part.needs.partIds)
      if (!partIds.has(needed))
        problems.push({
          code: 'NEEDS_PART',
          severity: 'stop',
          text: `${part.name} needs ${nameOf(needed)}, which is not on the car in this arm.`,
          mend: `Add ${nameOf(needed)} to the arm.`,
        });
    for (const other of part.conflicts)
      if (partIds.has(other))
        problems.push({
          code: 'CONFLICT',
          severity: 'stop',
          text: `${part.name} cannot be fitted together with ${nameOf(other)}.`,
          mend: 'Take one of them out of the arm.',
        });
    if (part.needs.calibration && configuration.calibrationId === null)
      problems.push({
        code: 'NEEDS_CALIBRATION',
        severity: 'stop',
        text: `${part.name} must not be run without a calibration made for it.`,
        mend: 'Choose its calibration in this arm.',
      });
    if (
      part.needs.fuel !== null &&
      configuration.fuel !== null &&
      !fuelAgrees(part.needs.fuel, configuration.fuel)
    )
      problems.push({
        code: 'NEEDS_FUEL',
        severity: 'stop',
        text: `${part.name} needs ${part.needs.fuel}; this arm runs on ${configuration.fuel}.`,
        mend: `Change the fuel of the arm to ${part.needs.fuel}.`,
      });
    if (!input.fits.has(part.partId))
      problems.push({
        code: 'NOT_LISTED_AS_FITTING',
        severity: 'caution',
        text: `The register does not list ${part.name} for this fitment.`,
        mend: 'Check that it fits, and add it to the applications.',
      });
  }
  const calibration =
    configuration.calibrationId === null ? undefined : input.calibrations.get(configuration.calibrationId);
  if (calibration) {
    const have = new Set(Object.values(configuration.parts).map((p) => p.partRevisionId));
    for (const id of calibration.expectsPartRevisionIds)
      if (!have.has(id))
        problems.push({
          code: 'CALIBRATION_EXPECTS_PART',
          severity: 'caution',
          text: `Calibration ${calibration.name} expects ${input.revisions.get(id)?.name ?? 'another part'}, which is not on the car in this arm.`,
          mend: 'Fit it, or choose another calibration.',
        });
    if (
      calibration.fuel !== null &&
      configuration.fuel !== null &&
      !fuelAgrees(calibration.fuel, configuration.fuel)
    )
      problems.push({
        code: 'CALIBRATION_EXPECTS_FUEL',
        severity: 'stop',
        text: `Calibration ${calibration.name} is made for ${calibration.fuel}; this arm runs on ${configuration.fuel}.`,
        mend: `Change the fuel of the arm to ${calibration.fuel}.`,
      });
  }
  return problems;
}

/** Changes a person makes on the car between two arms: parts taken off and put on, for hours and the run sheet. */
export function partsHandled(
  from: Configuration,
  to: Configuration,
): { fitted: string[]; removed: string[] } {
  const fitted: string[] = [];
  const removed: string[] = [];
  for (const category of new Set([
    ...Object.keys(from.parts),
    ...Object.keys(to.parts),
  ]) as Set<PartCategory>) {
    const [a, b] = [from.parts[category], to.parts[category]];
    if (a?.partRevisionId === b?.partRevisionId) continue;
    if (a) removed.push(a.partRevisionId);
    if (b) fitted.push(b.partRevisionId);
  }
  return { fitted, removed };
}
