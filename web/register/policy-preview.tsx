import { useState } from 'react';
import { Link } from 'react-router';
import type { PolicyPreview } from '../../contract/base/policy-preview.ts';
import { Button, Mark, ProblemNote } from '../base/ui.tsx';
import { Told } from '../base/told.tsx';
import { usePolicyPreviewQuery, useCancelPreviewMutation } from './policy-api.ts';

/** How often is looked how far it has come, ms. */
const EVERY_MS = 800;

/** What a policy would change among the public claims: seen before it is put in force, with how far that has come. */
export function PolicyPreviewPanel({
  id,
  entering,
  problem,
  onEnter,
  onBack,
}: {
  id: string;
  entering: boolean;
  problem: unknown;
  onEnter: (tried: PolicyPreview) => void;
  onBack: () => void;
}) {
  const [isOver, setOver] = useState(false);
  const { data, error, refetch } = usePolicyPreviewQuery(id, { pollingInterval: isOver ? 0 : EVERY_MS });
  if (data && data.state !== 'running' && !isOver) setOver(true);
  const [cancel] = useCancelPreviewMutation();
  if (error) return <ProblemNote error={error} again={() => void refetch()} />;
  const running = data?.state === 'running' || !data;
  return (
    <section aria-labelledby="what-it-changes" className="max-w-[900px]">
      <h2 id="what-it-changes">What {data?.policy.version ?? 'it'} would change</h2>
      <p className="mt-1 text-soft">
        Every public claim is judged by it as if it were in force. Nothing has been changed yet.
      </p>
      {data && <Progress {...data} />}
      {data && data.state !== 'running' && <Changes {...data} />}
      {problem !== undefined && <ProblemNote error={problem} />}
      <div className="mt-4 flex flex-wrap gap-3">
        <Button kind="main" disabled={running || entering} onClick={() => data && onEnter(data)}>
          Put it in force
        </Button>
        {running ? (
          <Button onClick={() => void cancel(id)}>Stop looking</Button>
        ) : (
          <Button onClick={onBack}>Back to the form</Button>
        )}
      </div>
    </section>
  );
}

function Progress({ done, total, state }: PolicyPreview) {
  const share = total === 0 ? 1 : Math.min(1, done / total);
  return (
    <div className="mt-3">
      <div
        role="progressbar"
        aria-label="Claims judged"
        aria-valuenow={done}
        aria-valuemin={0}
        aria-valuemax={total}
        className="h-1.5 max-w-[420px] bg-faint"
      >
        <div className="h-full bg-stands" style={{ width: `${100 * share}%` }} />
      </div>
      <p className="mt-1 text-[12.5px] text-soft">
        {done} of {total} {total === 1 ? 'claim' : 'claims'} judged
        {state === 'cancelled' ? '; stopped, the rest is not known' : ''}
      </p>
    </div>
  );
}

function Changes({ change, done, claims }: PolicyPreview) {
  if (change === 0)
    return (
      <p className="mt-3">
        <Mark tone="stands">{done === 1 ? 'The claim holds' : `All ${done} hold`}</Mark> None of them would
        change.
      </p>
    );
  return (
    <div className="mt-3">
      <p>
        <Mark tone="loss">{change} would go stale</Mark> {done - change} would hold.
      </p>
      <ul className="mt-2 border-t-[1.5px] border-ink">
        {claims.map((claim) => (
          <li key={claim.id} className="border-b border-rule py-2">
            <Link to={`/claims/${claim.id}`}>
              {claim.subject}, on {claim.fitment}: {claim.wording}
            </Link>
            <div className="text-[12.5px] text-soft">
              <Told>{`Instead ${claim.instead}.`}</Told>
            </div>
          </li>
        ))}
      </ul>
      {change > claims.length && <p className="mt-1 text-soft">And {change - claims.length} more.</p>}
    </div>
  );
}
