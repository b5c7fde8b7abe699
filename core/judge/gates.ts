/**
 * Gates: what must hold before a comparison supports a claim. Each finding carries the closed code a
 * program acts on, what was found, why it matters and what would mend it.
 */
import { STANDARD_NAMES, type Standard } from '../base/standards.ts';
import type { AnalysedContrast } from '../compare/contrast-analysis.ts';
import type { CorrectedPull } from '../correct/pull-correction.ts';
import { amendmentsWeigh, type Amendment } from '../plan/amendment.ts';
import { METRIC_NAMES, type Metric } from '../plan/metrics.ts';
import type { Repeatability } from '../register/repeatability.ts';
import type { Policy } from '../base/policy.ts';

export type GateName =
  | 'plan locked'
  | 'design'
  | 'mounting'
  | 'warm-up'
  | 'repeats'
  | 'repeatability'
  | 'factor'
  | 'same sweep'
  | 'effect'
  | 'losses told'
  | 'accounted'
  | 'pull file';
export type GateState = 'pass' | 'caution' | 'fail';

export interface Finding {
  readonly gate: GateName;
  readonly state: GateState;
  readonly code: string;
  /** What was found. */
  readonly message: string;
  readonly why?: string;
  readonly mend?: string;
  /** The contrast (arm) it is about, when there is more than one. */
  readonly arm?: string;
}

/** When the plan was locked, held against the first pull; undefined where a file does not say. */
export interface PlanLock {
  readonly lockedAt: string | null;
  readonly firstPullAt: string | null;
  readonly amendments?: readonly Amendment[] | undefined;
}

const fixed = (value: number, digits: number): string => value.toFixed(digits).replace('-', '−');

export function planGate(lock: PlanLock | undefined): Finding {
  const why = 'A plan made after the first pull can be fitted to the result.';
  if (!lock)
    return {
      gate: 'plan locked',
      state: 'caution',
      code: 'PLAN_NOT_STATED',
      message: 'The file does not say when the plan was locked.',
      why,
      mend: 'State when the plan was locked, and by whom.',
    };
  if (!lock.lockedAt)
    return {
      gate: 'plan locked',
      state: 'fail',
      code: 'PLAN_NOT_LOCKED',
      message: 'The plan is not locked.',
      why,
      mend: 'Lock the plan before the first pull; what was captured before stays indicative.',
    };
  if (lock.firstPullAt && Date.parse(lock.firstPullAt) < Date.parse(lock.lockedAt)) {
    return {
      gate: 'plan locked',
      state: 'fail',
      code: 'PLAN_LOCKED_LATE',
      message: 'The plan was locked after the first pull.',
      why,
      mend: 'The result stays indicative; repeat the test under a locked plan to claim it.',
    };
  }
  const amended = amendmentsWeigh(lock.amendments ?? [], lock.firstPullAt);
  if (amended.state === 'decisive')
    return {
      gate: 'plan locked',
      state: 'fail',
      code: 'AMENDED_LATE',
      message: `After the first pull the plan was amended in what would be claimed (${amended.fields.join(', ')}).`,
      why,
      mend: 'The result stays indicative; repeat the test under the plan as it now is to claim it.',
    };
  if (amended.state === 'told')
    return {
      gate: 'plan locked',
      state: 'caution',
      code: 'AMENDED_AFTER_FIRST_PULL',
      message: `Locked before the first pull, amended after it (${amended.fields.join(', ')}), with the reason on record.`,
      why,
    };
  return {
    gate: 'plan locked',
    state: 'pass',
    code: 'PLAN_LOCKED',
    message: `The plan was locked before the first pull${amended.state === 'before first pull' ? ' and amended before it, with the reason on record' : ''}.`,
    why,
  };
}

export function designGate({ design, result, average }: AnalysedContrast, drift: 'none' | 'linear'): Finding {
  const why = 'The order of the arms decides whether a slow change of car or cell can pass for a gain.';
  const base = { gate: 'design' as const, why };
  if (design.driftConfounded) {
    if (result.pulls && design.remounted)
      return {
        ...base,
        state: 'fail',
        code: 'AB_REMOUNTED',
        message: `${design.label}: the vehicle was strapped down anew and the baseline was not repeated.`,
        mend: 'Return to the baseline (A-B-A) before a claim.',
      };
    if (!design.equalRuns)
      return {
        ...base,
        state: 'fail',
        code: 'AB_UNEQUAL',
        message: `${design.label} with unequal runs (${design.pullsPerRun.join(' and ')} pulls).`,
        mend: 'Run the same number of pulls in every run and return to the baseline.',
      };
    return {
      ...base,
      state: 'caution',
      code: 'AB_PROVISIONAL',
      message: `${design.label} on one mounting: no return to baseline, a drift bound is added. The result is provisional and cannot be published.`,
      mend: 'Add a closing baseline run to make it A-B-A.',
    };
  }
  if (!design.equalRuns) {
    const warmed = design.warmUpsPerRun.every((w) => w === design.warmUpsPerRun[0] && w >= 2);
    return {
      ...base,
      state: warmed ? 'caution' : 'fail',
      code: 'UNEQUAL_RUNS',
      message: `Runs of unequal length (${design.pullsPerRun.join(', ')} counted pulls)${warmed ? ', each after the same warm-up' : ' without equal warm-up'}.`,
      mend: 'Repeat the missing pulls so that every run has the same number.',
    };
  }
  if (design.kind === 'alternating' && drift === 'none' && !design.returnsToStart) {
    return {
      ...base,
      state: 'caution',
      code: 'ALTERNATING_WITHOUT_DRIFT_TERM',
      message: `${design.label} analysed without a drift term: a steady drift leaves a small bias.`,
      mend: 'Analyse with the linear drift term.',
    };
  }
  return {
    ...base,
    state: 'pass',
    code: 'DESIGN_SUPPORTS_CLAIM',
    message: `${design.label}, ${design.pullsPerRun[0]} counted pulls in every run: a steady drift cancels${average.parts.some((part) => part.source === 'drift' && part.variance > 0) ? ' but for what the drift bound covers, because the part was run off the centre of its bracket' : ''}.`,
  };
}

export function mountingGate(contrast: AnalysedContrast, repeatability: Repeatability): Finding {
  const base = {
    gate: 'mounting' as const,
    why: 'Strapping a car down again moves the reading by about as much as a small part gives.',
  };
  const { design, returned, result } = contrast;
  if (!design.remounted)
    return returned && Math.abs(returned.difference) > returned.limit
      ? {
          ...base,
          state: 'caution',
          code: 'BASELINE_DID_NOT_RETURN',
          message: `One mounting, but the closing baseline lies ${fixed(returned.difference, 2)} % from the first; ${returned.limit.toFixed(2)} % would be scatter.`,
          mend: 'Look for heat soak, adaptation or a change to the car between the runs.',
        }
      : { ...base, state: 'pass', code: 'ONE_MOUNT', message: 'All pulls on one mounting.' };
  if (result.rule === 'mounting means')
    return {
      ...base,
      state: 'caution',
      code: 'MOUNTINGS_AS_UNITS',
      message: 'No registered mount variance: each mounting counts as one value.',
      mend: 'Register the dyno’s mount variance with a control vehicle.',
    };
  if (!repeatability.mount)
    return {
      ...base,
      state: 'pass',
      code: 'MOUNTS_BALANCED',
      message: 'Both arms share every mounting evenly.',
    };
  if (!returned)
    return {
      ...base,
      state: 'fail',
      code: 'REMOUNTED_WITHOUT_RETURN',
      message: 'Re-mounted between the arms without a return to baseline.',
      mend: 'Return to the baseline.',
    };
  if (Math.abs(returned.difference) > returned.limit)
    return {
      ...base,
      state: 'caution',
      code: 'BASELINE_DID_NOT_RETURN',
      message: `The closing baseline lies ${fixed(returned.difference, 2)} % from the first; scatter and re-mounting explain ${returned.limit.toFixed(2)} %.`,
      mend: 'Look for what changed on the car between the runs before you trust the gain.',
    };
  return {
    ...base,
    state: 'pass',
    code: 'REMOUNTED_REGISTERED',
    message: `Re-mounted; the registered mount variance (SD ${Math.sqrt(repeatability.mount.variance).toFixed(2)} %) is in the interval and the baseline returned.`,
  };
}

export function warmUpGate({ design }: AnalysedContrast, policy: Policy): Finding {
  const base = {
    gate: 'warm-up' as const,
    why: 'The first pulls after a start or a swap still adapt; only equal warm-up in every run cancels it.',
  };
  const counts = design.warmUpsPerRun;
  const least = Math.min(...counts);
  if (counts.some((w) => w !== counts[0]))
    return {
      ...base,
      state: 'fail',
      code: 'WARM_UP_UNEQUAL',
      message: `Warm-up pulls before the runs: ${counts.join(', ')}. They must be equal.`,
      mend: `Run ${policy.warmUpPulls} uncounted pulls before every run.`,
    };
  if (least === 0)
    return {
      ...base,
      state: 'fail',
      code: 'WARM_UP_NONE',
      message: 'No warm-up pulls are on the run sheet.',
      mend: `Run ${policy.warmUpPulls} uncounted pulls before every run.`,
    };
  if (least < policy.warmUpPulls)
    return {
      ...base,
      state: least === policy.warmUpPulls - 1 ? 'caution' : 'fail',
      code: 'WARM_UP_SHORT',
      message: `${least} uncounted ${least === 1 ? 'pull' : 'pulls'} before every run; policy asks for ${policy.warmUpPulls}.`,
      mend: `Run ${policy.warmUpPulls}, or show from this dyno’s own history that fewer are enough.`,
    };
  return {
    ...base,
    state: 'pass',
    code: 'WARM_UP_EQUAL',
    message: `${least} uncounted pulls before every run.`,
  };
}

export function repeatsGate({ design }: AnalysedContrast, policy: Policy): Finding {
  const base = { gate: 'repeats' as const, why: 'Without repeats nobody can tell a gain from scatter.' };
  const least = Math.min(...design.pullsPerRun);
  if (least >= policy.pullsPerRun)
    return {
      ...base,
      state: 'pass',
      code: 'REPEATS_ENOUGH',
      message: `${least} counted pulls or more in every run.`,
    };
  return {
    ...base,
    state: least === 2 ? 'caution' : 'fail',
    code: 'REPEATS_FEW',
    message: `A run has ${least} counted ${least === 1 ? 'pull' : 'pulls'}; policy asks for ${policy.pullsPerRun}.`,
    mend: 'Repeat the missing pulls.',
  };
}

export function repeatabilityGate(
  { average }: AnalysedContrast,
  repeatability: Repeatability,
  policy: Policy,
): Finding {
  const base = {
    gate: 'repeatability' as const,
    why: 'A car or cell that scatters more than usual has something wrong with it.',
  };
  const sd = Math.sqrt(average.s2);
  const history = repeatability.bandAverage ? Math.sqrt(repeatability.bandAverage.variance) : undefined;
  const found = `Pull-to-pull SD of the band average ${sd.toFixed(2)} %`;
  if (sd > policy.scatter.mostPct)
    return {
      ...base,
      state: 'fail',
      code: 'SCATTER_TOO_HIGH',
      message: `${found}, above ${policy.scatter.mostPct} %.`,
      mend: 'Find the cause (slip, heat, boost leak, fuel) and repeat.',
    };
  if (history === undefined)
    return {
      ...base,
      state: 'caution',
      code: average.floored ? 'SCATTER_TOO_LOW' : 'NO_HISTORY',
      message: `${found}; this dyno has no registered history to hold it against.`,
      mend: 'Register the dyno’s repeatability.',
    };
  const usual = `this dyno’s history has ${history.toFixed(2)} %`;
  if (sd > policy.scatter.cautionTimes * history)
    return {
      ...base,
      state: 'fail',
      code: 'SCATTER_ABOVE_HISTORY',
      message: `${found}; ${usual}.`,
      mend: 'Find the cause and repeat the run.',
    };
  if (average.floored)
    return {
      ...base,
      state: 'caution',
      code: 'SCATTER_TOO_LOW',
      message: `${found} is too small to be believed; a floor of 0.05 % is used.`,
      mend: 'Check that the pulls are separate recordings.',
    };
  if (sd > history)
    return { ...base, state: 'caution', code: 'SCATTER_SOMEWHAT_HIGH', message: `${found}; ${usual}.` };
  return { ...base, state: 'pass', code: 'SCATTER_AS_USUAL', message: `${found}; ${usual}.` };
}

export function factorGate(
  byArm: ReadonlyMap<string, readonly CorrectedPull[]>,
  standard: Standard,
  policy: Policy,
): Finding {
  const base = {
    gate: 'factor' as const,
    why: 'A large correction carries a large error, and a different one per arm looks like a gain.',
  };
  const name = STANDARD_NAMES[standard];
  const remarks = [...byArm.values()].flat().flatMap((pull) => pull.factor.remarks);
  const outside = remarks.find((remark) => remark.code !== 'FUEL_RATE_UNKNOWN');
  if (outside)
    return {
      ...base,
      state: 'fail',
      code: outside.code,
      message: outside.message,
      mend: 'Repeat the pull in air the standard allows, or choose a standard that covers it.',
    };
  const means = [...byArm.values()].map(
    (list) => list.reduce((sum, pull) => sum + pull.factor.factor, 0) / list.length,
  );
  const apart = Math.max(...means) / Math.min(...means) - 1;
  const range = `Factors by ${name} ${Math.min(...means).toFixed(4)} to ${Math.max(...means).toFixed(4)} (arms’ means)`;
  if (apart > policy.factorArms.caution)
    return {
      ...base,
      state: 'fail',
      code: 'FACTORS_APART',
      message: `${range}: ${(100 * apart).toFixed(1)} % apart.`,
      mend: 'Run both arms in the same air.',
    };
  if (apart > policy.factorArms.pass)
    return {
      ...base,
      state: 'caution',
      code: 'FACTORS_SOMEWHAT_APART',
      message: `${range}: ${(100 * apart).toFixed(1)} % apart.`,
      mend: 'Run both arms in the same air.',
    };
  const unknownFuel = remarks.find((remark) => remark.code === 'FUEL_RATE_UNKNOWN');
  if (unknownFuel)
    return {
      ...base,
      state: 'caution',
      code: unknownFuel.code,
      message: unknownFuel.message,
      mend: 'Log fuel flow, or enter fuel per litre and cycle.',
    };
  return { ...base, state: 'pass', code: 'FACTORS_AGREE', message: `${range}.` };
}

export function sweepGate(
  { common }: AnalysedContrast,
  grid: readonly number[],
  corrected: readonly CorrectedPull[],
  policy: Policy,
): Finding {
  const base = {
    gate: 'same sweep' as const,
    why: 'A pull begun earlier, or ramped faster, reads differently at the same rpm.',
  };
  const lost = 1 - common.rpm.length / grid.length;
  const kept = `${common.rpm[0]} to ${common.rpm.at(-1)} rpm`;
  if (lost > policy.trimmedShare)
    return {
      ...base,
      state: 'caution',
      code: 'RANGE_LOST',
      message: `Trimmed to ${kept}, which every pull covers; ${(100 * lost).toFixed(0)} % of the band is lost.`,
      mend: 'Repeat the short pulls to get the whole band.',
    };
  if (lost > 0)
    return {
      ...base,
      state: 'caution',
      code: 'TRIMMED',
      message: `Trimmed to ${kept}, which every pull covers.`,
    };
  const rates = corrected.map((pull) => pull.sweep.rampRpmPerS).filter(Number.isFinite);
  if (rates.length > 0 && Math.max(...rates) / Math.min(...rates) - 1 > policy.rampSpread) {
    return {
      ...base,
      state: 'caution',
      code: 'RAMP_RATES_DIFFER',
      message: `Ramp rates from ${Math.min(...rates).toFixed(0)} to ${Math.max(...rates).toFixed(0)} rpm/s.`,
      mend: 'Use one ramp setting for the whole test.',
    };
  }
  return {
    ...base,
    state: 'pass',
    code: 'SAME_SWEEP',
    message: `Every pull covers ${kept}${rates.length ? ', at like ramp rates' : ''}.`,
  };
}

/** One-sided lower limit of the metric named, in per cent. */
export function metricLimits({ result }: AnalysedContrast, metric: Metric): { lower: number; upper: number } {
  switch (metric) {
    case 'upTo':
      return {
        lower: result.relative.upTo.gain,
        upper: Math.max(...result.relative.curve.map((point) => point.upper)),
      };
    case 'bandAverage':
      return result.relative.bandAverage;
    case 'peakToPeak':
      return { lower: result.power.peakToPeak.lowerPct, upper: result.power.peakToPeak.upperPct };
  }
}

/** Holds where any metric the plan names shows a gain: each has paid for their number. */
export function effectGate(contrast: AnalysedContrast, metrics: readonly Metric[]): Finding {
  const base = { gate: 'effect' as const, why: 'A gain that the pulls do not show cannot be claimed.' };
  const found = metrics.map((metric) => ({ name: METRIC_NAMES[metric], ...metricLimits(contrast, metric) }));
  const shown = found.filter(({ lower }) => lower > 0);
  if (shown.length > 0)
    return {
      ...base,
      state: 'pass',
      code: 'GAIN_SHOWN',
      message: `A gain is shown (${shown.map(({ name, lower }) => `${name}: at least ${lower.toFixed(1)} %`).join('; ')}).`,
    };
  const names = found.map(({ name }) => name).join('; ');
  if (found.every(({ upper }) => upper < 0))
    return {
      ...base,
      state: 'fail',
      code: 'LOSS_SHOWN',
      message: `A loss is shown (${names}).`,
      mend: 'Publish as advice, or send back to design.',
    };
  return {
    ...base,
    state: 'fail',
    code: 'NO_GAIN_SHOWN',
    message: `No gain shown (${names}); the data still allow up to ${Math.max(0, ...found.map(({ upper }) => upper)).toFixed(1)} %.`,
    mend: 'Publish as “no gain shown”, or repeat with more pulls if a smaller gain matters.',
  };
}

export function lossesGate({ result }: AnalysedContrast, disclosed: boolean): Finding {
  const base = { gate: 'losses told' as const, why: 'Whoever drives in the lost range must know.' };
  const { losses } = result.relative;
  if (losses.length === 0)
    return {
      ...base,
      state: 'pass',
      code: 'NO_PROVEN_LOSS',
      message: 'No proven loss anywhere in the band.',
    };
  const text = losses
    .map((loss) => `${fixed(loss.gain, 1)} % near ${loss.rpm} rpm (${loss.fromRpm} to ${loss.toRpm} rpm)`)
    .join('; ');
  return disclosed
    ? { ...base, state: 'pass', code: 'LOSS_DISCLOSED', message: `Proven loss, disclosed: ${text}.` }
    : {
        ...base,
        state: 'caution',
        code: 'LOSS_TO_DISCLOSE',
        message: `Proven loss: ${text}. It goes with every claim from this test.`,
        mend: 'The claim carries the disclosure; nobody can take it off.',
      };
}

export type Grade = 'indicative' | 'single';

/** A finding that keeps a comparison from being published, whatever it shows. */
const bars = (f: Finding): boolean =>
  (f.state === 'fail' && f.gate !== 'effect') || f.code === 'AB_PROVISIONAL';

/** Grade of one vehicle's test: no failing gate, a design that is claim grade, and a plan known to be locked in time. */
export function gradeOf(findings: readonly Finding[]): Grade {
  return findings.some((f) => bars(f) || f.code === 'PLAN_NOT_STATED') ? 'indicative' : 'single';
}

export type Verdict = 'claim' | 'no gain shown' | 'loss' | 'needs more pulls' | 'not usable';

/** What the findings add up to. */
export function verdictOf(findings: readonly Finding[]): Verdict {
  const code = (c: string): boolean => findings.some((f) => f.code === c);
  if (findings.some(bars))
    return findings.some((f) => f.gate === 'repeats' && f.state === 'fail') || code('AB_PROVISIONAL')
      ? 'needs more pulls'
      : 'not usable';
  if (code('LOSS_SHOWN')) return 'loss';
  return code('NO_GAIN_SHOWN') ? 'no gain shown' : 'claim';
}

export interface Outcome {
  readonly grade: Grade;
  readonly verdict: Verdict;
}
/** What the findings add up to for one arm: its own, and those that are about the whole test. */
export function outcomeOf(findings: readonly Finding[], arm: string): Outcome {
  const own = findings.filter((f) => f.arm === undefined || f.arm === arm);
  return { grade: gradeOf(own), verdict: verdictOf(own) };
}
const BEST_FIRST: readonly Verdict[] = ['claim', 'no gain shown', 'loss', 'needs more pulls', 'not usable'];
/** The outcome that stands for a test of several arms: the furthest any of them came. */
export const outcome = (arms: readonly Outcome[]): Outcome =>
  [...arms].sort(
    (a, b) =>
      BEST_FIRST.indexOf(a.verdict) - BEST_FIRST.indexOf(b.verdict) ||
      (a.grade === b.grade ? 0 : a.grade === 'single' ? -1 : 1),
  )[0];
