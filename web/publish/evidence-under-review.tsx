/** What a claim rests on, on the page on which it is approved. */
import { skipToken } from '@reduxjs/toolkit/query';
import type { Claim } from '../../contract/publish/claim.ts';
import { isRefused } from '../../core/compare/result.ts';
import type { Finding } from '../../core/judge/finding.ts';
import { useAnalysisQuery, useTestQuery } from '../base/endpoints.ts';
import { Told } from '../base/told.tsx';
import { Loading, ProblemNote } from '../base/ui.tsx';
import { GainRibbon } from '../compare/gain-ribbon.tsx';
import { useBesideQuery } from '../judge/api.ts';

/** As far as it was read, and whether it is what the claim was drafted from. */
export function useEvidence(claim: Claim | undefined) {
  const which = claim?.testId ?? skipToken;
  const test = useTestQuery(which);
  const state = useAnalysisQuery(which);
  const beside = useBesideQuery(claim ? { testId: claim.testId, arm: claim.arm } : skipToken);
  // Of the claim's own arm, or none: another arm's curve is not what is approved.
  const found = state.data?.analysis?.result.contrasts.find((c) => c.arm === claim?.arm);
  const contrast = found && !isRefused(found) ? found : undefined;
  const error = test.error ?? state.error ?? beside.error;
  const own = state.data?.analysis?.id === claim?.analysisId;
  return {
    test: test.data,
    state: state.data,
    /** Of the session, then of what lies beyond it. */
    findings: [
      ...(state.data?.analysis?.result.findings ?? []).filter(
        ({ arm }) => arm === undefined || arm === claim?.arm,
      ),
      ...(beside.data?.findings ?? []),
    ] as readonly Finding[],
    contrast,
    error,
    /** All of it is on the page, fresh, and it is what the claim was drafted from. */
    shown:
      !error && test.data !== undefined && beside.currentData !== undefined && contrast !== undefined && own,
    again: () => {
      void test.refetch();
      void state.refetch();
      void beside.refetch();
    },
  };
}

export function Evidence({ claim, evidence }: { claim: Claim; evidence: ReturnType<typeof useEvidence> }) {
  const { test, state, findings, contrast, error, again } = evidence;
  if (error) return <ProblemNote error={error} again={again} />;
  if (!test || !state) return <Loading what="the evidence" />;
  if (!contrast)
    return (
      <ProblemNote message="The present inputs give no comparison: the claim no longer has its evidence." />
    );
  return (
    <section className="mt-4">
      {state.analysis!.id !== claim.analysisId && (
        <ProblemNote
          message={
            'The inputs have changed since this claim was drafted. ' +
            'Below is the present result, not the one the claim was drafted from.'
          }
        />
      )}
      {test.amendments.length > 0 && (
        <p className="mb-2 text-ask">
          ◐ The plan was amended {test.amendments.length === 1 ? 'once' : `${test.amendments.length} times`}{' '}
          after it was locked: {test.amendments.map((a) => a.reason).join(' ')}
        </p>
      )}
      <h2>Gain over stock, % of stock at the wheel</h2>
      <GainRibbon curve={contrast.relative.curve} unit="%" upTo={contrast.relative.upTo} height={270} />
      <Gates findings={findings} />
    </section>
  );
}

/** How many pass, and the others in words. */
function Gates({ findings }: { findings: readonly Finding[] }) {
  const open = findings.filter((f) => f.state !== 'pass');
  return (
    <>
      <h2 className="mt-3">
        Gates: {findings.length - open.length} pass{open.length ? `, ${open.length} to look at` : ''}
      </h2>
      <ul>
        {open.map((f) => (
          <li key={f.code + f.message} className={f.state === 'fail' ? 'text-loss' : 'text-ask'}>
            {f.state === 'fail' ? '▼' : '◐'} {f.gate}: <Told>{f.message}</Told>
            {f.answer && (
              <span className="block pl-5 text-ink">
                Answered by {f.answer.by}: <Told>{f.answer.text}</Told>
              </span>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
