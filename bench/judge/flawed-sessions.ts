import type { TestFile } from '../../contract/judge/test-file.ts';
import {
  cells,
  changed,
  column,
  COLUMN,
  given,
  pulls,
  rewritten,
  type FlawedSession,
  type Flaw,
  type Wanted,
} from './flaws.ts';

const effect = (terms: readonly Record<string, unknown>[]) => ({
  arms: [
    { id: 'stock', role: 'baseline' as const },
    { id: 'part', role: 'part' as const, effect: terms },
  ],
});
const gains = (percent: number): Flaw => given(effect([{ kind: 'constant', percent }]));
const order = (...arms: string[]) => ({ order: arms });
const none = (...by: string[]): Wanted => ({ outcome: 'none', by });
const told = (...by: string[]): Wanted => ({ outcome: 'told', by });
const claim: Wanted = { outcome: 'claim' };
const session = (
  name: string,
  truth: FlawedSession['truth'],
  wanted: Wanted,
  ...flaws: Flaw[]
): FlawedSession => ({
  name,
  truth,
  wanted,
  flaws: [...(truth === 'mixed' ? [] : [gains(truth)]), ...flaws],
});

// ── Flaws ──
const air = (arm: string, change: Partial<NonNullable<TestFile['pulls'][number]['air']>>): Flaw =>
  pulls((p) => (p.arm === arm && p.air ? { ...p, air: { ...p.air, ...change } } : p));
const hotter = given({ starts: { lpPerK: -0.2, arms: { part: -7 } } });
const lateLock = changed((t) => ({
  ...t,
  plan: { lockedAt: '2026-05-01T12:00:00Z', firstPullAt: '2026-05-01T10:00:00Z' },
}));
const notLocked = changed((t) => ({ ...t, plan: { lockedAt: null, firstPullAt: '2026-05-01T10:00:00Z' } }));
const noPlan = changed(({ plan: _, ...t }) => t);
const amendedLate = changed((t) => ({
  ...t,
  plan: {
    ...t.plan!,
    amendments: [
      { number: 1, at: '2026-05-01T15:00:00Z', fields: ['metrics'], reason: 'the peak looked better' },
    ],
  },
}));
const partThrottle: Flaw = (made) =>
  column('stock', 'throttle', (v) => (v > 90 ? 72 : v))(column('stock', 'torque', (v) => 0.95 * v)(made));
const lean = column('part', 'lambda', (v) => (v < 1.2 ? v + 0.09 : v));
const otherGear = column('part', 'roller', (v) => 1.25 * v);
const poundFeet = column('stock', 'torque', (v) => v * 0.737562);
const exchanged = rewritten((text, pull, all) => {
  const other = { p1: 'p4', p2: 'p5', p3: 'p6', p4: 'p1', p5: 'p2', p6: 'p3' }[pull.id];
  return other ? all(other) : text;
});
const copied = rewritten((text, pull, all) => (pull.id === 'p5' ? all('p4') : text));
const copiedWithADigit = rewritten((text, pull, all) =>
  pull.id === 'p5'
    ? cells(all('p4'), (row, i) => (i === 40 ? [[COLUMN.torque, row[COLUMN.torque] + 0.1]] : []))
    : text,
);
const stuck = rewritten((text, pull) => {
  if (pull.id !== 'p4') return text;
  let held = 0;
  return cells(text, (row) => {
    const [rpm, torque] = [row[COLUMN.speed], row[COLUMN.torque]];
    if (rpm < 3500 || held === 0) held = torque;
    return rpm > 3500 && rpm < 5500 ? [[COLUMN.torque, held]] : [];
  });
});
const intervention = rewritten((text, pull) =>
  pull.arm === 'stock'
    ? cells(text, (row) =>
        row[COLUMN.speed] > 4200 && row[COLUMN.speed] < 4700
          ? [[COLUMN.torque, 0.72 * row[COLUMN.torque]]]
          : [],
      )
    : text,
);
const slip = (amount: number): Flaw => given({ faults: [{ pull: 2, kind: 'slip', amount }] });
const protocol = (change: Record<string, unknown>): Flaw =>
  given({ protocol: { ...order('stock', 'part', 'stock'), ...change } });
const drifts = (perPull: number): Flaw => given({ drift: perPull });
/** Low first pulls after the swap that go on into the counted ones. */
const adapts = (runs: 'all' | 'part' | 'first', shape: readonly number[]): Flaw =>
  given({ adaptation: { shape, runs } });
const excluded = (id: string, reason: string, more: Partial<TestFile['pulls'][number]> = {}): Flaw =>
  pulls((p) => (p.id === id ? { ...p, excluded: reason, ...more } : p));
const window = (fromRpm: number, toRpm: number): Flaw => given({ band: { fromRpm, toRpm, stepRpm: 50 } });
const mixed = given(effect([{ kind: 'ramp', fromRpm: 2600, toRpm: 5200, fromPercent: -8, toPercent: 7 }]));
const noisy = given({ noise: { level: 3, slow: 1.5, quick: 1 } });
const quiet = given({
  noise: { level: 0.01, slow: 0.01, quick: 0.01 },
  logger: { torquePercent: 0.01 },
});
const metric = (m: TestFile['metric']): Flaw => given({ metric: m });
const seaLevel = pulls((p) => (p.air ? { ...p, air: { ...p.air, pressureHpa: 1013, siteHeightM: 900 } } : p));
const unread: Flaw = (made) =>
  rewritten((text) => text.replace('Coolant temp (°C)', 'Spare (V)'))(
    changed((t) => ({ ...t, startTemperature: { sensor: 'coolant' } as never }))(made),
  );
const uncorrected = given({ standard: 'none' });
const swapAir = changed((t) => {
  const of = (id: string) => t.pulls.find((p) => p.id === id)!.air!;
  const to: Record<string, string> = {
    p1: 'p4',
    p2: 'p5',
    p3: 'p6',
    p4: 'p7',
    p5: 'p8',
    p6: 'p9',
    p7: 'p1',
    p8: 'p2',
    p9: 'p3',
  };
  return { ...t, pulls: t.pulls.map((p) => (to[p.id] ? { ...p, air: of(to[p.id]) } : p)) };
});
const warming = given({
  air: { temperatureC: 14, pressureHpa: 1003, humidityPct: 48, temperaturePerPull: 1.4 },
});

/** The wanted verdicts were written down before any of these was run. */
export const FLAWED_SESSIONS: readonly FlawedSession[] = [
  // Nothing is wrong.
  session('sound, +5 %', 5, claim),
  session('sound, +3 %, four pulls a run', 3, claim, protocol({ pulls: 4 })),
  session('sound, A-B-B-A, +4 %', 4, claim, protocol(order('stock', 'part', 'part', 'stock'))),
  session('sound, +6 %, slow drift that the order takes out', 6, claim, drifts(-0.1)),
  session(
    'sound, +5 %, an adaptation that the uncounted pulls take',
    5,
    claim,
    adapts('all', [-2, -1, -0.4, 0, 0, 0]),
  ),
  session(
    'sound, +5 %, a day that warms up, corrected',
    5,
    claim,
    given({
      air: { temperatureC: 18, pressureHpa: 1003, humidityPct: 48, temperaturePerPull: 0.1 },
    }),
  ),
  session('nothing gained', 0, none('NO_GAIN_SHOWN')),
  session('a loss', -3, none('LOSS_ON_AVERAGE', 'LOSS_SHOWN')),
  session('gain above, loss below', 'mixed', told('LOSS_TO_DISCLOSE'), mixed, metric('upTo')),
  session(
    'the same, planned only where it gains',
    'mixed',
    told('LOSS_OUTSIDE_WINDOW'),
    mixed,
    window(4200, 6500),
    metric('upTo'),
  ),
  // One flaw, and nothing gained.
  session('only stock at part throttle', 0, none('PART_THROTTLE'), partThrottle),
  session('only the part leaner', 0, none(), lean),
  session(
    'another gear with the part',
    0,
    none(),
    otherGear,
    column('part', 'torque', (v) => 1.04 * v),
  ),
  session('lb·ft in one arm under a head that says N·m', 0, none(), poundFeet),
  session('files of the arms exchanged, a part that loses', -4, none(), exchanged),
  session('one pull twice', 0, none('DUPLICATE_PULLS', 'COPIED_SAMPLES'), copied),
  session('one pull twice with a digit changed', 0, none(), copiedWithADigit),
  session('a sensor that stood still', 0, none(), stuck),
  session('torque taken back by the engine’s own control, only stock', 0, none(), intervention),
  session('part started 7 K colder', 0, none(), hotter),
  session('air of the part written 20 K hotter than it was', 0, none(), air('part', { temperatureC: 41 })),
  session('not corrected, the day warming by 24 K', 0, none(), uncorrected, warming),
  session('air readings moved to other pulls, the day warming', 0, none(), warming, swapAir),
  session('sea-level pressure at 900 m', 0, none('PRESSURE_NOT_OF_SITE'), seaLevel),
  session(
    'every run still rising, most of all with the part',
    0,
    none('ARM_STILL_MOVING', 'NO_GAIN_SHOWN', 'LOSS_ON_AVERAGE'),
    adapts('part', [0, 0, 0, -6, -3, 0]),
  ),
  session(
    'stock still rising before the part',
    0,
    none('ARM_STILL_MOVING', 'NO_GAIN_SHOWN', 'BASELINE_DID_NOT_RETURN'),
    adapts('first', [0, 0, 0, -6, -3, 0]),
  ),
  session(
    'no uncounted pulls, adapting after the swap',
    0,
    none('WARM_UP_NONE'),
    protocol({ warmUps: 0 }),
    adapts('all', [-3, -1, 0]),
  ),
  session('one pull a run', 0, none(), protocol({ pulls: 1 })),
  session(
    'strapped down anew for every run, nothing registered',
    0,
    none('NO_CLAIM_MOUNT_UNKNOWN'),
    protocol({ remount: true }),
  ),
  session('scatter of three per cent', 0, none('SCATTER_TOO_HIGH', 'SCATTER_ABOVE_HISTORY'), noisy),
  session('smoother than a dyno can be', 0, none(), quiet),
  session('a slip in one stock pull', 0, none(), slip(-14)),
  session(
    'drifting down by a quarter per cent a pull, A-B',
    0,
    none(),
    protocol(order('stock', 'part')),
    drifts(0.25),
  ),
  // One flaw, and a gain: what is not so must still not be said.
  session('+5 %, A-B without return', 5, none('AB_PROVISIONAL'), protocol(order('stock', 'part'))),
  session(
    '+5 %, A-B strapped down anew',
    5,
    none('AB_REMOUNTED', 'NO_CLAIM_MOUNT_UNKNOWN'),
    protocol({ ...order('stock', 'part'), remount: true }),
  ),
  session('+5 %, plan locked after the first pull', 5, none('PLAN_LOCKED_LATE'), lateLock),
  session('+5 %, plan never locked', 5, none('PLAN_NOT_LOCKED'), notLocked),
  session('+5 %, nobody knows of a plan', 5, none('PLAN_NOT_STATED'), noPlan),
  session('+5 %, metric amended after the result', 5, none('AMENDED_LATE'), amendedLate),
  session(
    '+5 %, a pull left out after the result',
    5,
    told('EXCLUDED_AFTER_RESULT'),
    excluded('p4', 'wheel slip', { excludedAfterResult: true }),
  ),
  session(
    '+5 %, a pull left out without its file',
    5,
    none('EXCLUDED_INCOMPLETE'),
    excluded('p4', 'wheel slip', { file: undefined, air: undefined }),
  ),
  session('+5 %, start temperature named and not written', 5, told('START_TEMPERATURE_NOT_RECORDED'), unread),
  // Two at once.
  session('part throttle in stock, plan locked late', 0, none('PART_THROTTLE'), partThrottle, lateLock),
  session(
    'lean part, a loss below the planned range',
    'mixed',
    none(),
    mixed,
    window(4200, 6500),
    metric('upTo'),
    lean,
  ),
  session('another gear and a slip in stock', 0, none(), otherGear, slip(-14)),
  session('lb·ft in stock and files exchanged', 0, none(), exchanged, poundFeet),
  session(
    'copied pull and one pull left out after the result',
    0,
    none(),
    copied,
    excluded('p6', 'wheel slip', { excludedAfterResult: true }),
  ),
  session(
    'drift and adaptation, no uncounted pulls',
    0,
    none(),
    protocol({ warmUps: 0 }),
    drifts(0.2),
    adapts('all', [-3, -1, 0]),
  ),
  session('colder start and hotter written air', 0, none(), hotter, air('part', { temperatureC: 41 })),
  session('noisy and re-mounted', 0, none(), noisy, protocol({ remount: true })),
  session('not corrected and stock at part throttle', 0, none(), uncorrected, warming, partThrottle),
  session(
    '+6 %, drift, a slip in stock left out with its cause',
    6,
    claim,
    drifts(-0.1),
    slip(-14),
    excluded('p2', 'wheel slip'),
  ),
];
