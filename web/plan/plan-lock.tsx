import { Link } from 'react-router';
import { toast } from 'sonner';
import type { TestDetail } from '../../contract/overview.ts';
import { dayTime } from '../base/format.ts';
import { ConfirmButton } from '../base/confirm.tsx';
import { Button, buttonClass, Mark, ProblemNote } from '../base/ui.tsx';
import { useLockPlanMutation } from './api.ts';

/** The lock that must come before the first pull, and the way to change a plan after it. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function PlanLock({
  detail,
  manager,
  onAmend,
}: {
  detail: TestDetail;
  manager: boolean;
  onAmend: () => void;
}) {
  const [lock, { error, isLoading }] = useLockPlanMutation();
  const { plan, summary } = detail;
  const onLock = async (): Promise<void> => {
    if (!('error' in (await lock({ id: summary.id, basedOn: summary.updatedAt }))))
      toast.success('The plan is locked.');
  };
  return (
    <div className="mt-5 grid justify-items-start gap-2">
      {plan.lockedAt ? (
        <>
          <Mark tone="stands">
            Locked {dayTime(plan.lockedAt)} by {plan.lockedBy}
          </Mark>
          <p className="break-all text-[12px] text-soft">SHA-256 of the plan {plan.hash}</p>
          <a href={`/api/tests/${summary.id}/locked-plan.json`} className={buttonClass('plain', true)}>
            The plan as it was locked
          </a>
          {manager && <Button onClick={() => onAmend()}>Amend with a reason</Button>}
        </>
      ) : (
        <>
          <Mark tone="ask">Not locked</Mark>
          <p className="text-soft">
            Lock it before the first pull: what is captured before stays indicative. After the lock it changes
            only by an amendment with a reason.
          </p>
          {manager ? (
            <div className="flex flex-wrap gap-2">
              <ConfirmButton
                kind="main"
                disabled={isLoading}
                title="Lock the plan?"
                follows={
                  'Arms, vehicle, dyno and protocol stay as they are from now on; other fields change only by an ' +
                  'amendment that everybody reads beside the claim. A lock cannot be taken back.'
                }
                verb="Lock it"
                onConfirm={onLock}
              >
                Lock the plan
              </ConfirmButton>
              <Link to={`/tests/${summary.id}/plan/edit`} className={buttonClass('plain')}>
                Change the plan
              </Link>
            </div>
          ) : (
            <p className="text-soft">The test manager locks it.</p>
          )}
        </>
      )}
      <ProblemNote error={error} />
    </div>
  );
}
