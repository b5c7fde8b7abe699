import { type Configuration, type Difference, fuelAgrees } from '../register/ledger.ts';
import { type ArmsInput, type ArmProblem } from './arm-types.ts';

export function problemsOf(
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
// eslint-disable-next-line max-lines-per-function -- a list of checks, each a few lines and apart from the others
export function fitProblems(configuration: Configuration, input: ArmsInput): ArmProblem[] {
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
          text:
            `Calibration ${calibration.name} expects ` +
            `${input.revisions.get(id)?.name ?? 'another part'}, which is not on the car in this arm.`,
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
