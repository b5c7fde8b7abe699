import { type Configuration, fuelAgrees } from '../register/ledger.ts';
import type { PartCategory, PartRevision } from '../register/parts.ts';
import { type ArmsInput, type ClaimScope } from './arm-types.ts';

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
// eslint-disable-next-line max-lines-per-function -- the table of scopes, case by case
export function scopeOf(
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
  if (own.length !== 1 || reset.length > 0 || removed.length > 0) {
    const differing = [
      named,
      ...reset.map((r) => `${r.name} reset`),
      ...removed.map((c) => `${c} back to stock`),
      tuned ? 'calibration' : '',
    ];
    return {
      scope: 'combination',
      scopeText: `Several things differ (${differing.filter(Boolean).join(', ')}): only the combination could be claimed.`,
    };
  }
  if (tuned) {
    return own[0].needs.calibration
      ? {
          scope: 'part with its calibration',
          scopeText: `${own[0].name} needs a calibration: the claim names both together.`,
        }
      : {
          scope: 'combination',
          scopeText:
            `${own[0].name} and a calibration differ together, and the part does not ` +
            `need one: only the combination could be claimed. A ladder separates them.`,
        };
  }
  if (renewed.length > 1 || (fuelNeeded && surroundings))
    return {
      scope: 'part with what it needs',
      scopeText:
        `${own[0].name} with what it needs ` +
        `(${[...renewed.filter((r) => r !== own[0]).map((r) => r.name), ...(surroundings ? [arm.fuel!] : [])].join(', ')}): ` +
        `the claim names them.`,
    };
  return {
    scope: 'part alone',
    scopeText: `Only the ${own[0].name.toLowerCase()} differs: the claim may be the part’s own.`,
  };
}
