import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { OVERSEE, REVIEW } from '../../contract/base/roles.ts';
import type { Claim } from '../../contract/publish/claim.ts';
import { problemOf, useSessionQuery } from '../base/api.ts';
import { useClaimQuery, useMoveClaimMutation, useTestQuery } from '../base/endpoints.ts';
import { dayTime } from '../base/format.ts';
import { Button, Dialog, Field, Loading, ProblemNote, Textarea } from '../base/ui.tsx';
import { useAnalysisQuery } from '../base/endpoints.ts';
import { isRefused } from '../../core/compare/contrast-analysis.ts';
import { GainRibbon } from '../compare/gain-ribbon.tsx';
import { ClaimMark } from './claim-card.tsx';

/** One claim beside the evidence it rests on: read it, then approve or return it. */
export function ReviewPage() {
  const { claimId = '' } = useParams();
  const { data, error } = useClaimQuery(claimId);
  const { data: session } = useSessionQuery();
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
      </main>
    );
  if (!data || !session?.person)
    return (
      <main className="p-6">
        <Loading what="the claim" />
      </main>
    );
  const { claim, history } = data;
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_340px]">
      <main className="min-w-0 px-6 py-5">
        <p className="text-soft">
          <Link to="/claims">Claims</Link> · {claim.part} on {claim.fitment}
        </p>
        <h1 className="mt-1">{claim.wording}</h1>
        <div className="mt-2 flex flex-wrap gap-5">
          <ClaimMark state={claim.state} />
          <span className="text-soft">evidence grade {claim.grade}</span>
          <Link to={`/tests/${claim.testId}/compare`}>Open the comparison</Link>
          <Link to={`/tests/${claim.testId}/judge`}>Gates</Link>
          <Link to={`/tests/${claim.testId}/pulls`}>Pulls</Link>
          {['published', 'stale', 'withdrawn'].includes(claim.state) && (
            <Link to={`/catalogue/${claim.fitmentSlug}`}>In the catalogue</Link>
          )}
        </div>
        {claim.staleReason && (
          <div className="mt-3">
            <ProblemNote message={claim.staleReason} />
          </div>
        )}
        <Evidence claim={claim} />
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
        <Decision claim={claim} me={session.person} />
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

function Evidence({ claim }: { claim: Claim }) {
  const { data: test } = useTestQuery(claim.testId);
  const { data: state } = useAnalysisQuery(claim.testId);
  const contrast =
    state?.analysis?.result.contrasts.find((c) => c.arm === claim.arm) ??
    state?.analysis?.result.contrasts[0];
  if (!test || !state) return <Loading what="the evidence" />;
  if (!contrast || isRefused(contrast))
    return (
      <ProblemNote message="The present inputs give no comparison: the claim no longer has its evidence." />
    );
  const findings = state.analysis!.result.findings.filter((f) => f.arm === undefined || f.arm === claim.arm);
  const open = findings.filter((f) => f.state !== 'pass');
  return (
    <section className="mt-4">
      {state.analysis!.id !== claim.analysisId && (
        <ProblemNote message="The inputs have changed since this claim was drafted. Below is the present result, not the one the claim was drafted from." />
      )}
      {test.amendments.length > 0 && (
        <p className="mb-2 text-ask">
          ◐ The plan was amended {test.amendments.length === 1 ? 'once' : `${test.amendments.length} times`}{' '}
          after it was locked: {test.amendments.map((a) => a.reason).join(' ')}
        </p>
      )}
      <h2>Gain over stock, % of stock at the wheel</h2>
      <GainRibbon curve={contrast.relative.curve} unit="%" upTo={contrast.relative.upTo} height={270} />
      <h2 className="mt-3">
        Gates: {findings.length - open.length} pass{open.length ? `, ${open.length} to look at` : ''}
      </h2>
      <ul>
        {open.map((f) => (
          <li key={f.code + f.message} className={f.state === 'fail' ? 'text-loss' : 'text-ask'}>
            {f.state === 'fail' ? '▼' : '◐'} {f.gate}: {f.message}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Decision({ claim, me }: { claim: Claim; me: { id: string; role: string } }) {
  const [move, { isLoading, error }] = useMoveClaimMutation();
  const [asking, setAsking] = useState<'return' | 'withdraw' | null>(null);
  const [reason, setReason] = useState('');
  const own = claim.author.id === me.id;
  const may = (roles: readonly string[]): boolean => roles.includes(me.role);
  const go = async (step: 'submit' | 'approve' | 'return' | 'withdraw', done: string): Promise<void> => {
    const answer = await move({
      id: claim.id,
      step,
      ...(step === 'return' || step === 'withdraw' ? { reason } : {}),
    });
    if ('error' in answer) return;
    setAsking(null);
    setReason('');
    toast.success(done);
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
            <Button
              kind="main"
              disabled={isLoading}
              onClick={() => void go('approve', 'Approved; it is in the catalogue now.')}
            >
              Approve and publish
            </Button>
            <Button disabled={isLoading} onClick={() => setAsking('return')}>
              Return with a reason
            </Button>
          </>
        ) : (
          <p className="text-soft">It waits for a reviewer.</p>
        ))}
      {(claim.state === 'published' || claim.state === 'stale') && may(OVERSEE) && (
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
      <Dialog
        open={asking !== null}
        onClose={() => setAsking(null)}
        title={asking === 'return' ? 'Return the claim' : 'Withdraw the claim'}
      >
        <div className="grid gap-3">
          <Field
            label="Reason"
            hint={asking === 'return' ? 'The author reads it.' : 'It is shown in the catalogue.'}
          >
            <Textarea rows={3} value={reason} onChange={(e) => setReason(e.target.value)} />
          </Field>
          {error !== undefined && <ProblemNote message={problemOf(error).message} />}
          <div className="flex gap-2">
            <Button
              kind={asking === 'withdraw' ? 'loss' : 'main'}
              disabled={reason.trim().length < 5 || isLoading}
              onClick={() => void go(asking!, asking === 'return' ? 'Returned to its author.' : 'Withdrawn.')}
            >
              {asking === 'return' ? 'Return it' : 'Withdraw it'}
            </Button>
            <Button onClick={() => setAsking(null)}>Cancel</Button>
          </div>
        </div>
      </Dialog>
    </section>
  );
}
