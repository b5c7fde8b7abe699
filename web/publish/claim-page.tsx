import { Link, useOutletContext } from 'react-router';
import { DRAFT } from '../../contract/base/roles.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { useAnalysisQuery, useClaimsOfTestQuery } from '../base/endpoints.ts';
import { Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { gradeButForOverrides, outcomeOf } from '../../core/judge/verdict.ts';
import { ArmChoice, useArm } from '../compare/arm-choice.tsx';
import { ClaimCard } from './claim-card.tsx';
import { DraftForm } from './draft-form.tsx';

/** Verdicts that are told as advice. */
const ADVICE: ReadonlySet<string> = new Set(['claim', 'no gain shown', 'loss', 'send back to design']);

/** Claims of a test, and the way to a new one where the result stands. */
export function ClaimPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const role = session?.person?.role;
  const { data: state, error, refetch } = useAnalysisQuery(detail.summary.id);
  const { data: all } = useClaimsOfTestQuery(detail.summary.id, { skip: role === 'partner shop' });
  const arm = useArm(detail);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!state)
    return (
      <main className="p-6">
        <Loading what="the claim" />
      </main>
    );
  const claims = all?.items ?? [];
  const { analysis } = state;
  const facts = detail.arms.find((a) => a.key === arm)?.facts;
  const own = analysis && outcomeOf(analysis.result.findings, arm, facts?.product ?? false);
  // With another session a test that was overridden can still be claimed; the form says where it cannot.
  const grade = analysis ? gradeButForOverrides(analysis.result.findings, arm) : 'indicative';
  const tells = own && facts ? tellsOf({ ...own, grade }, facts.product) : null;
  const mayDraft = role !== undefined && DRAFT.includes(role);
  return (
    <main className="grid grid-cols-[minmax(0,1fr)] gap-6 px-[22px] py-4">
      <ArmChoice detail={detail} />
      {claims.length > 0 && (
        <section className="grid gap-3">
          <h2>Claims from this test</h2>
          {claims.map((claim) => (
            <Link key={claim.id} to={`/claims/${claim.id}`} className="no-underline">
              <ClaimCard claim={claim} state />
            </Link>
          ))}
        </section>
      )}
      {!tells && <NoClaim testId={detail.summary.id} outcome={own} waitsFor={state.waitsFor} />}
      {tells && facts && mayDraft && (
        <DraftForm key={arm} {...{ detail, arm, facts, tells }} analysis={analysis!} verdict={own!.verdict} />
      )}
      {tells && role && !mayDraft && claims.length === 0 && (
        <Empty title="No claim yet">The test manager drafts it.</Empty>
      )}
    </main>
  );
}

type Outcome = ReturnType<typeof outcomeOf>;
/** What is no product, and a result without a gain, is told as advice by the same path as a claim. */
function tellsOf({ verdict, grade }: Outcome, product: boolean): 'gain' | 'advice' | null {
  if (grade === 'indicative') return null;
  if (verdict === 'claim' && product) return 'gain';
  return ADVICE.has(verdict) ? 'advice' : null;
}

function NoClaim({
  testId,
  outcome,
  waitsFor,
}: {
  testId: string;
  outcome: Outcome | null;
  waitsFor: readonly string[];
}) {
  return (
    <Empty title="No claim can be drafted">
      {outcome ? (
        <>
          The verdict is “{outcome.verdict}”, grade “{outcome.grade}”.{' '}
          <Link to={`/tests/${testId}/judge`}>See the gates</Link> for what would mend it.
        </>
      ) : (
        <>There is no result yet{waitsFor.length ? `: it waits for ${waitsFor.join(' and ')}` : ''}.</>
      )}
    </Empty>
  );
}
