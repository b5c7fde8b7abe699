import type { Claim, ClaimState, DraftClaimRequest } from '../../contract/publish/claim.ts';

import type { ClaimOutcome, ClaimText } from '../../core/publish/claim.ts';

import { conflict, type RefusalError } from '../base/refusals.ts';

import { type Wording } from './wording.ts';

const MAY_FOLLOW: Record<'submit' | 'approve' | 'return' | 'withdraw', readonly ClaimState[]> = {
  submit: ['draft', 'returned'],
  approve: ['in review'],
  return: ['in review'],
  withdraw: ['published', 'in question', 'stale'],
};

const DONE = { submit: 'submitted', approve: 'approved', return: 'returned', withdraw: 'withdrawn' };

export type ClaimRow = Claim & { fitmentId: string };

export function checkStep(claim: Claim, step: keyof typeof MAY_FOLLOW): void {
  if (!MAY_FOLLOW[step].includes(claim.state))
    throw conflict(
      'WRONG_STATE',
      `The claim is ${claim.state}; it cannot be ${DONE[step]} now.`,
      'Reload and look again.',
    );
}

/** Refuses what the analysis does not let anybody say. */
export function claimable(
  { verdict, grade, facts, text, barred, overridden }: Wording,
  request: Pick<DraftClaimRequest, 'tells' | 'unit'>,
): ClaimText {
  const settled =
    request.tells === 'gain'
      ? verdict === 'claim'
      : ['claim', 'no gain shown', 'loss', 'send back to design'].includes(verdict);
  if (barred) throw conflict(barred.code, barred.message, barred.mend ?? 'See the gates.');
  if (grade === 'indicative' || !settled)
    throw conflict(
      'NOT_CLAIMABLE',
      `The verdict is “${verdict}”, grade “${grade}”: ${request.tells === 'gain' ? 'no claim' : 'nothing'} can be drafted.`,
      overridden
        ? 'A gate was overridden, which costs a grade: test again on another day, and both together can be claimed.'
        : 'See the failing gates for what would mend it.',
      { verdict },
    );
  if (request.tells === 'advice' && facts.product && verdict === 'claim')
    throw conflict(
      'GAIN_IS_SHOWN',
      'A gain of the part is shown: it is claimed, not told as advice.',
      'Draft the claim in the metric of the plan.',
    );
  if (text.ok) return text.value;
  throw whyNot(text, request, facts);
}

/** Why nothing can be said, in words. */
function whyNot(
  text: Extract<ClaimOutcome, { ok: false }>,
  request: Pick<DraftClaimRequest, 'unit'>,
  facts: Wording['facts'],
): RefusalError {
  switch (text.code) {
    case 'NOT_POSITIVE':
      return conflict(
        'ROUNDS_TO_NOTHING',
        `The lower limit, ${text.value!.toFixed(2)} ${request.unit}, rounds to nothing.`,
        'Claim it in a finer unit (%), or not at all.',
      );
    case 'NO_PRODUCT':
      return conflict(
        'NOT_A_PRODUCT',
        `“${facts.subject.text}” is nothing that is sold: it is told as advice, never as a product’s gain.`,
        'Draft it as advice.',
      );
    case 'PEAK_AT_EDGE':
      return conflict(
        'PEAK_AT_EDGE',
        'The largest power lies at the edge of the window, so the peak itself was not reached.',
        'Claim another metric of the plan, or test with a wider window.',
      );
    case 'NOT_SHOWN_TOGETHER':
      return conflict(
        text.code,
        'All finished tests of this change on this fitment together show no gain.',
        'Tell it as advice, or test another vehicle: one that came out well does not stand for the others.',
      );
    case 'ANOTHER_TEST_SAYS_LESS':
    case 'ANOTHER_TEST_SAYS_MORE':
      return conflict(
        text.code,
        `Test ${text.test} of the same change says ${text.code === 'ANOTHER_TEST_SAYS_LESS' ? 'less' : 'more'} in this metric.`,
        `Draft it from test ${text.test}, which tells of this one; or claim the average in per cent, where all count.`,
        { test: text.test },
      );
    default:
      return conflict(text.code, 'This metric cannot be claimed in this unit.', 'Choose another unit.');
  }
}
