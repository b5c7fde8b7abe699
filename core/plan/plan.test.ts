import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { AS_DELIVERED, type LedgerChange, type Names } from '../register/ledger.ts';
import { NO_NEEDS, partName, type PartRevision } from '../register/parts.ts';
import { amendmentsWeigh } from './amendment.ts';
import { assessArms } from './arms.ts';
import { type ArmsInput, type PlannedArm } from './arm-types.ts';
import { planHours, sessionBlocks, usualDynoHours, USUAL_TIMES, type HoursInput } from './hours.ts';
import { openingSpans } from './opening-hours.ts';
import { guardCost } from './planning-factors.ts';
import { precisionOf } from './precision.ts';
import { driftModel, PROTOCOL_KEYS, protocolOf, runSheet } from './protocols.ts';
import {
  designPower,
  designPrecision,
  pullsNeeded,
  scatterFor,
  smallestGain,
  type PlannedContrast,
  type Scatter,
} from './sample-size.ts';
import {
  blocksAt,
  overlaps,
  placementProblems,
  suggestSchedule,
  without,
  type Placement,
  type ScheduledPlan,
  type Span,
} from './schedule.ts';

// ── Run sheets ──────────────────────────────────────────────────────────────

test('every protocol runs every arm, with the same warm-up and the same pulls in every run', () => {
  for (const key of PROTOCOL_KEYS) {
    const { parts, order } = protocolOf(key);
    const arms = Array.from({ length: parts.least }, (_, i) => `p${i}`);
    const runs = order('stock', arms);
    expect(new Set(runs), key).toEqual(new Set(['stock', ...arms]));
    const sheet = runSheet(runs, 3, 3, true);
    expect(sheet.map((p) => p.position)).toEqual(sheet.map((_, i) => i + 1));
    for (let run = 1; run <= runs.length; run++)
      expect(sheet.filter((p) => p.run === run).map((p) => p.counted)).toEqual([
        false,
        false,
        false,
        true,
        true,
        true,
      ]);
    expect(new Set(sheet.map((p) => p.mount)).size).toBe(runs.length);
  }
});
test.each([
  [['a', 'b', 'a'], 'none'],
  [['a', 'b', 'a', 'b'], 'linear'],
  [['a', 'b', 'a', 'b', 'a'], 'none'],
  [['a', 'b', 'c', 'a'], 'none'],
  [['a', 'b'], 'none'],
])('driftModel(%j) is %s', (order, model) => expect(driftModel(order)).toBe(model));

// ── Arms ────────────────────────────────────────────────────────────────────

const part = (id: string, change: Partial<PartRevision> = {}): PartRevision => ({
  id,
  partId: `part ${id}`,
  name: id,
  revision: 'A',
  category: 'intake',
  options: [],
  needs: NO_NEEDS,
  conflicts: [],
  installHours: 1,
  removeHours: 0.5,
  ...change,
});
const REVISIONS = new Map(
  [
    part('Intake'),
    part('Pipe', { category: 'downpipe', conflicts: ['part Pump'] }),
    part('Pump', { category: 'other' }),
    part('Throttle', { category: 'throttle body', needs: { ...NO_NEEDS, partIds: ['part Adaptor'] } }),
    part('Adaptor', { category: 'inlet' }),
    part('Blower', {
      category: 'supercharger',
      needs: { partIds: [], calibration: true, fuel: '98 RON' },
      options: [{ name: 'pulley', settings: ['90', '80'] }],
      installHours: 3,
      removeHours: 2,
    }),
  ].map((r) => [r.id, r]),
);
const names: Names = {
  part: (id, settings) => partName(REVISIONS.get(id)!, settings),
  calibration: (id) => id,
};
const fit = (id: string, settings: Record<string, string> = {}): LedgerChange => ({
  kind: 'part fitted',
  category: REVISIONS.get(id)!.category,
  partRevisionId: id,
  settings,
});
const tune: LedgerChange = { kind: 'calibration', calibrationId: 'tune' };
const stock: PlannedArm = { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] };
const arm = (changes: LedgerChange[], key = 'part', from: string | null = null): PlannedArm => ({
  key,
  label: key,
  role: 'part',
  from,
  changes,
});
const input = (arms: PlannedArm[], change: Partial<ArmsInput> = {}): ArmsInput => ({
  arms,
  present: {
    ...AS_DELIVERED,
    fuel: '95 RON',
    tyres: 'T',
    service: {
      'air filter': { at: '2026-10-01T00:00:00Z', odometerKm: null },
      oil: { at: '2026-10-01T00:00:00Z', odometerKm: null },
    },
  },
  stock: { tyres: 'T', fuel: 'petrol 95 RON' },
  at: '2026-11-01T00:00:00Z',
  odometerKm: null,
  revisions: REVISIONS,
  calibrations: new Map([
    ['tune', { id: 'tune', name: 'tune', expectsPartRevisionIds: ['Blower'], fuel: null }],
  ]),
  fits: new Set([...REVISIONS.values()].map((r) => r.partId)),
  names,
  ...change,
});
const assess = (changes: LedgerChange[], change: Partial<ArmsInput> = {}) =>
  assessArms(input([stock, arm(changes)], change)).parts[0];

describe('arms', () => {
  test.each<[string, LedgerChange[], string, string[]]>([
    ['one part', [fit('Intake')], 'part alone', []],
    ['nothing', [], 'nothing', ['ARMS_ALIKE']],
    ['two parts', [fit('Intake'), fit('Pipe')], 'combination', []],
    [
      'a part and a tune it does not need',
      [fit('Intake'), tune],
      'combination',
      ['CALIBRATION_EXPECTS_PART', 'CONFOUNDED'],
    ],
    [
      'a part that needs a tune, without it',
      [fit('Blower')],
      'part alone',
      ['NEEDS_CALIBRATION', 'NEEDS_FUEL'],
    ],
    [
      'the same with tune and fuel',
      [fit('Blower'), tune, { kind: 'fuel', text: '98 RON' }],
      'part with its calibration',
      [],
    ],
    ['the tune alone', [tune], 'calibration alone', ['CALIBRATION_EXPECTS_PART']],
    ['a part with what it needs', [fit('Throttle'), fit('Adaptor')], 'part with what it needs', []],
    ['a part without what it needs', [fit('Throttle')], 'part alone', ['NEEDS_PART']],
    ['parts that exclude each other', [fit('Pipe'), fit('Pump')], 'combination', ['CONFLICT']],
    ['a part and other tyres', [fit('Intake'), { kind: 'tyres', text: 'U' }], 'combination', ['CONFOUNDED']],
    [
      'a part and something else',
      [fit('Intake'), { kind: 'other change', text: 'hood off' }],
      'combination',
      ['CONFOUNDED'],
    ],
  ])('%s', (_what, changes, scope, codes) => {
    const found = assess(changes);
    expect(found.scope).toBe(scope);
    expect(found.problems.map((p) => p.code)).toEqual(codes);
  });
  it('a setting is the setting’s own gain', () => {
    const on = {
      ...input([]).present,
      parts: {
        supercharger: { partRevisionId: 'Blower', settings: { pulley: '90' }, since: '2026-01-01T00:00:00Z' },
      },
      calibrationId: 'tune',
      fuel: '98 RON',
    };
    expect(
      assess([{ kind: 'option set', category: 'supercharger', settings: { pulley: '80' } }], { present: on })
        .scope,
    ).toBe('setting of the part');
  });
  it('says what is not stock in the baseline, what is worn and what is not known', () => {
    const { baseline } = assessArms(
      input([stock, arm([fit('Intake')])], {
        present: {
          ...AS_DELIVERED,
          otherChanges: ['rev limit raised'],
          service: { oil: { at: '2020-01-01T00:00:00Z', odometerKm: null } },
        },
      }),
    );
    expect(baseline.problems.map((p) => p.code)).toEqual([
      'BASELINE_NOT_STOCK',
      'BASELINE_WORN',
      'BASELINE_NOT_RECORDED',
    ]);
  });
  it('a ladder gives each stage against the one before, and against stock', () => {
    const { parts } = assessArms(
      input([stock, arm([fit('Intake')], 'one'), arm([fit('Pipe')], 'two', 'one')]),
    );
    expect(parts[1].differences.map((d) => d.subject)).toEqual(['downpipe', 'intake']);
    expect(parts[1].step.map((d) => d.subject)).toEqual(['downpipe']);
    expect(
      assessArms(input([stock, arm([fit('Intake')], 'one'), arm([], 'two', 'one')])).parts[1].problems.map(
        (p) => p.code,
      ),
    ).toEqual(['ARMS_ALIKE']);
  });
});

// ── Hours ───────────────────────────────────────────────────────────────────

describe('hours', () => {
  const assessment = assessArms(input([stock, arm([fit('Blower'), tune])]));
  const base: HoursInput = {
    order: ['stock', 'part', 'stock'],
    arms: new Map([assessment.baseline, ...assessment.parts].map((a) => [a.key, a])),
    revisions: REVISIONS,
    pullsPerRun: 3,
    warmUps: 3,
    coolDownMinutes: 4,
    remount: false,
    dynoHourly: 100,
    labourHourly: 50,
  };
  it('of A-B-A on the rollers, added up by hand', () => {
    // 30 set-up + 20 strapping + 18·2 pulls + 9·4 + 9·2 cool-downs + (3 + 2) h installs + 2·10 flashing = 460 min
    expect(planHours(base)).toMatchObject({
      pulls: 18,
      counted: 9,
      dynoHours: 460 / 60,
      offDynoHours: 0,
      cost: (460 / 60) * 100 + 5 * 50,
    });
  });
  it('before there is a plan are those of the default plan', () => {
    expect(usualDynoHours(0, 0)).toBeCloseTo((30 + 20 + 18 * 2 + 9 * 4 + 9 * 2) / 60, 12);
    // The blower takes 3 h on and 2 h off; the two flashes are not part of a part.
    expect(usualDynoHours(3, 2)).toBeCloseTo(
      planHours(base).dynoHours - (2 * USUAL_TIMES.flashMinutes) / 60,
      12,
    );
  });
  it('re-mounted, the installs leave the dyno free', () => {
    const hours = planHours({ ...base, remount: true });
    expect(hours).toMatchObject({ dynoHours: (30 + 60 + 36 + 54) / 60, offDynoHours: 5 + 20 / 60 });
    expect(hours.cost).toBeLessThan(planHours(base).cost);
  });
  it('blocks hold every minute and every pull of the plan', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...PROTOCOL_KEYS),
        fc.integer({ min: 2, max: 6 }),
        fc.integer({ min: 0, max: 4 }),
        fc.boolean(),
        (key, pullsPerRun, warmUps, remount) => {
          const order = protocolOf(key).order('stock', ['part']);
          const plan = {
            ...base,
            order: order.filter((k) => k !== undefined),
            pullsPerRun,
            warmUps,
            remount,
          };
          const [{ blocks, gapMinutes }, hours] = [sessionBlocks(plan), planHours(plan)];
          expect(blocks.reduce((sum, b) => sum + b.pulls, 0)).toBe(hours.pulls);
          expect(
            blocks.reduce((sum, b) => sum + b.minutes, 0) + gapMinutes.reduce((a, b) => a + b, 0),
          ).toBeCloseTo(
            Object.values(hours.minutes).reduce((a, b) => a + b, 0),
            9,
          );
          expect(hours.minutes.strapping).toBe(USUAL_TIMES.strapMinutes * (remount ? plan.order.length : 1));
        },
      ),
    ));
});

// ── Sample size: R 4.2.2, power.t.test and noncentral t ────────────────────

interface PowerCase {
  group: string;
  input: { n: number[]; delta: number[]; sd: number[]; k?: number[] };
  output: { power: number[]; value: number[] };
}
const R = (
  JSON.parse(readFileSync(new URL('../../cli/reference/r-results.json', import.meta.url), 'utf8')) as {
    cases: PowerCase[];
  }
).cases.filter((c) => c.group === 'sample size');
/** Scatter as the handbooks plan with it: no guard. */
const plain = (sd: number, change: Partial<Scatter> = {}): Scatter => ({
  variance: sd * sd,
  mount: null,
  driftBound: 0,
  guard: 'none',
  ...change,
});
const AB = (pullsPerRun: number, change: Partial<PlannedContrast> = {}): PlannedContrast => ({
  order: ['A', 'B'],
  pullsPerRun,
  warmUps: 0,
  remount: false,
  ...change,
});

describe('sample size', () => {
  it('is R’s power.t.test for two runs on one mounting, and R’s smallest n', () => {
    const { input: q, output } = R.find((c) => !c.input.k)!;
    expect(q.n.length).toBeGreaterThan(10);
    q.n.forEach((n, i) => {
      expect(
        Math.abs(designPower('bandAverage', AB(n), plain(q.sd[i]), q.delta[i]) / output.power[i] - 1),
      ).toBeLessThan(1e-9);
      expect(pullsNeeded('bandAverage', AB(n), plain(q.sd[i]), q.delta[i], 0.9)).toBe(n);
    });
  });
  it('is R’s plug-in noncentral t with mountings: a step variance of .64 is twice one mounting’s', () => {
    const { input: q, output } = R.find((c) => c.input.k)!;
    q.n.forEach((n, i) => {
      const order = Array.from({ length: 2 * q.k![i] }, (_, run) =>
        run % 2 === 0 ? ('A' as const) : ('B' as const),
      );
      // Back and forth ends on the other arm; turned round at the middle it has no drift line, as R’s cases have none.
      const turned = [...order.filter((l) => l === 'A'), ...order.filter((l) => l === 'B')];
      expect(
        Math.abs(
          designPower(
            'bandAverage',
            { order: turned, pullsPerRun: n, warmUps: 0, remount: true },
            plain(q.sd[i], { mount: { variance: 0.32, df: 10 } }),
            q.delta[i],
          ) /
            output.value[i] -
            1,
        ),
      ).toBeLessThan(1e-9);
    });
  });
  it('no number of pulls on one strapping finds a small gain against the mount (statistics: 1 and 2 % at a step of 0.8)', () => {
    for (const delta of [1, 2])
      expect(
        pullsNeeded(
          'bandAverage',
          AB(2, { remount: true }),
          plain(0.5, { mount: { variance: 0.32, df: 10 } }),
          delta,
          0.9,
          0.025,
          200,
        ),
      ).toBeUndefined();
    expect(
      pullsNeeded(
        'bandAverage',
        AB(2, { remount: true }),
        plain(0.5, { mount: { variance: 0.32, df: 10 } }),
        3,
        0.9,
      ),
    ).toBe(6);
  });
  it('the smallest gain is where the power is what was asked for', () =>
    fc.assert(
      fc.property(
        fc.constantFrom('upTo' as const, 'bandAverage' as const),
        fc.integer({ min: 3, max: 8 }),
        fc.double({ min: 0.3, max: 1.5, noNaN: true }),
        fc.constantFrom(0.8, 0.9),
        fc.boolean(),
        fc.constantFrom('strict' as const, 'usual' as const, 'none' as const),
        (metric, n, sd, power, remount, guard) => {
          const contrast: PlannedContrast = { order: ['A', 'B', 'A'], pullsPerRun: n, warmUps: 3, remount };
          const scatter = plain(sd, { guard, mount: { variance: 0.4, df: 9 } });
          const gain = smallestGain(metric, contrast, scatter, power)!;
          expect(designPower(metric, contrast, scatter, gain)).toBeCloseTo(power, 6);
          expect(designPower(metric, contrast, scatter, gain * 1.1)).toBeGreaterThan(power);
        },
      ),
      { numRuns: 30 },
    ));
  it('a return to baseline takes the drift bound out; A-B keeps all of it', () => {
    const scatter = scatterFor('bandAverage', {}, 0.3, 'strict');
    expect(
      designPrecision({ order: ['A', 'B', 'A'], pullsPerRun: 3, warmUps: 3, remount: false }, scatter)!
        .driftVariance,
    ).toBe(0);
    // Runs of six apart by six pulls: (0.3 · 6)² / 3.
    expect(
      designPrecision({ order: ['A', 'B'], pullsPerRun: 3, warmUps: 3, remount: false }, scatter)!
        .driftVariance,
    ).toBeCloseTo(1.08, 12);
    expect(
      designPrecision(
        { order: ['A', 'B', 'other', 'A'], pullsPerRun: 3, warmUps: 3, remount: false },
        scatter,
      )!.driftVariance,
    ).toBeCloseTo((0.3 * 3) ** 2 / 3, 12);
  });
  // Simulated: rule P, A-B-A, a constant +2 %, n = 3, 4, 5: 78, 93 and 98.6 % claimed.
  it('“up to” at one rpm is never more likely than the simulated claim of a broad gain', () => {
    const scatter: Scatter = { variance: 0.36 + 0.16 + 0.16, mount: null, driftBound: 0, guard: 'strict' };
    [
      [3, 0.78],
      [4, 0.93],
      [5, 0.986],
    ].forEach(([n, simulated]) => {
      const p = designPower('upTo', AB(n, { order: ['A', 'B', 'A'] }), scatter, 2);
      expect(p).toBeLessThan(simulated);
      expect(p).toBeGreaterThan(simulated / 4);
    });
  });
  it('the power of the strict scalar rule is that of its simulation (1.55, 1.27, 1.12 lp in A-B-A of 3, 4, 5: 60, 65, 69 %)', () => {
    const scatter: Scatter = { variance: 0.48, mount: null, driftBound: 0, guard: 'strict' };
    [
      [3, 1.55, 0.6],
      [4, 1.27, 0.65],
      [5, 1.12, 0.69],
    ].forEach(([n, delta, simulated]) =>
      expect(
        Math.abs(designPower('bandAverage', AB(n, { order: ['A', 'B', 'A'] }), scatter, delta) - simulated),
      ).toBeLessThan(0.02),
    );
  });
  it('what the guards cost is what the study of the rules found', () => {
    for (const [runs, pulls, cost] of [
      [[2, 1], 3, 1.23],
      [[2, 1], 4, 1.15],
      [[2, 1], 5, 1.12],
      [[1, 1], 3, 1.17],
      [[1, 1], 4, 1.08],
      [[2, 2], 2, 1.18],
      [[2, 2], 3, 1.05],
    ] as const)
      expect(Math.abs(guardCost('bandAverage', runs, pulls, 'strict') - cost)).toBeLessThan(0.011);
    // Fewer guards bite as there are more pulls; beyond the table its last entry stands.
    for (const runs of [
      [1, 1],
      [2, 1],
      [2, 2],
    ] as const)
      for (const metric of ['upTo', 'bandAverage'] as const) {
        const costs = [2, 3, 5, 8, 12, 40].map((n) => guardCost(metric, runs, n, 'strict'));
        expect(Math.min(...costs)).toBeGreaterThanOrEqual(1);
        expect(costs.at(-1)).toBe(costs.at(-2));
      }
  });
  it('twelve pulls see more as A-B-B-A of three than as A-B-A of four, and only then is it said', () => {
    const of = (order: string[], pullsPerRun: number) =>
      precisionOf({
        order,
        baseline: 'stock',
        arm: 'part',
        pullsPerRun,
        warmUps: 3,
        remount: false,
        metrics: ['upTo'],
        partArms: 1,
        repeatability: {},
        driftBound: 0.3,
        confidence: 0.95,
        guard: 'strict',
        wantedPct: 2,
      }).twice;
    const twelve = of(['stock', 'part', 'stock'], 4)!;
    expect(twelve.pct90!).toBeLessThan(0.95 * twelve.instead!);
    expect(of(['stock', 'part', 'stock'], 3)).toBeNull();
    expect(of(['stock', 'part', 'part', 'stock'], 3)).toBeNull();
  });
  it('the planner’s panel says what was assumed, and what A-B gives away', () => {
    const p = precisionOf({
      order: ['stock', 'part', 'stock'],
      baseline: 'stock',
      arm: 'part',
      pullsPerRun: 3,
      warmUps: 3,
      remount: false,
      metrics: ['bandAverage', 'upTo'],
      partArms: 1,
      repeatability: { bandAverage: { variance: 0.28, df: 10 } },
      driftBound: 0.3,
      confidence: 0.95,
      guard: 'strict',
      wantedPct: 2,
    });
    expect(p.metrics.map((m) => m.assumed)).toEqual([false, true]);
    expect(p.mountAssumed).toBe(true);
    expect(p.curve.map((c) => c.oneMount!)).toEqual(
      [...p.curve.map((c) => c.oneMount!)].sort((a, b) => b - a),
    );
    // At two pulls a run the mountings' degrees of freedom make up for what they cost.
    for (const c of p.curve.filter(({ pulls }) => pulls > 2))
      expect(c.remounted!).toBeGreaterThan(c.oneMount!);
    expect(p.returns[0].pct90!).toBeGreaterThan(p.returns[1].pct90!);
    expect(p.returns.map((r) => r.driftShare > 0)).toEqual([true, false]);
  });
});

// ── Schedule ────────────────────────────────────────────────────────────────

const HOUR = 3_600_000;
const DAY0 = Date.UTC(2026, 10, 16);
const day = (i: number): Span => ({
  start: DAY0 + i * 24 * HOUR + 8 * HOUR,
  end: DAY0 + i * 24 * HOUR + 17 * HOUR,
});
const anyPlan = fc
  .record({
    id: fc.uuid(),
    dynoIds: fc.subarray(['d1', 'd2', 'closed'], { minLength: 1 }),
    vehicleId: fc.constantFrom('v1', 'v2', 'v3'),
    blocks: fc.array(
      fc.record({ minutes: fc.integer({ min: 20, max: 400 }), pulls: fc.integer({ min: 1, max: 12 }) }),
      { minLength: 1, maxLength: 4 },
    ),
    gap: fc.integer({ min: 0, max: 200 }),
    priority: fc.integer({ min: 0, max: 9 }),
    notBefore: fc.option(fc.integer({ min: 0, max: 9 }).map((i) => DAY0 + i * 24 * HOUR)),
    due: fc.option(fc.integer({ min: 1, max: 12 }).map((i) => DAY0 + i * 24 * HOUR)),
  })
  .map(({ gap, ...plan }): ScheduledPlan => ({
    ...plan,
    gapMinutes: plan.blocks.slice(1).map(() => gap),
    baselineKey: `${plan.vehicleId} ${plan.dynoIds[0]}`,
  }));
const anySchedule = fc.record({
  plans: fc.uniqueArray(anyPlan, { selector: (p) => p.id, maxLength: 12 }),
  fixedDay: fc.option(fc.integer({ min: 0, max: 9 })),
  away: fc.boolean(),
});

describe('schedule', () => {
  it('no overlap, no vehicle in two places, in opening hours, every planned pull placed or reported', () =>
    fc.assert(
      fc.property(anySchedule, ({ plans, fixedDay, away }) => {
        const openings = new Map([
          ['d1', Array.from({ length: 10 }, (_, i) => day(i))],
          ['d2', [day(1), day(3), day(6)]],
          ['closed', []],
        ]);
        const fixed: Placement[] =
          fixedDay === null
            ? []
            : [
                {
                  planId: 'fixed',
                  dynoId: 'd1',
                  vehicleId: 'v1',
                  start: day(fixedDay).start + HOUR,
                  end: day(fixedDay).start + 4 * HOUR,
                  blocks: [
                    { start: day(fixedDay).start + HOUR, end: day(fixedDay).start + 2 * HOUR },
                    { start: day(fixedDay).start + 3 * HOUR, end: day(fixedDay).start + 4 * HOUR },
                  ],
                },
              ];
        const vehicles = new Map<string, Span[]>(
          away ? [['v2', [{ start: DAY0 + 48 * HOUR, end: DAY0 + 120 * HOUR }]]] : [],
        );
        const whenThere = (id: string) => vehicles.get(id);
        const { placements, unplaced } = suggestSchedule({ plans, openings, whenThere, fixed, from: DAY0 });
        const all = [...placements, ...fixed];
        for (const [i, a] of all.entries())
          for (const b of all.slice(i + 1)) {
            if (a.vehicleId === b.vehicleId) expect(overlaps(a, b)).toBe(false);
            if (a.dynoId === b.dynoId)
              for (const x of a.blocks) for (const y of b.blocks) expect(overlaps(x, y)).toBe(false);
          }
        const placed = new Map(placements.map((p) => [p.planId, p]));
        const reported = new Map(unplaced.map((u) => [u.planId, u]));
        for (const plan of plans) {
          const place = placed.get(plan.id);
          expect(placed.has(plan.id) !== reported.has(plan.id)).toBe(true);
          if (!place) {
            expect(reported.get(plan.id)!.pulls).toBe(plan.blocks.reduce((s, b) => s + b.pulls, 0));
            continue;
          }
          expect(plan.dynoIds).toContain(place.dynoId);
          expect(openings.get(place.dynoId)!.some((o) => o.start <= place.start && o.end >= place.end)).toBe(
            true,
          );
          expect(place.blocks).toEqual(blocksAt(plan, place.start));
          if (plan.notBefore !== null) expect(place.start).toBeGreaterThanOrEqual(plan.notBefore);
          if (plan.due !== null) expect(place.end).toBeLessThanOrEqual(plan.due);
          expect(placementProblems(place, { openings, whenThere, fixed: all })).toEqual([]);
        }
        expect(
          suggestSchedule({ plans: [...plans].reverse(), openings, whenThere, fixed, from: DAY0 }),
        ).toEqual({ placements, unplaced });
      }),
      { numRuns: 150 },
    ));
  const one = (id: string, change: Partial<ScheduledPlan> = {}): ScheduledPlan => ({
    id,
    dynoIds: ['d1'],
    vehicleId: id,
    blocks: [{ minutes: 240, pulls: 18 }],
    gapMinutes: [],
    baselineKey: id,
    priority: 5,
    notBefore: null,
    due: null,
    ...change,
  });
  const ask = (plans: ScheduledPlan[]) =>
    suggestSchedule({
      plans,
      openings: new Map([['d1', [day(0), day(1)]]]),
      whenThere: () => undefined,
      fixed: [],
      from: DAY0,
    });
  it('tests of one car and baseline follow each other, even before more urgent ones', () => {
    const { placements } = ask([
      one('a', { vehicleId: 'car', baselineKey: 'k', priority: 9 }),
      one('b', { vehicleId: 'car', baselineKey: 'k', priority: 1 }),
      one('c', { priority: 5 }),
    ]);
    expect(placements.map((p) => p.planId)).toEqual(['a', 'b', 'c']);
    expect(placements[1].start).toBe(placements[0].end);
  });
  it('the dyno is free for others while a car is off the rollers', () => {
    const { placements } = ask([
      one('long', {
        blocks: [
          { minutes: 60, pulls: 6 },
          { minutes: 60, pulls: 6 },
        ],
        gapMinutes: [300],
        priority: 9,
      }),
      one('short', { blocks: [{ minutes: 240, pulls: 18 }] }),
    ]);
    expect(placements.map((p) => [p.planId, (p.start - day(0).start) / HOUR])).toEqual([
      ['long', 0],
      ['short', 1],
    ]);
  });
  it('says why something has no place', () => {
    expect(ask([one('a', { dynoIds: ['none'] })]).unplaced[0].code).toBe('NO_DYNO');
    expect(ask([one('a', { blocks: [{ minutes: 600, pulls: 40 }] })]).unplaced[0]).toEqual({
      planId: 'a',
      pulls: 40,
      code: 'LONGER_THAN_ANY_DAY',
    });
    expect(ask([one('a', { due: day(0).start })]).unplaced[0].code).toBe('NO_ROOM_BEFORE_DUE');
    expect(ask(['a', 'b', 'c', 'd', 'e'].map((id) => one(id))).unplaced.map((u) => u.code)).toEqual([
      'NO_ROOM',
    ]);
  });
  it('spans less gaps', () =>
    expect(
      without(
        [{ start: 0, end: 10 }],
        [
          { start: 2, end: 4 },
          { start: 9, end: 12 },
        ],
      ),
    ).toEqual([
      { start: 0, end: 2 },
      { start: 4, end: 9 },
    ]));
});

test('opening hours follow the wall clock: the day the clocks go back is an hour longer', () => {
  const spans = openingSpans([{ day: 7, from: '00:00', to: '24:00' }], 'Europe/Oslo', '2026-10-18', 14);
  expect(spans.map((s) => (s.end - s.start) / HOUR)).toEqual([24, 25]);
  expect(
    new Date(
      openingSpans([{ day: 1, from: '08:30', to: '16:00' }], 'Europe/Oslo', '2026-11-16', 1)[0].start,
    ).toISOString(),
  ).toBe('2026-11-16T07:30:00.000Z');
});

test('amendments weigh by when they came and what they changed', () => {
  const amendment = (at: string, ...fields: string[]) => ({
    number: 1,
    at,
    fields,
    reason: 'because it must be',
  });
  expect(amendmentsWeigh([], null).state).toBe('none');
  expect(amendmentsWeigh([amendment('2026-01-01', 'metrics')], '2026-01-02').state).toBe('before first pull');
  expect(amendmentsWeigh([amendment('2026-01-03', 'gear')], '2026-01-02').state).toBe('told');
  expect(
    amendmentsWeigh([amendment('2026-01-01', 'gear'), amendment('2026-01-03', 'band')], '2026-01-02'),
  ).toEqual({ state: 'decisive', fields: ['band'] });
});
