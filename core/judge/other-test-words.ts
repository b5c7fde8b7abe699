import { format, parseISO } from 'date-fns';
import { grouped } from '../base/grouped.ts';
import { intervalText } from '../base/rounding.ts';
import type { LeftOut, OtherTest } from './every-test.ts';

const CAUSES: { readonly [W in LeftOut['why']]: (left: Extract<LeftOut, { why: W }>) => string } = {
  'gate fails': () => 'a gate fails',
  'other range': ({ fromRpm, toRpm }) => `planned from ${grouped(fromRpm)} to ${grouped(toRpm)} rpm`,
  'other standard': ({ standard }) => `corrected otherwise (${standard})`,
  'other setting': ({ setting }) => `tested as “${setting}”`,
  'other fitment': ({ fitment }) => `on another fitment of the family, ${fitment}`,
  'like fitment': ({ fitment }) => `on a fitment with the same engine and output, ${fitment}`,
  'other revision': ({ revision, isChangeKnown }) =>
    `of revision ${revision}${isChangeKnown ? '' : '; what has changed between them is not recorded'}`,
  'like part': ({ part }) => `of “${part}” by the same maker`,
};
export const causeWords = (left: LeftOut): string => (CAUSES[left.why] as (l: LeftOut) => string)(left);

/** “9 Nov 2026” from 2026-11-09. */
const dayWords = (day: string): string => (day === '' ? '' : format(parseISO(day), 'd MMM yyyy'));

const intervalWords = ({ gain }: OtherTest): string => `${intervalText(gain, '%')} on average`;

/** Causes with which no number goes along: a gate fails, or it is another fitment’s. */
const WITHOUT_NUMBER: ReadonlySet<LeftOut['why']> = new Set(['gate fails', 'other fitment', 'like fitment']);

/** A test with where and when it was made and what it read, where its number may be told. */
export function otherTestWords(other: OtherTest): string {
  const where = `test ${other.number} (${[other.vehicle, other.dyno, dayWords(other.day)].filter(Boolean).join(', ')})`;
  if (other.left === null) return `${where}: ${intervalWords(other)}`;
  const reads = WITHOUT_NUMBER.has(other.left.why) ? '' : `${intervalWords(other)}, `;
  return `${where}: ${reads}${causeWords(other.left)}`;
}
export const otherTestsWords = (others: readonly OtherTest[]): string =>
  others.map(otherTestWords).join('; ');
