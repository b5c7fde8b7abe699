import { inArray } from 'drizzle-orm';
import type { Claim } from '../../contract/publish/claim.ts';
import { amendmentsWeigh } from '../../core/plan/amendment.ts';
import type { Finding } from '../../core/judge/finding.ts';
import { rulesOf, type Policy } from '../../core/base/policy.ts';
import { gradeButForOverrides, isOverridden, LOWERED, outcomeOf } from '../../core/judge/verdict.ts';
import {
  adviceText,
  claimText,
  isBasis,
  type ClaimFacts,
  type ClaimOutcome,
  type ClaimText,
} from '../../core/publish/claim.ts';
import { saidOverTests, type OverTests } from '../../core/publish/over-tests.ts';
import type { Queryable } from '../base/db.ts';
import { findingsBeside } from '../judge/beside.ts';
import { everyTest, type Every } from '../judge/every-test.ts';
import type { Inputs } from '../judge/inputs.ts';
import type { AnalysisRow } from '../judge/service.ts';
import type { ArmRow } from '../plan/arms.ts';
import { partRevisions } from '../register/tables.ts';
import { claimFacts, type OptionsOf } from './claim-facts.ts';

/** Options of every revision that the arms put on the car. */
export async function optionsOf(tx: Queryable, arms: readonly ArmRow[]): Promise<OptionsOf> {
  const ids = [
    ...new Set(
      arms.flatMap((arm) => [
        ...(arm.partRevisionId ? [arm.partRevisionId] : []),
        ...arm.changes.flatMap((c) => (c.kind === 'part fitted' ? [c.partRevisionId] : [])),
      ]),
    ),
  ];
  if (ids.length === 0) return new Map();
  const rows = await tx
    .select({ id: partRevisions.id, options: partRevisions.options })
    .from(partRevisions)
    .where(inArray(partRevisions.id, ids));
  return new Map(rows.map((row) => [row.id, row.options]));
}

export interface Wording {
  readonly facts: ClaimFacts;
  readonly text: ClaimOutcome;
  readonly verdict: string;
  readonly grade: string;
  /** What bars it although the session itself bears it: the car on the day. */
  readonly barred: Finding | undefined;
  /** A reviewer let something stand that fails in this test. */ readonly overridden: boolean;
}

/** What a claim of an arm has to tell of beyond its session, whatever it is about. */
interface Around {
  readonly facts: ClaimFacts;
  readonly every: Every;
  readonly beside: Finding[];
}
/** Of each arm; kept while the claims of one test are gone through, so that it is read once for all of them. */
export type Arounds = Map<string, Promise<Around>>;

async function around(tx: Queryable, inputs: Inputs, arm: ArmRow): Promise<Around> {
  const { row, arms } = inputs;
  const facts = claimFacts(row, arms, arm, await optionsOf(tx, arms));
  const every = await everyTest(tx, row.test, arm.key);
  return { facts, every, beside: await findingsBeside(tx, inputs, arm.key, every) };
}

/** A draft is worded as policy has it; a claim by its lower limit stays one where policy would allow the mean. */
const rulesFor = (policy: Policy, said: Claim['says'] | undefined) => {
  const rules = rulesOf(policy);
  return said === 'lower limit' ? { ...rules, says: said } : rules;
};

/**
 * What an analysis lets be said of an arm: the words, the number and what goes with it, all from the core.
 * @param claim what is to be said; `says` where it is a claim that has been drafted
 */
export async function wordingOf(
  tx: Queryable,
  inputs: Inputs,
  analysis: AnalysisRow,
  arm: ArmRow,
  { metric, unit, tells, says }: Pick<Claim, 'metric' | 'unit' | 'tells'> & Partial<Pick<Claim, 'says'>>,
  known: Arounds = new Map(),
): Promise<Wording> {
  const { row, definition } = inputs;
  if (!known.has(arm.key)) known.set(arm.key, around(tx, inputs, arm));
  const { facts: named, every, beside } = await known.get(arm.key)!;
  const facts = { ...named, rules: rulesFor(inputs.policy, says) };
  const product = definition.arms.find((a) => a.id === arm.key)?.product !== undefined;
  const said =
    tells === 'advice'
      ? adviceText(analysis.result, unit, facts, arm.key)
      : claimText(analysis.result, metric, unit, facts, arm.key);
  const over = overTests(every, row.test, analysis);
  const { text: overall, grade: raised } = saidOverTests(
    said,
    analysis.result,
    facts,
    { tells, metric, unit, arm: arm.key },
    over,
  );
  const amended = amendmentsWeigh(definition.plan?.amendments ?? [], definition.plan?.firstPullAt ?? null);
  const told = [
    ...(amended.state === 'told'
      ? [
          `The plan was amended after the first pull (${amended.fields.join(', ')}), with the reason on record.`,
        ]
      : []),
    ...beside.flatMap((f) => TOLD_OF_THE_CAR[f.code]?.(f) ?? []),
  ];
  const text: ClaimOutcome = overall.ok
    ? { ok: true, value: { ...overall.value, disclosures: [...overall.value.disclosures, ...told] } }
    : overall;
  const { findings } = analysis.result;
  const own = outcomeOf(findings, arm.key, product);
  const grade = gradeOver(findings, arm.key, raised, over);
  const barred =
    grade === 'indicative'
      ? undefined
      : (beside.find(barsByTheCar) ??
        (tells === 'gain' && own.verdict === 'claim' ? beside.find(barsThePicked) : undefined));
  return {
    facts,
    text,
    barred,
    overridden: isOverridden(findings, arm.key),
    verdict: !barred ? own.verdict : barsThePicked(barred) ? 'needs a confirming test' : 'not usable',
    grade: barred ? 'indicative' : grade,
  };
}

/** The grade over all tests that count: one less where a reviewer had to let something stand in one of them. */
function gradeOver(
  findings: readonly Finding[],
  arm: string,
  raised: 'repeated' | 'fleet' | null,
  { counted }: OverTests,
): string {
  if (gradeButForOverrides(findings, arm) === 'indicative') return 'indicative';
  const costs =
    isOverridden(findings, arm) ||
    (raised !== null && counted.some((one) => isOverridden(one.result.findings, one.arm)));
  return costs ? LOWERED[raised ?? 'single'] : (raised ?? 'single');
}

/** Of the car on the day: what the reader of a claim is told. */
const TOLD_OF_THE_CAR: Readonly<Record<string, (found: Finding) => string>> = {
  BASELINE_WORN: ({ message }) => message,
  // Without its number: another baseline that comes later moves it and says nothing new.
  BASELINE_OFF_OTHERS: () => 'The baseline lay more than 5 % off other baselines of this fitment.',
};
/** Other tests of the part decide by what they read, not as a gate. */
const barsByTheCar = ({ gate, state }: Finding): boolean => gate === 'true baseline' && state === 'fail';
/** A gain of the best of several settings waits for its own test; that there is none does not. */
const barsThePicked = ({ code }: Finding): boolean => code === 'BEST_OF_SEVERAL';

/** The other tests of the part as a claim has to tell of them: all there are, whoever looks. */
function overTests(every: Every, test: Inputs['row']['test'], { id }: AnalysisRow): OverTests {
  const counted = every.used.filter((one) => one.testId !== test.id);
  const isCurrent = test.currentAnalysisId === id;
  return {
    others: every.others,
    unfinished: every.unfinished,
    kin: every.kin,
    together: isCurrent ? every.together : null,
    counted: counted.map(({ number, arm, result }) => ({ number, arm, result })),
  };
}

/** Whether a claim still says at most what an analysis supports: no larger a number, nothing left untold. */
export function stillHolds(claim: Claim, { text, verdict, grade, facts }: Wording): boolean {
  if (!text.ok || facts.subject.text !== claim.subject || grade === 'indicative') return false;
  const told = new Set(claim.disclosures);
  if (!text.value.disclosures.every((d) => told.has(d))) return false;
  // The same number under another correction is another number.
  const basis = text.value.conditions.find(isBasis);
  if (basis !== undefined && !claim.conditions.includes(basis)) return false;
  return claim.tells === 'gain'
    ? (verdict === 'claim' || verdict === 'depends on the option') && saysAtMost(claim, text.value)
    : text.value.wording === claim.wording;
}

/** A mean is not held against a lower limit; with its range neither end may lie above what is supported now. */
function saysAtMost(claim: Claim, now: ClaimText): boolean {
  if (claim.says !== now.says || now.value < claim.value) return false;
  if (claim.says === 'lower limit') return true;
  const [then, found] = [claim.interval, now.interval];
  return then !== null && found !== null && then.lower <= found.lower && then.upper <= found.upper;
}
