/** Answering for a finding that bars a claim until somebody has. */
import { z } from 'zod';

export const LEAST_ANSWER = 20;
export const AnswerRequest = z.object({
  /** The analysis that was on the screen: an answer to what one has not seen is none. */
  analysisId: z.uuid(),
  code: z.string().max(60),
  /** The arm the finding is about, where there are several. */ arm: z.string().max(40).optional(),
  text: z.string().trim().min(LEAST_ANSWER).max(2000),
});
export type AnswerRequest = z.infer<typeof AnswerRequest>;
