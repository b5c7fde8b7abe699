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
import { shownGain, shownUpper } from '../base/rounding.ts';
import { fUpper } from '../base/distributions.ts';
import type { ContrastResult } from '../compare/contrast-analysis.ts';

export type GateName =
  | 'plan locked'
  | 'design'
  | 'mounting'
  | 'warm-up'
  | 'repeats'
  | 'scatter of the arms'
  | 'repeatability'
  | 'factor'
  | 'same sweep'
  | 'effect'
  | 'losses told'
  | 'accounted'
  | 'plausible'
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
  const low = average.flags.includes('SCATTER_TOO_LOW');
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
      code: low ? 'SCATTER_TOO_LOW' : 'NO_HISTORY',
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
  const below = fUpper(
    repeatability.bandAverage!.variance / Math.max(average.s2, 1e-12),
    repeatability.bandAverage!.df,
    average.split.nu,
  );
  if (below < policy.scatter.tooLowChance)
    return {
      ...base,
      state: 'fail',
      code: 'SCATTER_FAR_BELOW_HISTORY',
      message: `${found}; ${usual}. So little is to be expected in fewer than one of ${Math.round(1 / policy.scatter.tooLowChance)} sessions.`,
      why: 'Pulls that agree better than the dyno can are often copies, or smoothed before they came here, and make a gain look surer than it is.',
      mend: 'Check that the pulls are separate recordings as they came from the logger.',
    };
  if (low)
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
  if (standard === 'none') return uncorrectedGate(byArm, policy);
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

/** Without correction nothing takes the air out: the arms must have had the same, judged by what SAE J1349 would say of it. */
function uncorrectedGate(byArm: ReadonlyMap<string, readonly CorrectedPull[]>, policy: Policy): Finding {
  const means = [...byArm.values()].map(
    (list) => list.reduce((sum, pull) => sum + pull.airFactor, 0) / list.length,
  );
  const apart = Math.max(...means) / Math.min(...means) - 1;
  const base = {
    gate: 'factor' as const,
    why: 'What is not corrected for air carries the difference of the air as if it were the part’s.',
  };
  const message = `Not corrected for air; the arms’ air differs by ${(100 * apart).toFixed(1)} % (${STANDARD_NAMES['sae-j1349']}).`;
  const mend = 'Choose a correction standard, or run both arms in the same air.';
  if (apart > policy.factorArms.caution)
    return { ...base, state: 'fail', code: 'UNCORRECTED_AIR_APART', message, mend };
  if (apart > policy.factorArms.pass)
    return { ...base, state: 'caution', code: 'UNCORRECTED_AIR_SOMEWHAT_APART', message, mend };
  return { ...base, state: 'pass', code: 'UNCORRECTED_SAME_AIR', message };
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

/** One-sided lower limit of the metric named, in per cent; none where a peak lies at the edge of the window and is no peak. */
export function metricLimits(
  result: ContrastResult,
  metric: Metric,
): { lower: number; upper: number } | null {
  switch (metric) {
    case 'upTo':
      return {
        lower: result.relative.upTo.gain,
        upper: Math.max(...result.relative.curve.map((point) => point.upper)),
      };
    case 'bandAverage':
      return result.relative.bandAverage;
    case 'peakToPeak':
      return result.power.peakToPeak.atEdge
        ? null
        : { lower: result.power.peakToPeak.lowerPct, upper: result.power.peakToPeak.upperPct };
  }
}

/** The limits that hold with and without excluded pulls: the smaller lower one, the larger upper one. */
function limitsOfBoth(results: readonly ContrastResult[], metric: Metric) {
  const limits = results.map((result) => metricLimits(result, metric));
  return limits.every((l) => l !== null)
    ? { lower: Math.min(...limits.map((l) => l.lower)), upper: Math.max(...limits.map((l) => l.upper)) }
    : null;
}

/**
 * Holds where any metric the plan names shows a gain: each has paid for their number.
 * @param results the contrast, and the same with excluded pulls put back where there are any
 */
export function effectGate(results: readonly ContrastResult[], metrics: readonly Metric[]): Finding {
  const base = { gate: 'effect' as const, why: 'A gain that the pulls do not show cannot be claimed.' };
  const found = metrics.flatMap((metric) => {
    const limits = limitsOfBoth(results, metric);
    return limits ? [{ name: METRIC_NAMES[metric], ...limits }] : [];
  });
  if (found.length === 0)
    return {
      ...base,
      state: 'fail',
      code: 'PEAK_AT_EDGE',
      message:
        'The largest power lies at the edge of the window: the peak itself was not reached, so peaks cannot be compared.',
      mend: 'Hold the pull to the rev limit and widen the window, or plan another metric.',
    };
  const shown = found.filter(({ lower }) => lower > 0);
  if (shown.length > 0)
    return {
      ...base,
      state: 'pass',
      code: 'GAIN_SHOWN',
      message: `A gain is shown (${shown.map(({ name, lower }) => `${name}: at least ${shownGain(lower)} %`).join('; ')}).`,
    };
  const names = found.map(({ name }) => name).join('; ');
  const average = limitsOfBoth(results, 'bandAverage')!;
  const loses = results.every((result) => result.relative.losses.length > 0);
  if (found.every(({ upper }) => upper < 0) || average.upper < 0 || loses)
    return {
      ...base,
      state: 'fail',
      code: average.upper < 0 ? 'LOSS_ON_AVERAGE' : 'LOSS_SHOWN',
      message:
        average.upper < 0
          ? `A loss is shown: at least ${shownUpper(average.upper)} % on average over the band.`
          : `No gain is shown (${names}), and a loss is proven in part of the band.`,
      mend: 'Publish as advice, or send back to design.',
    };
  return {
    ...base,
    state: 'fail',
    code: 'NO_GAIN_SHOWN',
    message: `No gain shown (${names}); the data still allow up to ${shownUpper(Math.max(0, ...found.map(({ upper }) => upper)))} %.`,
    mend: 'Publish as advice (“no gain shown”), or repeat with more pulls if a smaller gain matters.',
  };
}

/** @param results the contrast, and the same with excluded pulls put back: a loss proven in either is told */
export function lossesGate(results: readonly ContrastResult[]): Finding {
  const base = { gate: 'losses told' as const, why: 'Whoever drives in the lost range must know.' };
  const losses = results.flatMap((result) => result.relative.losses);
  if (losses.length === 0)
    return {
      ...base,
      state: 'pass',
      code: 'NO_PROVEN_LOSS',
      message: 'No proven loss anywhere in the band.',
    };
  const text = losses
    .map((loss) => `${shownGain(loss.gain)} % near ${loss.rpm} rpm (${loss.fromRpm} to ${loss.toRpm} rpm)`)
    .join('; ');
  return {
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

export type Verdict =
  | 'claim'
  | 'depends on the option'
  | 'no gain shown'
  | 'loss'
  | 'send back to design'
  | 'needs more pulls'
  | 'not usable';

/** What the findings add up to. A product that loses on average goes back to who designed it. */
export function verdictOf(findings: readonly Finding[], product = false): Verdict {
  const code = (c: string): boolean => findings.some((f) => f.code === c);
  if (findings.some(bars))
    return findings.some((f) => f.gate === 'repeats' && f.state === 'fail') || code('AB_PROVISIONAL')
      ? 'needs more pulls'
      : 'not usable';
  if (code('LOSS_ON_AVERAGE')) return product ? 'send back to design' : 'loss';
  if (code('LOSS_SHOWN')) return 'loss';
  return code('NO_GAIN_SHOWN') || code('PEAK_AT_EDGE') ? 'no gain shown' : 'claim';
}

export interface Outcome {
  readonly grade: Grade;
  readonly verdict: Verdict;
}
/** What the findings add up to for one arm: its own, and those that are about the whole test. */
export function outcomeOf(findings: readonly Finding[], arm: string, product = false): Outcome {
  const own = findings.filter((f) => f.arm === undefined || f.arm === arm);
  return { grade: gradeOf(own), verdict: verdictOf(own, product) };
}
const BEST_FIRST: readonly Verdict[] = [
  'claim',
  'depends on the option',
  'no gain shown',
  'loss',
  'send back to design',
  'needs more pulls',
  'not usable',
];
/** An arm's outcome with the product it is of; arms of one product differ in their settings. */
export interface ArmOutcome extends Outcome {
  readonly product?: string | undefined;
}
/**
 * The outcome that stands for a test of several arms: the furthest any of them came. Where settings of one product
 * come out differently, it depends on the option.
 */
export function outcome(arms: readonly ArmOutcome[]): Outcome {
  const [best] = [...arms].sort(
    (a, b) =>
      BEST_FIRST.indexOf(a.verdict) - BEST_FIRST.indexOf(b.verdict) ||
      (a.grade === b.grade ? 0 : a.grade === 'single' ? -1 : 1),
  );
  const unsettled = new Set<Verdict>(['needs more pulls', 'not usable']);
  const depends =
    best.verdict === 'claim' &&
    arms.some(
      (a) =>
        a.product !== undefined &&
        a.verdict !== 'claim' &&
        !unsettled.has(a.verdict) &&
        arms.some((b) => b.product === a.product && b.verdict === 'claim'),
    );
  return { grade: best.grade, verdict: depends ? 'depends on the option' : best.verdict };
}
