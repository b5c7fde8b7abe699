/** What findings add up to: a grade and a verdict, for an arm and for the whole test. */
import type { SubjectKind } from '../plan/subject.ts';
import type { Finding } from './finding.ts';

/** What of a finding is judged: not its words. */
type Judged = Pick<Finding, 'gate' | 'state' | 'code' | 'arm' | 'answer'>;

export type Grade = 'indicative' | 'single';

/** A finding that keeps a comparison from being published, whatever it shows. */
const bars = (f: Judged): boolean =>
  (f.state === 'fail' && f.gate !== 'effect') || f.code === 'AB_PROVISIONAL';

/**
 * Grade of one vehicle's test: no failing gate and none that a reviewer had to let stand, a design that is claim grade,
 * and a plan known to be locked in time.
 */
export function gradeOf(findings: readonly Judged[]): Grade {
  return findings.some((f) => bars(f) || f.answer?.overrides || f.code === 'PLAN_NOT_STATED')
    ? 'indicative'
    : 'single';
}

const of = (findings: readonly Judged[], arm: string): Judged[] =>
  findings.filter((f) => f.arm === undefined || f.arm === arm);
/** Whether a reviewer let something stand that fails, of an arm or of the whole test. */
export const isOverridden = (findings: readonly Judged[], arm: string): boolean =>
  of(findings, arm).some((f) => f.answer?.overrides);
/** What the grade would be had nothing been overridden. */
export const gradeButForOverrides = (findings: readonly Judged[], arm: string): Grade =>
  gradeOf(of(findings, arm).filter((f) => !f.answer?.overrides));

/** A grade less: what an override costs. */
export const LOWERED = { fleet: 'repeated', repeated: 'single', single: 'indicative' } as const;

export type Verdict =
  | 'claim'
  | 'depends on the option'
  | 'no gain shown'
  | 'loss'
  | 'send back to design'
  | 'needs more pulls'
  | 'not usable';

/** What the findings add up to. A product that loses on average goes back to who designed it. */
export function verdictOf(findings: readonly Judged[], product = false): Verdict {
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
export function outcomeOf(findings: readonly Judged[], arm: string, product = false): Outcome {
  const own = of(findings, arm);
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

/** A verdict as people read it: with what it is about, and what it still asks for. */
export type ShownVerdict = Verdict | 'claim for the combination only' | 'needs a confirming test';
/** Changes of which none is shown to give the gain by itself. */
const TOGETHER_ONLY: ReadonlySet<SubjectKind> = new Set(['combination', 'part with calibration']);

/** @param beyond code of what bars it beyond the session, if anything does */
export function shownVerdict(verdict: Verdict, kind: SubjectKind | undefined, beyond?: string): ShownVerdict {
  if (verdict !== 'claim') return verdict;
  if (beyond === 'BEST_OF_SEVERAL') return 'needs a confirming test';
  return kind !== undefined && TOGETHER_ONLY.has(kind) ? 'claim for the combination only' : verdict;
}
