/**
 * What is off in a session while the car is still on the rollers: each recording held against the plan and against
 * the others. Thresholds are those of the gates (docs/method.md), where a gate has one; the others are common practice.
 */
import type { Among, Check } from './watch/among.ts';
import { mixture, starts } from './watch/engine-state.ts';
import type { Notice, WatchedPlan, WatchedRecording } from './watch/notice.ts';
import { air, recorders } from './watch/recorders.ts';
import { readings, sweep } from './watch/sweep-and-readings.ts';

/** A trend is looked for in the last five pulls of a run, from four on. */
const TREND = { least: 4, most: 5, slope: 0.35, t: 3 };
const WIDE = 1.5;
const AIR_ALIKE = 4;
const CHECKS_OF_ONE: readonly Check[] = [sweep, readings, starts, mixture, recorders, air];

/** Slope of the last few levels, lp a pull, with its t value. */
function trendOf(levels: readonly number[]): { slope: number; t: number } {
  const n = levels.length;
  const meanX = (n - 1) / 2;
  const meanY = levels.reduce((a, b) => a + b, 0) / n;
  let [sxx, sxy] = [0, 0];
  levels.forEach((y, x) => {
    sxx += (x - meanX) ** 2;
    sxy += (x - meanX) * (y - meanY);
  });
  const slope = sxy / sxx;
  const rest = levels.reduce((sum, y, x) => sum + (y - meanY - slope * (x - meanX)) ** 2, 0);
  return { slope, t: slope / Math.sqrt(Math.max(rest / (n - 2), 1e-6) / sxx) };
}

/** The run a session is in: uninterrupted pulls of one arm, up to the last. */
function presentRun(recordings: readonly WatchedRecording[]): WatchedRecording[] {
  const last = recordings.at(-1);
  if (!last) return [];
  let first = recordings.length - 1;
  while (first > 0 && recordings[first - 1].arm === last.arm && recordings[first - 1].run === last.run)
    first -= 1;
  return recordings.slice(first);
}
function trendNotice(recordings: readonly WatchedRecording[]): Notice[] {
  const levels = presentRun(recordings)
    .map((r) => r.summary.level)
    .filter((l) => l !== null)
    .slice(-TREND.most);
  if (levels.length < TREND.least) return [];
  const { slope, t } = trendOf(levels);
  if (Math.abs(slope) < TREND.slope || Math.abs(t) < TREND.t) return [];
  const by = `${Math.abs(slope).toFixed(1)} % a pull over the last ${levels.length}`;
  return [
    slope > 0
      ? {
          code: 'STILL_RISING',
          recordingId: null,
          tone: 'ask',
          message: `The car is still rising, ${by}.`,
          advice: 'It adapts or warms up: make further warm-up pulls before counting.',
        }
      : {
          code: 'FALLING',
          recordingId: null,
          tone: 'ask',
          message: `The pulls fall, ${by}.`,
          advice: 'Heat soak or something wearing: cool down longer and look.',
        },
  ];
}

/** SD of the counted pulls about the means of their runs, lp; null with fewer than two in every run. */
export function spreadOf(
  recordings: readonly WatchedRecording[],
): { readonly sd: number; readonly pulls: number } | null {
  const runs = new Map<string, number[]>();
  for (const { run, arm, counted, summary } of recordings)
    if (counted && summary.level !== null)
      runs.set(`${run} ${arm}`, [...(runs.get(`${run} ${arm}`) ?? []), summary.level]);
  let [ss, df, pulls] = [0, 0, 0];
  for (const levels of runs.values()) {
    const mean = levels.reduce((a, b) => a + b, 0) / levels.length;
    ss += levels.reduce((sum, l) => sum + (l - mean) ** 2, 0);
    df += levels.length - 1;
    pulls += levels.length;
  }
  return df > 0 ? { sd: Math.sqrt(ss / df), pulls } : null;
}

function stuckAir(recordings: readonly WatchedRecording[]): Notice[] {
  const last = recordings.slice(-AIR_ALIKE).map((r) => r.summary.air);
  const alike =
    last.length === AIR_ALIKE &&
    last.every(
      (a) =>
        a !== null &&
        (['temperatureC', 'pressureHpa', 'humidityPct'] as const).every((k) => a[k] === last[0]![k]),
    );
  return alike
    ? [
        {
          code: 'AIR_STUCK',
          recordingId: null,
          tone: 'ask',
          message: `The weather station has said the very same for ${AIR_ALIKE} pulls.`,
          advice: 'No air stands that still: check the station.',
        },
      ]
    : [];
}

/**
 * Every notice of a session, recording by recording in the order they were made, then those of the session.
 * @param recordings complete ones with their summaries, in true order
 */
export function watchSession(recordings: readonly WatchedRecording[], plan: WatchedPlan): Notice[] {
  const spread = spreadOf(recordings);
  const ofOne = recordings.flatMap((recording, k) => {
    const others = recordings.filter((o) => o !== recording);
    const among: Among = {
      recording,
      others,
      alike: others.filter((o) => o.arm === recording.arm),
      before: recordings[k - 1],
      plan,
      about: (code, tone, message, advice) => ({ code, recordingId: recording.id, tone, message, advice }),
    };
    return CHECKS_OF_ONE.flatMap((check) => check(among)).filter((n): n is Notice => Boolean(n));
  });
  return [
    ...ofOne,
    ...stuckAir(recordings),
    ...trendNotice(recordings),
    ...(spread && plan.historySd !== null && spread.pulls >= 4 && spread.sd > WIDE * plan.historySd
      ? [
          {
            code: 'SPREAD_WIDE' as const,
            recordingId: null,
            tone: 'ask' as const,
            message: `The counted pulls scatter by ${spread.sd.toFixed(1)} %, this dyno usually by ${plan.historySd.toFixed(1)} %.`,
            advice: 'Something is not as it should be: look for it before going on.',
          },
        ]
      : []),
  ];
}
