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
  type LedgerChange,
  type LedgerEntry,
  configurationOn,
} from '../register/ledger.ts';
import type { PartCategory } from '../register/parts.ts';
import { type ArmsInput, type ArmProblem, type AssessedArm, type ArmsAssessment } from './arm-types.ts';
import { problemsOf, fitProblems } from './arm-problems.ts';
import { scopeOf } from './arm-scope.ts';

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

/** What each arm is, built from what is on the vehicle or from the arm before it. */
export function builtArms(
  arms: readonly {
    readonly key: string;
    readonly from: string | null;
    readonly changes: readonly LedgerChange[];
  }[],
  present: Configuration,
  at: string,
): Map<string, Configuration> {
  const built = new Map<string, Configuration>();
  for (const { key, from, changes } of arms) {
    const before = from === null ? present : (built.get(from) ?? present);
    built.set(key, afterChanges(before, changes, at));
  }
  return built;
}

/** Builds every arm and says what differs, what is missing, and which claim could follow. */
// eslint-disable-next-line max-lines-per-function -- one walk along the arms, each built on the one before
export function assessArms(input: ArmsInput): ArmsAssessment {
  const built = builtArms(input.arms, input.present, input.at);
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
