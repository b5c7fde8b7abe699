/**
 * The comparison without return on simulated sessions: two mountings of the baseline, two of the part, three pulls
 * each, a control vehicle of three pulls on a mounting of its own before and after each arm. Variances of mountings and
 * days are registered from a control study of their own. What moves between the arms moves the control vehicle too,
 * wholly or in part. Asked: how often the interval holds the gain that is there, how often one is claimed that is not,
 * and how often the control vehicle keeps the session back. One number a pull; curves follow the same terms.
 */
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { oneWayOf } from '../../core/compare/one-way.ts';
import { widerScalar } from '../../core/compare/by-temperature.ts';
import { scalarGain } from '../../core/compare/scalar-gain.ts';
import type { OneWayFacts } from '../../core/plan/one-way.ts';
import { controlStudy } from '../../core/register/dyno-health.ts';
import { registeredDay } from '../../core/register/control-state.ts';

export const ONE_WAY_SEED = 20271;
/** SD of a pull, of a mounting and of a day, lp: the noise of docs/method.md, days as in 2.3D. */
const [PULL, MOUNT, PULLS] = [0.7, 0.64, 3];
/** The control study that variances are registered from: days of two mountings and three pulls. */
const STUDY_DAYS = 12;

export interface OneWayDay {
  readonly name: string;
  /** SD of a day, lp. */ readonly day: number;
  /** Whether the arms are on days of their own. */ readonly apart: boolean;
  /** What moves between the arms, lp, and how much of it the control vehicle shows. */
  readonly moves: number;
  readonly shows: number;
}
export const ONE_WAY_DAYS: readonly OneWayDay[] = [
  { name: 'one day, nothing moves', day: 0.3, apart: false, moves: 0, shows: 1 },
  { name: 'two days, SD of a day 0.3', day: 0.3, apart: true, moves: 0, shows: 1 },
  { name: 'two days, SD of a day 0.6', day: 0.6, apart: true, moves: 0, shows: 1 },
  { name: 'one day, dyno moves 1 lp', day: 0.3, apart: false, moves: 1, shows: 1 },
  { name: 'one day, dyno moves 2 lp', day: 0.3, apart: false, moves: 2, shows: 1 },
  { name: 'one day, dyno moves 3 lp', day: 0.3, apart: false, moves: 3, shows: 1 },
  { name: 'one day, the car alone moves 1 lp', day: 0.3, apart: false, moves: 1, shows: 0 },
];

const mounted = (rng: Rng, level: number): number[] => {
  const own = level + MOUNT * rng.normal();
  return Array.from({ length: PULLS }, () => own + PULL * rng.normal());
};

/** Variances as a house would have registered them: from a study of its own, as uncertain as that is. */
function registered(rng: Rng, daySd: number) {
  for (;;) {
    const study = controlStudy(
      Array.from({ length: STUDY_DAYS }, (_, day) => day).flatMap((day) => {
        const level = daySd * rng.normal();
        return [0, 1].flatMap((k) => mounted(rng, level).map((y) => ({ y, day, mount: `${day} ${k}` })));
      }),
    )!;
    if (study.registered) return { mount: study.registered, day: registeredDay(study) };
  }
}

const HOUR = 3_600_000;
const at = (day: number, hour: number): string =>
  new Date(Date.UTC(2026, 0, 1 + day) + hour * HOUR).toISOString();

const span = (mount: number, arm: string, day: number, hour: number) => ({
  mount,
  arm,
  from: at(day, hour),
  to: at(day, hour + 0.5),
  day: String(day),
});

/** One session: what the interval says of a gain of `truth`, and whether the control vehicle holds it back. */
function session(rng: Rng, { day: daySd, apart, moves, shows }: OneWayDay, truth: number) {
  const known = registered(rng, daySd);
  const days = [daySd * rng.normal(), apart ? daySd * rng.normal() : NaN];
  const dayOfPart = apart ? 1 : 0;
  const partLevel = (apart ? days[1] : days[0]) + moves;
  const pulls = [
    ...[0, 1].map((k) => ({ arm: 0 as const, mount: k, values: mounted(rng, days[0]) })),
    ...[2, 3].map((k) => ({ arm: 1 as const, mount: k, values: mounted(rng, partLevel + truth) })),
  ];
  const control = [
    { day: 0, hour: 7, level: days[0] },
    { day: 0, hour: 10, level: days[0] },
    { day: dayOfPart, hour: apart ? 7 : 12, level: (apart ? days[1] : days[0]) + shows * moves },
    { day: dayOfPart, hour: 15, level: (apart ? days[1] : days[0]) + shows * moves },
  ];
  const facts: OneWayFacts = {
    forGood: ['drilled'],
    control: 'control',
    controlChanged: false,
    checks: control.map((c) => ({
      at: at(c.day, c.hour),
      day: String(c.day),
      warmUps: 3,
      values: mounted(rng, c.level),
    })),
    mountings: [
      span(0, 'a', 0, 8),
      span(1, 'a', 0, 9),
      span(2, 'b', dayOfPart, 13),
      span(3, 'b', dayOfPart, 14),
    ],
  };
  const alpha = 0.025;
  const one = oneWayOf(facts, { arm: 'b', against: 'a', repeatability: known, alpha });
  const layout = {
    arm: pulls.flatMap((p) => p.values.map(() => p.arm)),
    run: pulls.flatMap((p) => p.values.map(() => p.mount)),
    mount: pulls.flatMap((p) => p.values.map(() => p.mount)),
    order: Array.from({ length: 4 * PULLS }, (_, i) => i),
    covariate: false,
  };
  const { difference, own } = one.moved!;
  const values = pulls.flatMap((p) => p.values);
  const gain = widerScalar(
    scalarGain(values, null, layout, { alpha, mount: known.mount, day: one.day }, 'strict'),
    scalarGain(
      values.map((v, i) => v - layout.arm[i] * difference),
      null,
      layout,
      { alpha, mount: known.mount, control: own },
      'strict',
    ),
  );
  const held = one.gaps.length > 0 || Math.abs(one.moved!.difference) > one.moved!.limit;
  return { held, lower: gain.lower, upper: gain.upper, half: (gain.upper - gain.lower) / 2 };
}

export interface OneWayRates {
  /** Sessions the control vehicle keeps back, %. */ readonly held: number;
  /** Of those it lets through: limits that hold the gain, lower limits above it, gains shown; % of all sessions. */
  readonly covered: number;
  readonly tooMuch: number;
  readonly shown: number;
  readonly half: number;
}
export function oneWayRates(day: OneWayDay, truth: number, sessions: number, seed: number): OneWayRates {
  const rng = seededRng(seed);
  const all = Array.from({ length: sessions }, () => session(rng, day, truth));
  const through = all.filter((s) => !s.held);
  const share = (of: readonly unknown[], base: readonly unknown[]): number =>
    base.length === 0 ? NaN : (100 * of.length) / base.length;
  return {
    held: share(
      all.filter((s) => s.held),
      all,
    ),
    covered: share(
      through.filter((s) => s.lower <= truth && s.upper >= truth),
      through,
    ),
    tooMuch: share(
      through.filter((s) => s.lower > truth),
      all,
    ),
    shown: share(
      through.filter((s) => s.lower > 0),
      all,
    ),
    half: through.reduce((sum, s) => sum + s.half, 0) / through.length,
  };
}

export function oneWayReport(sessions: number, seed = ONE_WAY_SEED): string {
  const rows = ONE_WAY_DAYS.map((day, i) => {
    const none = oneWayRates(day, 0, sessions, seed + i);
    const gain = oneWayRates(day, 4, sessions, seed + 100 + i);
    const cells = [none.held, none.covered, none.tooMuch, gain.shown, none.half];
    return `| ${day.name} | ${cells.map((v) => v.toFixed(1)).join(' | ')} |`;
  });
  return [
    '| session | held back, % | limits hold the gain, % of those let through | ' +
      'claimed though there is none, % of all | +4 lp shown, % | half-width, lp |',
    '|---|---|---|---|---|---|',
    ...rows,
  ].join('\n');
}
