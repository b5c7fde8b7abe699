/** Answers to findings that bar a claim until somebody has answered for them. */
import { asc, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AnswerRequest } from '../../contract/judge/answer.ts';
import type { FindingAnswer } from '../../core/capture/test-definition.ts';
import { REVIEW } from '../../contract/base/roles.ts';
import { ANSWERED_BY_PEOPLE, OVERRIDDEN_BY_REVIEWERS } from '../../core/judge/answered.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { lockTest } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden } from '../base/refusals.ts';
import { people } from '../base/tables.ts';
import { kept } from '../register/references.ts';
import type { JudgeService } from './service.ts';
import { findingAnswers } from './tables.ts';

/** In the order they were given. */
export async function answersOf(tx: Queryable, testId: string): Promise<FindingAnswer[]> {
  const rows = await tx
    .select({
      code: findingAnswers.code,
      message: findingAnswers.message,
      arm: findingAnswers.arm,
      text: findingAnswers.answer,
      by: people.name,
    })
    .from(findingAnswers)
    .innerJoin(people, eq(people.id, findingAnswers.answeredBy))
    .where(eq(findingAnswers.testId, testId))
    .orderBy(asc(findingAnswers.answeredAt), asc(findingAnswers.id));
  return rows.map(({ arm, ...row }) => ({ ...row, ...(arm === null ? {} : { arm }) }));
}

/**
 * Whether an answer to a finding lets stand what fails.
 * @throws RefusalError where this person may not, or where the finding is mended and not answered
 */
function overridesBy(person: Person, code: string): boolean {
  const overrides = OVERRIDDEN_BY_REVIEWERS.has(code);
  if (overrides && !REVIEW.includes(person.role))
    throw forbidden('Only a reviewer lets stand what fails a gate.');
  if (!overrides && !ANSWERED_BY_PEOPLE.has(code))
    throw conflict(
      'NOT_ANSWERED_BY_WORDS',
      'This finding is not settled by an answer.',
      'What mends it stands beside it.',
    );
  return overrides;
}

export function createAnswerService(
  { db, now, newId }: Needs,
  judge: JudgeService,
  settle: (testId: string) => Promise<void>,
) {
  return {
    /** @throws RefusalError where the finding is not there any more, or is none that a person answers for */
    async answer(
      person: Person,
      testId: string,
      { analysisId, code, arm, text }: AnswerRequest,
    ): Promise<void> {
      const overrides = overridesBy(person, code);
      await judge.current(testId, person);
      const answer = await kept(db, text, person);
      await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const { analysis } = await judge.standing(tx, testId);
        const finding =
          analysis?.id === analysisId
            ? analysis.result.findings.find((f) => f.code === code && f.state === 'fail' && f.arm === arm)
            : undefined;
        if (!finding)
          throw conflict(
            'FINDING_CHANGED',
            'The finding is not there any more as it was on your screen.',
            'Look at the gates as they are now.',
          );
        await tx.insert(findingAnswers).values({
          id: newId(),
          testId,
          analysisId,
          code,
          message: finding.message,
          arm: finding.arm ?? null,
          answer,
          answeredBy: person.id,
          answeredAt: now(),
        });
        await recordAudit(
          tx,
          now(),
          person,
          overrides ? 'overrode finding' : 'answered finding',
          'test',
          testId,
          {
            code,
            answer,
          },
        );
      });
      await settle(testId);
    },
  };
}
export type AnswerService = ReturnType<typeof createAnswerService>;
