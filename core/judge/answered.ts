/** Findings that a person has to answer for before anything is published: the answer stands with them, never instead. */
import type { FindingAnswer } from '../capture/test-definition.ts';
import type { Finding } from './finding.ts';

/** What only somebody who has looked at car and log can settle; everything else is mended, not answered. */
export const ANSWERED_BY_PEOPLE: ReadonlySet<string> = new Set(['LEAN_MIXTURE', 'KNOCK_SEEN']);

/**
 * Fails of what is unusual, not of what is contradicted: their numbers are carried by the interval or borne out by
 * what a reviewer has looked at. A reviewer may let them stand, which costs a grade and is printed with every claim.
 */
export const OVERRIDDEN_BY_REVIEWERS: ReadonlySet<string> = new Set([
  'ARMS_A_UNIT_APART',
  'SCATTER_ABOVE_HISTORY',
  'SCATTER_FAR_BELOW_HISTORY',
]);

const isTo = (answer: FindingAnswer, finding: Finding): boolean =>
  answer.code === finding.code &&
  answer.message === finding.message &&
  (answer.arm === undefined || answer.arm === finding.arm);

/** An answer is to the very words of a finding: another pull, another reading, and it has to be answered anew. */
export function withAnswers(findings: readonly Finding[], answers: readonly FindingAnswer[] = []): Finding[] {
  return findings.map((finding) => {
    const isOverridden = OVERRIDDEN_BY_REVIEWERS.has(finding.code);
    const answer =
      finding.state === 'fail' && (isOverridden || ANSWERED_BY_PEOPLE.has(finding.code))
        ? answers.findLast((a) => isTo(a, finding))
        : undefined;
    if (!answer) return finding;
    const { by, text } = answer;
    return {
      ...finding,
      state: 'caution',
      answer: { by, text, ...(isOverridden ? { overrides: true } : {}) },
    };
  });
}
