import { useState } from 'react';
import { toast } from 'sonner';
import { LEAST_ANSWER } from '../../contract/judge/answer.ts';
import { OVERSEE, REVIEW } from '../../contract/base/roles.ts';
import { ANSWERED_BY_PEOPLE, OVERRIDDEN_BY_REVIEWERS } from '../../core/judge/answered.ts';
import type { Finding } from '../../core/judge/finding.ts';
import { useSessionQuery } from '../base/api.ts';
import { useAnswerFindingMutation } from '../base/endpoints.ts';
import { ReasonDialog } from '../base/reason-dialog.tsx';
import { Told } from '../base/told.tsx';
import { Button } from '../base/ui.tsx';

const ANSWER_HINT =
  'What you looked at, what you found, and why the engine was not in danger. It stands with the finding, under your name.';
const OVERRIDE_HINT =
  'What you looked at, and why it is right although it is unusual. ' +
  'It costs the test a grade, and is printed with every claim, under your name.';

/** The answer that stands with a finding, or the way to give one. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function AnswerFinding({
  testId,
  analysisId,
  finding,
}: {
  testId: string;
  analysisId: string;
  finding: Finding;
}) {
  const { data } = useSessionQuery();
  const [asking, setAsking] = useState(false);
  const [answer, { isLoading, error }] = useAnswerFindingMutation();
  if (finding.answer)
    return (
      <p className="mt-1 border-l-2 border-rule pl-2 text-[12.5px]">
        <b>
          {finding.answer.overrides ? 'Let stand' : 'Answered'} by {finding.answer.by}:{' '}
        </b>
        <Told>{finding.answer.text}</Told>
      </p>
    );
  const overrides = OVERRIDDEN_BY_REVIEWERS.has(finding.code);
  if (finding.state !== 'fail' || !(overrides || ANSWERED_BY_PEOPLE.has(finding.code))) return null;
  const who = overrides ? REVIEW : OVERSEE;
  if (!data?.person || !who.includes(data.person.role))
    return (
      <p className="mt-1 text-[12.5px]">
        {overrides
          ? 'A reviewer can let it stand; that costs a grade.'
          : 'The test manager or a reviewer can answer for it.'}
      </p>
    );
  const save = async (text: string): Promise<boolean> => {
    const done = await answer({
      testId,
      analysisId,
      code: finding.code,
      ...(finding.arm === undefined ? {} : { arm: finding.arm }),
      text,
    });
    if ('error' in done) return false;
    setAsking(false);
    toast.success('Answered; it stays with the finding.');
    return true;
  };
  return (
    <div className="mt-1.5">
      <Button small onClick={() => setAsking(true)}>
        {overrides ? 'Let it stand' : 'Answer for it'}
      </Button>
      {asking && (
        <ReasonDialog
          title={`${overrides ? 'Let stand' : 'Answer for'}: ${finding.gate}`}
          hint={overrides ? OVERRIDE_HINT : ANSWER_HINT}
          verb={overrides ? 'Let it stand' : 'Answer'}
          least={LEAST_ANSWER}
          saving={isLoading}
          problem={error}
          save={save}
          onClose={() => setAsking(false)}
        >
          <p className="mb-3">
            <Told>{finding.message}</Told>
          </p>
        </ReasonDialog>
      )}
    </div>
  );
}
