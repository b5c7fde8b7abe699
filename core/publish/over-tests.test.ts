import { describe, expect, it } from 'vitest';
import { DEFAULT_RULES } from '../base/policy.ts';
import { lp, pctFromLp } from '../base/units.ts';
import { isRefused } from '../compare/result.ts';
import type { TestResult } from '../judge/analyse-test.ts';
import type { LeftOut, OtherTest } from '../judge/every-test.ts';
import { flatSession } from '../judge/flat-session.ts';
import { together, type TogetherSession } from '../judge/together.ts';
import { DAY_RULE } from '../register/day-variance.ts';
import { adviceText, claimText, type ClaimFacts } from './claim.ts';
import { MADE_FACTS as FACTS } from './made-facts.ts';
import { saidOverTests, type Claimed, type OverTests } from './over-tests.ts';

const test = (percent: number, seed: number): TestResult =>
  flatSession(['stock', 'part', 'stock'], { part: percent }, 0, { metrics: ['bandAverage', 'upTo'] }, seed);
const averageOf = ({ contrasts: [contrast] }: TestResult) => {
  if (isRefused(contrast)) throw new Error(contrast.code);
  return contrast.relative.bandAverage;
};
interface Made {
  readonly result: TestResult;
  readonly vehicle: string;
  readonly day: string;
  readonly left?: LeftOut;
}
const sessionOf = ({ result, vehicle, day }: Made): TogetherSession => {
  const { gain, lower, upper, df } = averageOf(result);
  const [d, l, u] = [gain, lower, upper].map((v) => lp(1 + v / 100));
  return {
    vehicle,
    dyno: 'Cell 1',
    day,
    gain: d,
    lower: l,
    upper: u,
    variance: ((u - l) / 4.6) ** 2,
    df,
    drift: 0,
    guard: 'strict',
  };
};
/** The first of them beside all others. */
function over(all: readonly Made[]): OverTests {
  const numbered = all.map((made, i) => ({ ...made, number: i + 1 }));
  const others = numbered.slice(1);
  return {
    others: others.map(({ number, vehicle, day, result, left }): OtherTest => ({
      number,
      vehicle,
      dyno: 'Cell 1',
      day,
      gain: averageOf(result),
      left: left ?? null,
    })),
    together: together(all.filter((m) => !m.left).map(sessionOf), 0.025, DAY_RULE.policy),
    unfinished: [],
    kin: [],
    counted: others.filter((m) => !m.left).map(({ number, result }) => ({ number, arm: 'part', result })),
  };
}
const CLAIM: Claimed = { tells: 'gain', metric: 'bandAverage', unit: '%', arm: 'part' };
const said = (all: readonly Made[], claimed: Claimed = CLAIM) => {
  const { result } = all[0];
  const alone =
    claimed.tells === 'gain'
      ? claimText(result, claimed.metric, claimed.unit, FACTS, 'part')
      : adviceText(result, claimed.unit, FACTS, 'part');
  return saidOverTests(alone, result, FACTS, claimed, over(all));
};
const made = (percent: number, seed: number, vehicle = 'SV-1', day = '2026-05-04'): Made => ({
  result: test(percent, seed),
  vehicle,
  day,
});

describe('a claim over all tests of the part', () => {
  it('is what the one test says where there is no other', () => {
    const one = made(4, 1);
    expect(said([one])).toEqual({
      text: claimText(one.result, 'bandAverage', '%', FACTS, 'part'),
      grade: null,
    });
  });
  it('of one car on several days is the joint average, with the days in its limits, and graded repeated', () => {
    const days = [made(4, 1), made(4.5, 2, 'SV-1', '2026-05-11'), made(4.2, 3, 'SV-1', '2026-05-18')];
    const { text, grade } = said(days);
    expect(grade).toBe('repeated');
    const joint = over(days).together!.vehicles[0];
    if (!text.ok) throw new Error(text.code);
    expect(text.value.value).toBeLessThanOrEqual(pctFromLp(joint.lower));
    expect(text.value.value).toBeGreaterThan(pctFromLp(joint.lower) - 0.1);
    expect(text.value.wording).toContain('over the 3 sessions of the vehicle tested');
    expect(text.value.conditions.filter((c) => c.startsWith('Counted: test'))).toHaveLength(2);
  });
  it('of three cars that agree is their mean, names the cars, and where another is expected', () => {
    const { text, grade } = said([made(4, 1), made(4.3, 2, 'SV-2'), made(3.8, 3, 'SV-3')]);
    expect(grade).toBe('fleet');
    if (!text.ok) throw new Error(text.code);
    expect(text.value.wording).toContain('over the 3 vehicles tested');
    expect(text.value.conditions).toContain('On the vehicles tested: SV-1, SV-2, SV-3');
    expect(text.value.conditions.join()).toMatch(
      /Another vehicle is expected between \+\d\.\d and \+\d\.\d %/,
    );
  });
  it('of three cars that disagree is none, whichever of them is asked and in whatever metric', () => {
    const cars = [made(9, 1), made(4, 2, 'SV-2'), made(-1, 3, 'SV-3')];
    for (const metric of ['bandAverage', 'upTo'] as const)
      for (const unit of ['%', 'kW'] as const)
        for (const first of [0, 1])
          expect(
            said([cars[first], ...cars.filter((_, i) => i !== first)], { ...CLAIM, metric, unit }).text,
          ).toEqual({
            ok: false,
            code: 'NOT_SHOWN_TOGETHER',
          });
  });
  it('in a metric that is not put together says what the least of the tests says', () => {
    const cars = [made(5, 1), made(4, 2, 'SV-2'), made(4.6, 3, 'SV-3')];
    const best: Claimed = { ...CLAIM, metric: 'upTo', unit: 'kW' };
    expect(said(cars, best).text).toEqual({ ok: false, code: 'ANOTHER_TEST_SAYS_LESS', test: 2 });
    const { text } = said([cars[1], cars[0], cars[2]], best);
    expect(text.ok && text.value.conditions.some((c) => c.startsWith('Counted: test 2 (SV-1'))).toBe(true);
  });
  it('as a mean with its range claims no range that begins above another test’s', () => {
    const means: ClaimFacts = { ...FACTS, rules: { ...DEFAULT_RULES, says: 'mean with range' } };
    const kW: Claimed = { ...CLAIM, unit: 'kW' };
    const cars = [made(4, 1), made(4.4, 2, 'SV-2')];
    const textOf = ({ result }: Made) => {
      const text = claimText(result, kW.metric, kW.unit, means, 'part');
      if (!text.ok) throw new Error(text.code);
      return text.value;
    };
    const begins = cars.map((car) => textOf(car).interval!.lower);
    // As large a mean, and less sure of it: the range of the second begins lower than the first one's.
    const [sure, unsure] = begins[0] > begins[1] ? cars : [cars[1], cars[0]];
    const other = over([sure, unsure]);
    const answer = saidOverTests(
      claimText(sure.result, kW.metric, kW.unit, means, 'part'),
      sure.result,
      means,
      kW,
      other,
    );
    expect(answer.text).toMatchObject({ ok: false, code: 'ANOTHER_TEST_SAYS_LESS', test: 2 });
    const least = saidOverTests(
      claimText(unsure.result, kW.metric, kW.unit, means, 'part'),
      unsure.result,
      means,
      kW,
      over([unsure, sure]),
    );
    if (textOf(unsure).value <= textOf(sure).value) expect(least.text.ok).toBe(true);
    else expect(least.text).toMatchObject({ ok: false, code: 'ANOTHER_TEST_SAYS_LESS' });
  });
  it('of several days is the mean of all of them, with their range', () => {
    const days = [made(4, 1), made(4.5, 2, 'SV-1', '2026-05-11'), made(4.2, 3, 'SV-1', '2026-05-18')];
    const means: ClaimFacts = { ...FACTS, rules: { ...DEFAULT_RULES, says: 'mean with range' } };
    const alone = claimText(days[0].result, 'bandAverage', '%', means, 'part');
    const { text } = saidOverTests(alone, days[0].result, means, CLAIM, over(days));
    if (!text.ok) throw new Error(text.code);
    const joint = over(days).together!.vehicles[0];
    expect(text.value.says).toBe('mean with range');
    expect(pctFromLp(joint.gain) - text.value.value).toBeLessThan(0.1);
    expect(text.value.value).toBeLessThanOrEqual(pctFromLp(joint.gain) + 1e-9);
    expect(text.value.wording).toMatch(
      /^\+\d\.\d % \(95 % range \+.* %\) on average .* over the 3 sessions of the vehicle tested/,
    );
  });
  it('tells of a test that does not count only what a claim would hide', () => {
    const other = (percent: number, left: LeftOut): Made => ({ ...made(percent, 7, 'SV-4'), left });
    const elsewhere: LeftOut = { why: 'other range', fromRpm: 2000, toRpm: 5000 };
    const disclosed = (all: readonly Made[]): number => {
      const { text } = said(all);
      return text.ok ? text.value.disclosures.filter((d) => d.startsWith('Another test')).length : NaN;
    };
    expect(disclosed([made(4, 1), other(1, elsewhere)])).toBe(1);
    expect(disclosed([made(4, 1), other(6, elsewhere)])).toBe(0);
    // A test whose gate fails is named without its number: it says nothing of the part.
    const { text } = said([made(4, 1), other(1, { why: 'gate fails' })]);
    expect(text.ok && text.value.conditions.at(-1)).toBe(
      'Not put together: test 2 (SV-4, Cell 1, 4 May 2026): a gate fails',
    );
  });
  it('names tests that were begun and have no result, and says no less for them', () => {
    const { result } = made(4, 1);
    const alone = claimText(result, 'bandAverage', '%', FACTS, 'part');
    const beside = { ...over([made(4, 1)]), unfinished: [12] };
    const { text } = saidOverTests(alone, result, FACTS, CLAIM, beside);
    expect(text.ok && alone.ok && text.value.value === alone.value.value).toBe(true);
    expect(text.ok && text.value.conditions.at(-1)).toBe(
      'Begun, and without a result that can be compared: test 12',
    );
  });
  it('advice says at most what the test that leaves most open says', () => {
    const advice: Claimed = { ...CLAIM, tells: 'advice' };
    expect(said([made(0, 1), made(2, 2, 'SV-2')], advice).text).toMatchObject({
      ok: false,
      code: 'ANOTHER_TEST_SAYS_MORE',
      test: 2,
    });
  });
});
