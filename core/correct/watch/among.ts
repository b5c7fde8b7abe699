/** One recording among the others, and how what is off with it is said. */
import { grouped } from '../../base/grouped.ts';
import { median } from '../../base/robust.ts';
import type { RecordingSummary } from '../../capture/session/recording-summary.ts';
import type { Notice, NoticeCode, WatchedPlan, WatchedRecording } from './notice.ts';

export const rpm = (value: number): string => `${grouped(Math.round(value))} rpm`;
export const pct = (share: number, digits = 0): string => `${(100 * Math.abs(share)).toFixed(digits)} %`;

export type About = (code: NoticeCode, tone: Notice['tone'], message: string, advice: string) => Notice;
export interface Among {
  readonly recording: WatchedRecording;
  readonly about: About;
  /** Every other recording, and those of the same arm. */
  readonly others: readonly WatchedRecording[];
  readonly alike: readonly WatchedRecording[];
  /** The one before it. */ readonly before: WatchedRecording | undefined;
  readonly plan: WatchedPlan;
}
export type Check = (among: Among) => (Notice | false | null | undefined)[];

export const usual = (
  list: readonly WatchedRecording[],
  of: (s: RecordingSummary) => number | null,
): number | null => {
  const values = list.map((r) => of(r.summary)).filter((v) => v !== null);
  return values.length > 0 ? median(values) : null;
};
