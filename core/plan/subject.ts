/**
 * What a claim is about: the arm decides, not the test's first part. A combination is never evidence for
 * one of its parts, a calibration by itself never a part's gain, and a change that is no product is told as advice.
 */
import type { ClaimScope } from './arm-types.ts';
import type { Difference } from '../register/ledger.ts';

export const SUBJECT_KINDS = [
  'part',
  'part with what it needs',
  'part with calibration',
  'setting',
  'calibration',
  'combination',
  'condition',
] as const;
export type SubjectKind = (typeof SUBJECT_KINDS)[number];

export interface ClaimSubject {
  readonly kind: SubjectKind;
  /** The headline: part or parts with revision and setting, calibration, and the baseline where it is not stock. */
  readonly text: string;
  /** What it was measured against, where that is not stock. */
  readonly against: string | null;
}

export interface SubjectFacts {
  readonly scope: ClaimScope;
  /** Everything in which the arm differs from the baseline. */
  readonly differences: readonly Difference[];
  /** What an arm is called by people, where nothing else names it. */
  readonly label: string;
  /** The baseline in words where it is not stock. */
  readonly against: string | null;
}

const CONDITIONS = new Set(['fuel', 'tyres', 'other change']);

/** A difference as it stands in a headline. */
function named({ subject, from, to }: Difference): string {
  if (subject === 'calibration') return to === 'stock' ? 'the stock calibration' : `calibration ${to}`;
  if (subject === 'other change') return to === 'undone' ? `without ${from}` : to;
  if (CONDITIONS.has(subject)) return `${subject} ${to}`;
  return to === 'stock' ? `stock ${subject}` : to;
}

/** Which kind of subject follows from what differs; a condition has no part and no calibration in it. */
export function subjectKind({
  scope,
  differences,
}: Pick<SubjectFacts, 'scope' | 'differences'>): SubjectKind {
  if (differences.length > 0 && differences.every((d) => CONDITIONS.has(d.subject) || d.to === 'stock'))
    return 'condition';
  switch (scope) {
    case 'part alone':
      return 'part';
    case 'part with what it needs':
      return 'part with what it needs';
    case 'part with its calibration':
      return 'part with calibration';
    case 'setting of the part':
      return 'setting';
    case 'calibration alone':
      return 'calibration';
    case 'combination':
    case 'nothing':
      return 'combination';
  }
}

const order = (d: Difference): number =>
  CONDITIONS.has(d.subject) ? 2 : d.subject === 'calibration' ? 1 : 0;

/** What an arm changes, in words. */
export function subjectText(facts: Pick<SubjectFacts, 'scope' | 'differences' | 'label'>): string {
  const sorted = [...facts.differences].sort((a, b) => order(a) - order(b));
  const text =
    subjectKind(facts) === 'setting' && sorted.length === 1
      ? `${sorted[0].to} instead of ${sorted[0].from}`
      : sorted.map(named).join(' with ');
  return text || facts.label;
}

/**
 * The headline of a claim. Parts come first, then the calibration, then surroundings; nothing that differs is left out.
 * A setting by itself names the part it is a setting of and the setting it was held against.
 */
export function claimSubject(facts: SubjectFacts): ClaimSubject {
  return {
    kind: subjectKind(facts),
    text: `${subjectText(facts)}${facts.against ? ` against ${facts.against}` : ''}`,
    against: facts.against,
  };
}

/** Whether a subject is something sold, so that its gain may be claimed; the rest is advice. */
export const isProduct = (kind: SubjectKind): boolean => kind !== 'condition';

/** Whether a claim about it stands as the part's own evidence. */
export const isPartsOwn = (kind: SubjectKind): boolean =>
  kind === 'part' || kind === 'part with what it needs' || kind === 'part with calibration';
