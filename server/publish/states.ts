import { sql } from 'drizzle-orm';
import type { ClaimState } from '../../contract/publish/claim.ts';
import { claims } from './tables.ts';

/** Whether a claim has a change under it that nobody has answered. */
export const inQuestion = sql<boolean>`exists (select 1 from unanswered_changes u where u.claim_id = ${claims.id})`;

/** The state a claim is shown in. Read wherever a claim is shown to anybody: one that is in question is never current. */
export const shownState = sql<ClaimState>`case when ${claims.state} = 'published'
  and ${inQuestion} then 'in question' else ${claims.state} end`;

/** Published, and nothing under it has changed without an answer. */
export const isCurrent = sql`(${claims.state} = 'published' and not ${inQuestion})`;

/** States between draft and publication. */
export const ON_THEIR_WAY: ('draft' | 'in review' | 'returned')[] = ['draft', 'in review', 'returned'];
/** Whether a check of the control vehicle has come under a claim that nobody has answered. */
export const askedByControl = sql<boolean>`exists (select 1 from unanswered_changes u
  where u.claim_id = ${claims.id} and u.kind = 'control')`;
