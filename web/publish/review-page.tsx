import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { OVERSEE, REVIEW } from '../../contract/base/roles.ts';
import type { Claim, ClaimDetail } from '../../contract/publish/claim.ts';
import { problemOf, useSessionQuery } from '../base/api.ts';
import { useAnswerChangeMutation, useClaimQuery, useMoveClaimMutation } from '../base/endpoints.ts';
import { dayTime } from '../base/format.ts';
import { ConfirmButton } from '../base/confirm.tsx';
import { ReasonDialog } from '../base/reason-dialog.tsx';
import { Button, Loading, ProblemNote } from '../base/ui.tsx';
import { ClaimMark } from './claim-card.tsx';
import { EquivalenceDialog } from './equivalence-dialog.tsx';
import { Evidence, useEvidence } from './evidence-under-review.tsx';
import { FiguresInWords } from './figures-in-words.tsx';
import { WithdrawDialog } from './withdraw-dialog.tsx';

/** One claim beside the evidence it rests on: read it, then approve or return it. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function ReviewPage() {
  const { claimId = '' } = useParams();
  const { data, error, refetch } = useClaimQuery(claimId);
  const { data: session } = useSessionQuery();
  const evidence = useEvidence(data?.claim);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data || !session?.person)
    return (
      <main className="p-6">
        <Loading what="the claim" />
      </main>
    );
  const { claim, history, openChanges, answers } = data;
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_340px]">
      <main className="min-w-0 px-6 py-5">
        <p className="text-soft">
          <Link to="/claims">Claims</Link> · {claim.subject}, on {claim.fitment}
        </p>
        <h1 className="mt-1">{claim.wording}</h1>
        <div className="mt-2 flex flex-wrap gap-5">
          <ClaimMark state={claim.state} />
          <span className="text-soft">evidence grade {claim.grade}</span>
          <Link to={`/tests/${claim.testId}/compare`}>Open the comparison</Link>
          <Link to={`/tests/${claim.testId}/judge`}>Gates</Link>
          <Link to={`/tests/${claim.testId}/pulls`}>Pulls</Link>
          {['published', 'in question', 'stale', 'withdrawn'].includes(claim.state) && (
            <Link to={`/catalogue/${claim.fitmentSlug}`}>In the catalogue</Link>
          )}
        </div>
        {claim.staleReason && (
          <div className="mt-3">
            <ProblemNote message={claim.staleReason} />
          </div>
        )}
        <OpenChanges claim={claim} changes={openChanges} me={session.person} />
        <FiguresInWords figures={data.figures} />
        <Evidence claim={claim} evidence={evidence} />
        <div className="mt-4 grid gap-6 md:grid-cols-2">
          <section>
            <h2>Conditions</h2>
            <ul className="mt-1 list-disc pl-5">
              {claim.conditions.map((c) => (
                <li key={c}>{c}</li>
              ))}
            </ul>
          </section>
          <section>
            <h2>Told with it</h2>
            {claim.disclosures.length ? (
              <ul className="mt-1 text-loss">
                {claim.disclosures.map((d) => (
                  <li key={d}>▼ {d}</li>
                ))}
              </ul>
            ) : (
              <p className="mt-1 text-soft">No proven loss and nothing else that must be disclosed.</p>
            )}
          </section>
        </div>
      </main>
      <aside className="border-l border-rule bg-sheet px-[18px] py-5">
        <Decision claim={claim} me={session.person} open={openChanges.length} shown={evidence.shown} />
        {answers.length > 0 && (
          <>
            <h2 className="mt-6">Changes answered</h2>
            <ul className="mt-1 border-t border-rule">
              {answers.map((a) => (
                <li key={`${a.at}${a.what}`} className="border-b border-rule py-1.5">
                  {sentence(a.what)}
                  <div className="text-[12.5px] text-soft">
                    {a.person}, {dayTime(a.at)}: {a.reason}
                    {a.evidence && ` On the evidence: ${a.evidence}`}
                  </div>
                </li>
              ))}
            </ul>
          </>
        )}
        <h2 className="mt-6">History</h2>
        <ol className="mt-1 border-t border-rule">
          {history.map((h) => (
            <li key={`${h.at}${h.to}`} className="border-b border-rule py-1.5">
              <b>{h.to}</b> by {h.person}
              <div className="text-[12.5px] text-soft">
                {dayTime(h.at)}
                {h.note && ` · ${h.note}`}
              </div>
            </li>
          ))}
        </ol>
      </aside>
    </div>
  );
}

const sentence = (text: string): string => `${text[0].toUpperCase()}${text.slice(1)}.`;

/** What has changed under a claim since it was computed, each to be answered before the claim is current again. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function OpenChanges({
  claim,
  changes,
  me,
}: {
  claim: Claim;
  changes: ClaimDetail['openChanges'];
  me: { id: string; role: string };
}) {
  const [answer, { isLoading, error }] = useAnswerChangeMutation();
  const [asking, setAsking] = useState<ClaimDetail['openChanges'][number] | null>(null);
  if (changes.length === 0) return null;
  const may = REVIEW.includes(me.role as never) && claim.author.id !== me.id;
  const save = async (changeId: number, said: { reason: string; evidence?: string }): Promise<boolean> => {
    const done = await answer({ id: claim.id, changeId, ...said });
    if ('error' in done) return false;
    setAsking(null);
    toast.success('Answered; it stays with the claim.');
    return true;
  };
  return (
    <section className="mt-4 border-l-4 border-ask bg-sheet px-4 py-3">
      <h2>Changed since it was computed</h2>
      <p className="text-soft">
        {claim.state === 'in question'
          ? 'The claim is not shown as current until each of these is answered.'
          : 'Each of these is answered before the claim is published.'}
      </p>
      <ul className="mt-2 grid gap-2">
        {changes.map((change) => (
          <li key={change.id} className="flex flex-wrap items-center justify-between gap-3">
            <span>
              ◐ {sentence(change.what)} <span className="text-soft">{dayTime(change.at)}</span>
            </span>
            {may && (
              <Button small onClick={() => setAsking(change)}>
                It does not touch the claim
              </Button>
            )}
          </li>
        ))}
      </ul>
      {!may && (
        <p className="mt-2 text-[12.5px] text-soft">A reviewer who did not draft the claim answers it.</p>
      )}
      {asking?.kind === 'part revision' && (
        <EquivalenceDialog
          what={sentence(asking.what)}
          saving={isLoading}
          problem={error}
          save={(said) => save(asking.id, said)}
          onClose={() => setAsking(null)}
        />
      )}
      {asking && asking.kind !== 'part revision' && (
        <ReasonDialog
          title="Why it does not touch the claim"
          hint="What it changes, and why that is nothing the test measured; who says so."
          verb="Keep the answer"
          least={10}
          saving={isLoading}
          problem={error}
          save={(reason) => save(asking.id, { reason })}
          onClose={() => setAsking(null)}
        >
          <p className="mb-3">{sentence(asking.what)}</p>
        </ReasonDialog>
      )}
    </section>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Decision({
  claim,
  me,
  open,
  shown,
}: {
  claim: Claim;
  me: { id: string; role: string };
  open: number;
  /** The evidence is on the page. */ shown: boolean;
}) {
  const [move, { isLoading, error }] = useMoveClaimMutation();
  const [asking, setAsking] = useState<'return' | 'withdraw' | null>(null);
  const own = claim.author.id === me.id;
  const may = (roles: readonly string[]): boolean => roles.includes(me.role);
  const go = async (
    step: 'submit' | 'approve' | 'return' | 'withdraw',
    done: string,
    reason?: string,
    wrong?: boolean,
  ): Promise<boolean> => {
    const said = { ...(reason === undefined ? {} : { reason }), ...(wrong === undefined ? {} : { wrong }) };
    const answer = await move({ id: claim.id, step, ...said });
    if ('error' in answer) return false;
    setAsking(null);
    toast.success(done);
    return true;
  };
  return (
    <section className="grid gap-2.5">
      <h2>Decision</h2>
      {(claim.state === 'draft' || claim.state === 'returned') &&
        (own ? (
          <Button kind="main" disabled={isLoading} onClick={() => void go('submit', 'Sent to review.')}>
            Send to review
          </Button>
        ) : (
          <p className="text-soft">{claim.author.name} drafted this claim and sends it to review.</p>
        ))}
      {claim.state === 'in review' &&
        (own ? (
          <p className="text-soft">Another person reviews it: who drafted a claim cannot approve it.</p>
        ) : may(REVIEW) ? (
          <>
            <p className="text-soft">
              You vouch that the comparison supports this wording for this fitment, part revision, fuel and
              calibration.
            </p>
            <ConfirmButton
              kind="main"
              disabled={isLoading || open > 0 || !shown}
              title="Approve and publish?"
              follows={
                <>
                  <b className="font-semibold text-ink">{claim.wording}</b> Everybody reads it in the
                  catalogue at once, under your name as its reviewer. It can be withdrawn, and stays visible
                  then.
                </>
              }
              verb="Publish it"
              onConfirm={() => go('approve', 'Approved; it is in the catalogue now.')}
            >
              Approve and publish
            </ConfirmButton>
            {!shown && (
              <p className="text-[12.5px] text-ask">
                It can be approved once the evidence it was drafted from is on this page.
              </p>
            )}
            <Button disabled={isLoading} onClick={() => setAsking('return')}>
              Return with a reason
            </Button>
          </>
        ) : (
          <p className="text-soft">It waits for a reviewer.</p>
        ))}
      {['published', 'in question', 'stale'].includes(claim.state) && may(OVERSEE) && (
        <Button kind="loss" disabled={isLoading} onClick={() => setAsking('withdraw')}>
          Withdraw
        </Button>
      )}
      {claim.state === 'published' && claim.publishedAt && (
        <p className="text-soft">
          Published {dayTime(claim.publishedAt)}, approved by {claim.reviewer?.name}.
        </p>
      )}
      {claim.state === 'withdrawn' && <p className="text-soft">Withdrawn; it stays visible as withdrawn.</p>}
      {error !== undefined && <ProblemNote message={problemOf(error).message} />}
      {asking === 'return' && (
        <ReasonDialog
          title="Return the claim"
          hint="The author reads it."
          verb="Return it"
          least={5}
          saving={isLoading}
          problem={error}
          save={(reason) => go('return', 'Returned to its author.', reason)}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === 'withdraw' && (
        <WithdrawDialog
          saving={isLoading}
          problem={error}
          save={({ reason, wrong }) => go('withdraw', 'Withdrawn.', reason, wrong)}
          onClose={() => setAsking(null)}
        />
      )}
    </section>
  );
}
