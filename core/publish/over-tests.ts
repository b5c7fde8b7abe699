/** A claim over all finished tests of the same change: it says at most what the least of them says, or all together. */
import { signedGain, signedUpper, type ClaimUnit } from '../base/rounding.ts';
import { pctFromLp } from '../base/units.ts';
import type { Interval } from '../compare/result.ts';
import type { TestResult } from '../judge/analyse-test.ts';
import { supported, tellsAgainst, type EveryTest } from '../judge/every-test.ts';
import { otherTestWords } from '../judge/other-test-words.ts';
import type { Synthesis } from '../judge/synthesis.ts';
import { inPercent, type Together } from '../judge/together.ts';
import type { Metric } from '../plan/metrics.ts';
import {
  adviceText,
  averageOverTests,
  claimText,
  contrastsOf,
  isVehicle,
  lossTexts,
  type ClaimFacts,
  type ClaimOutcome,
} from './claim.ts';

/** A test that is put together with the one that is claimed. */
export interface CountedTest {
  readonly number: number;
  readonly arm: string;
  readonly result: TestResult;
}
export interface OverTests extends EveryTest {
  readonly counted: readonly CountedTest[];
}
export interface Claimed {
  readonly tells: 'gain' | 'advice';
  readonly metric: Metric;
  readonly unit: ClaimUnit;
  readonly arm: string;
}
/** What is said over several tests, with the grade that the number then has; `said` is what this test says alone. */
export interface SaidOverTests {
  readonly text: ClaimOutcome;
  readonly grade: 'repeated' | 'fleet' | null;
}

export function saidOverTests(
  said: ClaimOutcome,
  result: TestResult,
  facts: ClaimFacts,
  claimed: Claimed,
  over: OverTests,
): SaidOverTests {
  const own = contrastsOf(result, claimed.arm)[0];
  if (!own || (over.others.length === 0 && over.unfinished.length === 0)) return { text: said, grade: null };
  const { together, counted } = over;
  if (claimed.tells === 'gain' && together && counted.length > 0) {
    if (supported(together) <= 0) return refused('NOT_SHOWN_TOGETHER');
    const joint = jointly(result, facts, claimed, together);
    if (joint) return { ...joint, text: withOthers(joint.text, over, own.relative.bandAverage) };
  }
  if (!said.ok) return { text: said, grade: null };
  const { value } = said.value;
  for (const other of counted) {
    const says = textOf(other, facts, claimed);
    const reads = says.ok ? says.value.value : says.value;
    if (reads === undefined) continue;
    if (claimed.tells === 'gain' && (reads < value || beginsLower(says, said)))
      return refused('ANOTHER_TEST_SAYS_LESS', other.number);
    if (claimed.tells === 'advice' && reads > value) return refused('ANOTHER_TEST_SAYS_MORE', other.number);
  }
  return { text: withOthers(said, over, own.relative.bandAverage), grade: null };
}

/** Of a mean with its range: whether the other range begins lower than the one that would be claimed. */
const beginsLower = (other: ClaimOutcome, said: ClaimOutcome): boolean =>
  other.ok &&
  said.ok &&
  said.value.says === 'mean with range' &&
  other.value.interval !== null &&
  said.value.interval !== null &&
  other.value.interval.lower < said.value.interval.lower;

const refused = (
  code: 'NOT_SHOWN_TOGETHER' | 'ANOTHER_TEST_SAYS_LESS' | 'ANOTHER_TEST_SAYS_MORE',
  test?: number,
): SaidOverTests => ({ text: { ok: false, code, ...(test === undefined ? {} : { test }) }, grade: null });

const textOf = ({ result, arm }: CountedTest, facts: ClaimFacts, { tells, metric, unit }: Claimed) =>
  tells === 'gain' ? claimText(result, metric, unit, facts, arm) : adviceText(result, unit, facts, arm);

/** The average in per cent may be claimed over all of them, where they make a repeat or a fleet. */
function jointly(
  result: TestResult,
  facts: ClaimFacts,
  { metric, unit, arm }: Claimed,
  { grade, vehicles, synthesis }: Together,
): { text: ClaimOutcome; grade: 'repeated' | 'fleet' } | undefined {
  if (metric !== 'bandAverage' || unit !== '%') return;
  if (grade === 'repeated') {
    const where = `over the ${vehicles[0].sessions.length} sessions of the vehicle tested`;
    return { grade, text: averageOverTests(result, inPercent(vehicles[0]), where, facts, arm) };
  }
  if (grade !== 'fleet' || !synthesis) return;
  const where = `over the ${vehicles.length} vehicles tested`;
  const text = averageOverTests(result, inPercent({ ...synthesis, gain: synthesis.mu }), where, facts, arm);
  return { grade, text: ofFleet(text, vehicles, synthesis) };
}

/** The vehicles by name, and where another of them is expected. */
function ofFleet(text: ClaimOutcome, vehicles: Together['vehicles'], synthesis: Synthesis): ClaimOutcome {
  if (!text.ok) return text;
  const [lower, upper] = [pctFromLp(synthesis.anotherLower), pctFromLp(synthesis.anotherUpper)];
  const named = `On the vehicles tested: ${vehicles.map((v) => v.vehicle).join(', ')}`;
  const conditions = [
    ...text.value.conditions.map((condition) => (isVehicle(condition) ? named : condition)),
    `Another vehicle is expected between ${signedGain(lower)} and ${signedUpper(upper)} %`,
  ];
  return { ok: true, value: { ...text.value, conditions } };
}

/** The others beside it: those that speak against it, and losses in those that count, must be told; the rest stand with the conditions. */
function withOthers(
  said: ClaimOutcome,
  { others, counted, unfinished }: OverTests,
  own: Interval,
): ClaimOutcome {
  if (!said.ok) return said;
  const { value } = said;
  const against = new Set(tellsAgainst(others, own));
  const beside = others.filter((other) => !against.has(other));
  return {
    ok: true,
    value: {
      ...value,
      conditions: [
        ...value.conditions,
        ...beside.map((other) => `${other.left ? 'Not put together' : 'Counted'}: ${otherTestWords(other)}`),
        ...unfinished.map((number) => `Begun, and without a result that can be compared: test ${number}`),
      ],
      disclosures: [
        ...value.disclosures,
        ...[...against].map((other) => `Another test of the part reads less: ${otherTestWords(other)}.`),
        ...counted.flatMap(({ number, result, arm }) =>
          lossTexts(contrastsOf(result, arm)).map((loss) => `In test ${number}: ${loss}`),
        ),
      ],
    },
  };
}
