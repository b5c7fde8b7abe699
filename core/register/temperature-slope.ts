/**
 * How a dyno's results follow a start temperature: one slope from its own finished sessions, never from the one that
 * is judged. A pull that starts warmer reads less; where the past shows by how much, and shows it the same from
 * session to session, arms that started unequally warm can be brought to one temperature.
 */

/** What arms may be compared by: never a temperature that the part or its fitting can change, as intake air. */
export const START_SENSORS = ['coolant', 'oil', 'cell air'] as const;
export type StartSensor = (typeof START_SENSORS)[number];

/**
 * How far apart the arms may start: effect by a registered slope, lp, and difference without one, K (no caution, no
 * failure); and however well the slope is known, K: further apart it is not known to be a straight line.
 */
export const START_LIMITS = {
  effectLp: [0.25, 0.5],
  apartK: [1, 2],
  mostK: { coolant: 4, oil: 4, 'cell air': 3 },
} as const satisfies {
  readonly effectLp: readonly [number, number];
  readonly apartK: readonly [number, number];
  readonly mostK: Readonly<Record<StartSensor, number>>;
};

/** A finished session: pulls in the order they ran, with band average (lp), start temperature (°C) and run of each. */
export interface SlopeSession {
  readonly y: readonly number[];
  readonly T: readonly number[];
  readonly run: readonly (number | string)[];
}
/** What an analysis uses of a registered slope. */
export interface TemperatureSlope {
  /** lp per K. */ readonly b: number;
  /** Its variance, (lp/K)², with what it varies by from session to session. */ readonly V: number;
  readonly df: number;
}
/** Why a slope is not registered: too few sessions or pulls, not clear, no gain in scatter, not the same everywhere. */
export type SlopeReason = 'SESSIONS' | 'DF' | 'NOT_CLEAR' | 'NO_BENEFIT' | 'SLOPE_VARIES';
export interface SlopeRegistration extends TemperatureSlope {
  readonly registered: boolean;
  readonly reasons: readonly SlopeReason[];
  /** Sessions in which the temperature moved at all, and residual degrees of freedom over them. */
  readonly sessions: number;
  readonly dfTotal: number;
  /** Drift of temperature and of result per position in a run, taken out before: else adaptation would pass for a slope. */
  readonly gammaT: number;
  readonly gammaY: number;
  /** Scatter that the slope leaves, lp². */ readonly s2: number;
  /** Variance of the slope if it is one and the same, and by how the sessions differ. */
  readonly seModel2: number;
  readonly seCluster2: number;
  readonly se2: number;
  /** Variance of the slope between sessions. */ readonly tau2: number;
  readonly t: number;
  /** Share of the scatter within sessions that it explains. */ readonly R2: number;
  /** Scatter of the temperature within runs, K. */ readonly sdT: number;
  readonly perSession: readonly number[];
}

/** Fewer than two sessions say anything: there is no slope to tell of. */
export interface NoSlopeYet {
  readonly registered: false;
  readonly reasons: readonly ['SESSIONS'];
  readonly sessions: number;
}

/** What a slope must show to be registered. */
export const SLOPE_RULE = { sessions: 6, df: 30, clear: 3, benefit: 0.1, noVariation: 1e-9 } as const;

interface Centred {
  readonly t: number[];
  readonly y: number[];
  readonly p: number[];
  readonly df: number;
}
const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, i) => sum + v * b[i], 0);
const total = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

/** Everything about the means of its run; p is the position in the run. */
function centred({ y, T, run }: SlopeSession): Centred {
  const runs = new Map<number | string, number[]>();
  run.forEach((r, i) => runs.set(r, [...(runs.get(r) ?? []), i]));
  const out: Centred = { t: [], y: [], p: [], df: y.length - runs.size };
  for (const members of runs.values()) {
    const mean = (of: (i: number, k: number) => number): number => total(members.map(of)) / members.length;
    const [mt, my, mp] = [mean((i) => T[i]), mean((i) => y[i]), mean((_, k) => k)];
    members.forEach((i, k) => {
      out.t[i] = T[i] - mt;
      out.y[i] = y[i] - my;
      out.p[i] = k - mp;
    });
  }
  return out;
}

/**
 * Registers a slope, or says why not (method: start temperature). Sessions in which the temperature did not move say
 * nothing and drop out.
 */
export function registerSlope(sessions: readonly SlopeSession[]): SlopeRegistration | NoSlopeYet {
  const used = sessions.map(centred).filter(({ t }) => dot(t, t) > SLOPE_RULE.noVariation);
  const M = used.length;
  if (M < 2) return { registered: false, reasons: ['SESSIONS'], sessions: M };
  const pp = total(used.map(({ p }) => dot(p, p)));
  const perPosition = (of: (s: Centred) => number[]): number =>
    pp === 0 ? 0 : total(used.map((s) => dot(s.p, of(s)))) / pp;
  const [gammaT, gammaY] = [perPosition((s) => s.t), perPosition((s) => s.y)];
  const sums = used.map(({ t, y, p }) => {
    const [tt, yy] = [t.map((v, i) => v - gammaT * p[i]), y.map((v, i) => v - gammaY * p[i])];
    return { X: dot(tt, tt), XY: dot(tt, yy), YY: dot(yy, yy) };
  });
  return registration(sums, total(used.map((s) => s.df)), { gammaT, gammaY });
}

function registration(
  sums: readonly { readonly X: number; readonly XY: number; readonly YY: number }[],
  dfTotal: number,
  drift: { readonly gammaT: number; readonly gammaY: number },
): SlopeRegistration {
  const M = sums.length;
  const [X, XY, YY] = [
    total(sums.map((s) => s.X)),
    total(sums.map((s) => s.XY)),
    total(sums.map((s) => s.YY)),
  ];
  const b = XY / X;
  const s2 = (YY - b * XY) / (dfTotal - 2);
  const perSession = sums.map((s) => s.XY / s.X);
  const Q = total(sums.map((s, i) => s.X * (perSession[i] - b) ** 2)) / s2;
  const C = (X - total(sums.map((s) => s.X ** 2)) / X) / s2;
  const tau2 = Math.max(0, (Q - (M - 1)) / C);
  const seModel2 = s2 / X;
  const seCluster2 = ((M / (M - 1)) * total(sums.map((s, i) => (s.X * (perSession[i] - b)) ** 2))) / X ** 2;
  const se2 = Math.max(seModel2, seCluster2);
  const t = b / Math.sqrt(se2);
  const R2 = 1 - s2 / (YY / (dfTotal - 1));
  const reasons: SlopeReason[] = [];
  if (M < SLOPE_RULE.sessions) reasons.push('SESSIONS');
  if (dfTotal < SLOPE_RULE.df) reasons.push('DF');
  if (!(Math.abs(t) >= SLOPE_RULE.clear)) reasons.push('NOT_CLEAR');
  if (!(R2 >= SLOPE_RULE.benefit)) reasons.push('NO_BENEFIT');
  if (tau2 > (b / 2) ** 2) reasons.push('SLOPE_VARIES');
  return {
    registered: reasons.length === 0,
    reasons,
    sessions: M,
    dfTotal,
    ...drift,
    b,
    s2,
    seModel2,
    seCluster2,
    se2,
    tau2,
    V: Math.max(se2 + tau2, (b / 2) ** 2),
    df: M - 1,
    t,
    R2,
    sdT: Math.sqrt(X / (dfTotal - 1)),
    perSession,
  };
}
