/** Findings that a person has to answer for before anything is published: the answer stands with them, never instead. */
import type { FindingAnswer } from '../capture/test-definition.ts';
import type { Finding } from './finding.ts';

/** What only somebody who has looked at car and log can settle; everything else is mended, not answered. */
export const ANSWERED_BY_PEOPLE: ReadonlySet<string> = new Set(['LEAN_MIXTURE', 'KNOCK_SEEN']);

/** An answer is to the very words of a finding: another pull, another reading, and it has to be answered anew. */
export function withAnswers(findings: readonly Finding[], answers: readonly FindingAnswer[] = []): Finding[] {
  return findings.map((finding) => {
    const answer =
      finding.state === 'fail' && ANSWERED_BY_PEOPLE.has(finding.code)
        ? answers.findLast((a) => a.code === finding.code && a.message === finding.message)
        : undefined;
    return answer ? { ...finding, state: 'caution', answer: { by: answer.by, text: answer.text } } : finding;
  });
}
