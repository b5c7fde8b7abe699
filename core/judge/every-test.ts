/**
 * Every test counts: what is claimed of one test is held against all finished tests of the same change on the same
 * kind of car. The best of several is not published, and none is left out because of its result.
 */
import type { Interval, ContrastResult } from '../compare/result.ts';
import { found, type Found } from './finding.ts';
import type { Together } from './together.ts';

/** Why a test is not put together with another; none of these depends on how it came out. */
export type LeftOut =
  | { readonly why: 'gate fails' }
  | { readonly why: 'other range'; readonly fromRpm: number; readonly toRpm: number }
  | { readonly why: 'other standard'; readonly standard: string }
  | { readonly why: 'other setting'; readonly setting: string }
  /** Of the family, which the claim does not speak for: told, and its number never taken. */
  | { readonly why: 'other fitment'; readonly fitment: string }
  /** Of another family, of the same maker, with the same engine and output: it may be the same car. */
  | { readonly why: 'like fitment'; readonly fitment: string }
  /** What has changed between the revisions, if the register says it. */
  | { readonly why: 'other revision'; readonly revision: string; readonly isChangeKnown: boolean }
  /** Of the same maker and category, called nearly alike. */
  | { readonly why: 'like part'; readonly part: string };

/** Another finished test of the same part, as far as a claim has to tell of it. */
export interface OtherTest {
  readonly number: number;
  readonly vehicle: string;
  readonly dyno: string;
  readonly day: string;
  /** Average gain with limits, per cent. */ readonly gain: Interval;
  readonly left: LeftOut | null;
}
export interface EveryTest {
  readonly others: readonly OtherTest[];
  /** Those that count, the one that is claimed among them; null where none does. */
  readonly together: Together | null;
  /** Numbers of tests of the part that were begun and have no result: what they would have said is not known. */
  readonly unfinished: readonly number[];
  /** Of what the register has as another thing, and may be the same: for the house to see, never with the claim. */
  readonly kin: readonly OtherTest[];
}

/** Whether a test is of another thing by what the register says; a revision that tells no change is the same thing. */
export const isKin = (left: LeftOut | null): boolean =>
  left?.why === 'like part' ||
  left?.why === 'like fitment' ||
  (left?.why === 'other revision' && left.isChangeKnown);

/**
 * What all of them together support at least, lp: over three vehicles or more their mean’s lower limit, before that the
 * least of the vehicles’ own.
 */
export const supported = ({ vehicles, synthesis }: Together): number =>
  synthesis && vehicles.length > 2 ? synthesis.lower : Math.min(...vehicles.map((v) => v.lower));

/** Left out, though nothing is wrong with it, and it reads less than is claimed at least: that must be told. */
const speaksAgainst = ({ left, gain }: OtherTest, own: Interval): boolean =>
  left !== null && left.why !== 'gate fails' && gain.gain < own.lower;

export const tellsAgainst = (others: readonly OtherTest[], own: Interval): OtherTest[] =>
  others.filter((other) => speaksAgainst(other, own));

/** Tests of another revision, of a part or on a fitment much like it that read less: what is registered anew would begin from nothing. */
export function kinFindings(own: ContrastResult, { kin }: EveryTest): Found[] {
  const against = tellsAgainst(kin, own.relative.bandAverage);
  return against.length > 0 ? [found('every test counts', 'caution', 'KIN_READS_LESS', against)] : [];
}

export function everyTestGate(own: ContrastResult, { others, together, unfinished }: EveryTest): Found {
  if (others.length === 0 && unfinished.length === 0) return found('every test counts', 'pass', 'ONLY_TEST');
  const used = others.filter((other) => other.left === null);
  const { bandAverage } = own.relative;
  if (together && used.length > 0 && bandAverage.lower > 0 && supported(together) <= 0)
    return found('every test counts', 'fail', 'NOT_SHOWN_TOGETHER', used);
  const against = tellsAgainst(others, bandAverage);
  if (against.length > 0) return found('every test counts', 'caution', 'ANOTHER_READS_LESS', against);
  if (unfinished.length > 0) return found('every test counts', 'caution', 'ANOTHER_UNFINISHED', unfinished);
  const left = others.filter((other) => other.left !== null);
  return used.length > 0
    ? found('every test counts', 'pass', 'PUT_TOGETHER', used, left)
    : found('every test counts', 'pass', 'OTHERS_LEFT_OUT', left);
}
