import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { DEFAULT_POLICY as POLICY } from '../../base/policy.ts';
import { RULE_P } from '../../base/interval-rules.ts';
import type { NoisyEnd } from '../../compare/noisy-end.ts';
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { CorrectedPull } from '../../correct/pull-correction.ts';
import { designOf, runsOf, type PlacedPull } from '../../plan/design.ts';
import { told, type Found, type GateState } from '../finding.ts';
import { gradeOf, verdictOf } from '../verdict.ts';
import { designGate } from './design.ts';
import { factorGate } from './factor.ts';
import { lossesGate } from './losses-told.ts';
import { mountingGate } from './mounting.ts';
import { planGate } from './plan-locked.ts';
import { noisyEndFinding, repeatabilityGate } from './repeatability.ts';
import { repeatsGate } from './repeats.ts';
import { sweepGate } from './same-sweep.ts';
import { armScatterGate } from './scatter-of-the-arms.ts';
import { warmUpGate } from './warm-up.ts';

/** A session written as runs: arm, counted pulls, warm-ups, strapping. */
type Block = readonly [arm: 'A' | 'B', counted: number, warmUps: number, mount: number];
function designed(blocks: readonly Block[]) {
  let order = 0;
  const pulls: PlacedPull[] = blocks.flatMap(([arm, counted, warmUps, mount]) =>
    Array.from({ length: warmUps + counted }, (_, i) => ({
      arm,
      mount,
      counted: i >= warmUps,
      order: ++order,
    })),
  );
  return designOf(runsOf(pulls), 'A');
}
const ABA: readonly Block[] = [
  ['A', 3, 3, 1],
  ['B', 3, 3, 1],
  ['A', 3, 3, 1],
];
/** Only what the gates read: the rest of a contrast is not made up. */
function contrast({
  blocks = ABA,
  rule = 'pooled, guarded',
  returned = { difference: 0.1, limit: 0.5 },
  sd = 0.3,
  floored = false,
  armScatter = { a: 0.3, b: 0.3 },
  timesPooled = 1,
  noisyEnd = null,
  losses = [],
  rpm = [2500, 2550, 2600],
}: {
  blocks?: readonly Block[];
  rule?: string;
  returned?: AnalysedContrast['returned'];
  sd?: number;
  floored?: boolean;
  armScatter?: { a: number; b: number } | null;
  timesPooled?: number;
  noisyEnd?: NoisyEnd | null;
  losses?: readonly object[];
  rpm?: readonly number[];
} = {}): AnalysedContrast {
  return {
    design: designed(blocks),
    result: { rule, pulls: { arm: 3, against: 6 }, relative: { losses }, scatter: { noisyEnd } },
    average: {
      s2: sd * sd,
      flags: floored ? ['SCATTER_TOO_LOW'] : [],
      split: { nu: NaN },
      parts: [],
    },
    band: {
      armVariance: armScatter,
      armsDiffer: timesPooled > RULE_P.armsDifferFrom,
      variance: timesPooled,
      variances: { pooled: 1 },
    },
    common: { rpm },
    returned,
  } as unknown as AnalysedContrast;
}
const pull = (factor: number, rampRpmPerS = 300, remarks: readonly object[] = []): CorrectedPull =>
  ({ factor: { factor, remarks }, sweep: { rampRpmPerS } }) as unknown as CorrectedPull;
const arms = (
  a: number,
  b: number,
  remarks: readonly object[] = [],
): ReadonlyMap<string, readonly CorrectedPull[]> =>
  new Map([
    ['A', [pull(a, 300, remarks), pull(a)]],
    ['B', [pull(b)]],
  ]);
const history = { bandAverage: { variance: 0.25, df: 20 } };
const mount = { mount: { variance: 0.4, df: 9 } };
const grid = Array.from({ length: 20 }, (_, i) => 2500 + 50 * i);

const cases: readonly [GateState, string, () => Found][] = [
  ['caution', 'PLAN_NOT_STATED', () => planGate(undefined)],
  ['fail', 'PLAN_NOT_LOCKED', () => planGate({ lockedAt: null, firstPullAt: null })],
  [
    'pass',
    'PLAN_LOCKED',
    () => planGate({ lockedAt: '2026-11-01T08:00:00Z', firstPullAt: '2026-11-01T08:00:00Z' }),
  ],

  ['pass', 'DESIGN_SUPPORTS_CLAIM', () => designGate(contrast(), 'none')],
  ['caution', 'AB_PROVISIONAL', () => designGate(contrast({ blocks: ABA.slice(0, 2) }), 'none')],
  [
    'fail',
    'AB_REMOUNTED',
    () =>
      designGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 3, 2],
          ],
        }),
        'none',
      ),
  ],
  [
    'fail',
    'AB_UNEQUAL',
    () =>
      designGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 2, 3, 1],
          ],
        }),
        'none',
      ),
  ],
  [
    'caution',
    'UNEQUAL_RUNS',
    () =>
      designGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 2, 3, 1],
            ['A', 3, 3, 1],
          ],
        }),
        'none',
      ),
  ],
  [
    'fail',
    'UNEQUAL_RUNS',
    () =>
      designGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 2, 1, 1],
            ['A', 3, 3, 1],
          ],
        }),
        'none',
      ),
  ],
  [
    'caution',
    'ALTERNATING_WITHOUT_DRIFT_TERM',
    () =>
      designGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 3, 1],
            ['A', 3, 3, 1],
            ['B', 3, 3, 1],
          ],
        }),
        'none',
      ),
  ],
  [
    'pass',
    'DESIGN_SUPPORTS_CLAIM',
    () =>
      designGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 3, 1],
            ['A', 3, 3, 1],
            ['B', 3, 3, 1],
          ],
        }),
        'linear',
      ),
  ],

  ['pass', 'ONE_MOUNT', () => mountingGate(contrast(), {})],
  [
    'caution',
    'BASELINE_DID_NOT_RETURN',
    () => mountingGate(contrast({ returned: { difference: -0.6, limit: 0.5 } }), {}),
  ],
  [
    'caution',
    'MOUNTINGS_AS_UNITS',
    () =>
      mountingGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 3, 2],
            ['A', 3, 3, 3],
            ['B', 3, 3, 4],
          ],
          rule: 'mounting means',
        }),
        {},
      ),
  ],
  [
    'fail',
    'REMOUNTED_WITHOUT_RETURN',
    () =>
      mountingGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 3, 2],
          ],
          returned: null,
        }),
        mount,
      ),
  ],
  [
    'caution',
    'BASELINE_DID_NOT_RETURN',
    () =>
      mountingGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 3, 2],
            ['A', 3, 3, 3],
          ],
          returned: { difference: 0.7, limit: 0.5 },
        }),
        mount,
      ),
  ],
  [
    'pass',
    'REMOUNTED_REGISTERED',
    () =>
      mountingGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 3, 2],
            ['A', 3, 3, 3],
          ],
        }),
        mount,
      ),
  ],

  ['pass', 'WARM_UP_EQUAL', () => warmUpGate(contrast(), POLICY)],
  [
    'caution',
    'WARM_UP_SHORT',
    () => warmUpGate(contrast({ blocks: ABA.map(([arm, n, , m]) => [arm, n, 2, m] as const) }), POLICY),
  ],
  [
    'fail',
    'WARM_UP_SHORT',
    () => warmUpGate(contrast({ blocks: ABA.map(([arm, n, , m]) => [arm, n, 1, m] as const) }), POLICY),
  ],
  [
    'fail',
    'WARM_UP_UNEQUAL',
    () =>
      warmUpGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 3, 5, 1],
            ['A', 3, 3, 1],
          ],
        }),
        POLICY,
      ),
  ],

  ['pass', 'REPEATS_ENOUGH', () => repeatsGate(contrast(), POLICY)],
  [
    'caution',
    'REPEATS_FEW',
    () =>
      repeatsGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 2, 3, 1],
            ['A', 3, 3, 1],
          ],
        }),
        POLICY,
      ),
  ],
  [
    'fail',
    'REPEATS_FEW',
    () =>
      repeatsGate(
        contrast({
          blocks: [
            ['A', 3, 3, 1],
            ['B', 1, 3, 1],
            ['A', 3, 3, 1],
          ],
        }),
        POLICY,
      ),
  ],

  ['pass', 'ARMS_ALIKE', () => armScatterGate(contrast({ timesPooled: 1.5 }))],
  ['caution', 'ARMS_DIFFER_IN_SCATTER', () => armScatterGate(contrast({ timesPooled: 1.51 }))],
  ['fail', 'ARM_SCATTER_UNKNOWN', () => armScatterGate(contrast({ armScatter: null }))],
  [
    'caution',
    'NOISY_END',
    () => noisyEndFinding(contrast({ noisyEnd: { side: 'high', rpm: 6100, times: 2.2 } }))[0],
  ],

  ['pass', 'SCATTER_AS_USUAL', () => repeatabilityGate(contrast({ sd: 0.49 }), history, POLICY)],
  ['caution', 'SCATTER_SOMEWHAT_HIGH', () => repeatabilityGate(contrast({ sd: 0.51 }), history, POLICY)],
  ['fail', 'SCATTER_ABOVE_HISTORY', () => repeatabilityGate(contrast({ sd: 0.76 }), history, POLICY)],
  [
    'caution',
    'SCATTER_TOO_LOW',
    () => repeatabilityGate(contrast({ sd: 0.01, floored: true }), history, POLICY),
  ],
  ['caution', 'SCATTER_TOO_LOW', () => repeatabilityGate(contrast({ sd: 0.01, floored: true }), {}, POLICY)],
  ['caution', 'NO_HISTORY', () => repeatabilityGate(contrast(), {}, POLICY)],
  [
    'fail',
    'SCATTER_TOO_HIGH',
    () => repeatabilityGate(contrast({ sd: 2.1 }), { bandAverage: { variance: 9, df: 20 } }, POLICY),
  ],

  ['pass', 'FACTORS_AGREE', () => factorGate(arms(1.012, 1.02), 'sae-j1349', POLICY)],
  ['caution', 'FACTORS_SOMEWHAT_APART', () => factorGate(arms(1, 1.015), 'sae-j1349', POLICY)],
  ['fail', 'FACTORS_APART', () => factorGate(arms(1.025, 1), 'sae-j1349', POLICY)],
  [
    'caution',
    'FUEL_RATE_UNKNOWN',
    () => factorGate(arms(1, 1, [{ code: 'FUEL_RATE_UNKNOWN', message: 'm' }]), 'sae-j1349', POLICY),
  ],
  [
    'fail',
    'FACTOR_OUT_OF_RANGE',
    () =>
      factorGate(
        arms(1, 1, [
          { code: 'FUEL_RATE_UNKNOWN', message: 'm' },
          { code: 'FACTOR_OUT_OF_RANGE', message: 'm' },
        ]),
        'sae-j1349',
        POLICY,
      ),
  ],

  [
    'pass',
    'SAME_SWEEP',
    () => sweepGate(contrast({ rpm: grid }), grid, [pull(1, 300), pull(1, 325)], POLICY),
  ],
  [
    'caution',
    'RAMP_RATES_DIFFER',
    () => sweepGate(contrast({ rpm: grid }), grid, [pull(1, 300), pull(1, 335)], POLICY),
  ],
  ['caution', 'TRIMMED', () => sweepGate(contrast({ rpm: grid.slice(2) }), grid, [pull(1)], POLICY)],
  ['caution', 'RANGE_LOST', () => sweepGate(contrast({ rpm: grid.slice(3) }), grid, [pull(1)], POLICY)],

  ['pass', 'NO_PROVEN_LOSS', () => lossesGate([contrast().result])],
  [
    'caution',
    'LOSS_TO_DISCLOSE',
    () => lossesGate([contrast({ losses: [{ gain: -1.2, rpm: 2700, fromRpm: 2600, toRpm: 2800 }] }).result]),
  ],
];

describe('a gate says what was found, why it matters and what would mend it', () => {
  test.each(cases)('%s: %s', (state, code, run) => {
    const finding = told(run());
    expect(finding).toMatchObject({ state, code });
    expect(finding.message).not.toMatch(/undefined|NaN|null|Infinity/);
    expect(finding.why).toMatch(/\.$/);
    // What fails can be mended, or says that it cannot.
    if (state === 'fail') expect(finding.mend).toMatch(/\.$/);
  });
});

describe('what the findings add up to', () => {
  const findings = cases.map(([, , run]) => run());
  const some = fc.subarray(findings);
  it('one failing gate keeps a test from a claim, whatever else passes', () =>
    fc.assert(
      fc.property(some, fc.constantFrom(...findings.filter((f) => f.state === 'fail')), (others, fail) => {
        expect(gradeOf([...others, fail])).toBe('indicative');
        expect(verdictOf([...others, fail])).not.toBe('claim');
      }),
    ));
  it('does not hang on their order', () =>
    fc.assert(
      fc.property(some, fc.integer({ min: 0, max: 40 }), (list, shift) => {
        const turned = [
          ...list.slice(shift % (list.length || 1)),
          ...list.slice(0, shift % (list.length || 1)),
        ];
        expect([gradeOf(turned), verdictOf(turned)]).toEqual([gradeOf(list), verdictOf(list)]);
      }),
    ));
  it('more findings never raise the grade', () =>
    fc.assert(
      fc.property(some, some, (a, b) => {
        if (gradeOf(a) === 'indicative') expect(gradeOf([...a, ...b])).toBe('indicative');
      }),
    ));
  it('cautions alone still let a claim through, but not A-B and not an unstated plan', () => {
    const cautions = findings.filter(
      (f) => f.state === 'caution' && f.code !== 'AB_PROVISIONAL' && f.code !== 'PLAN_NOT_STATED',
    );
    expect(verdictOf(cautions)).toBe('claim');
    expect(gradeOf(cautions)).toBe('single');
    expect(gradeOf([...cautions, planGate(undefined)])).toBe('indicative');
    expect(verdictOf([...cautions, designGate(contrast({ blocks: ABA.slice(0, 2) }), 'none')])).toBe(
      'needs more pulls',
    );
  });
});
