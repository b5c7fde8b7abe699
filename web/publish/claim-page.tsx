import { useState } from 'react';
import { Link, useNavigate, useOutletContext } from 'react-router';
import { DRAFT } from '../../contract/base/roles.ts';
import { CLAIM_UNITS } from '../../contract/publish/claim.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { claimText } from '../../core/publish/claim.ts';
import { problemOf, useSessionQuery } from '../base/api.ts';
import { useAnalysisQuery, useClaimsQuery, useDraftClaimMutation } from '../base/endpoints.ts';
import { Button, Empty, Field, Loading, ProblemNote, Select } from '../base/ui.tsx';
import { outcomeOf } from '../../core/judge/gates.ts';
import { ArmChoice, useArm } from '../compare/arm-choice.tsx';
import { ClaimCard } from './claim-card.tsx';

/** Drafts a claim: the wording is made from the result, the unit is chosen, nothing is typed. */
export function ClaimPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const role = session?.person?.role;
  const { data: state, error } = useAnalysisQuery(detail.summary.id);
  const { data: all } = useClaimsQuery(undefined, { skip: role === 'partner shop' });
  const [draft, { error: refused, isLoading }] = useDraftClaimMutation();
  const arm = useArm(detail);
  const [metric, setMetric] = useState(detail.plan.metrics[0]);
  const [unit, setUnit] = useState<(typeof CLAIM_UNITS)[number]>(
    detail.plan.metric === 'bandAverage' ? '%' : 'kW',
  );
  const navigate = useNavigate();
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
      </main>
    );
  if (!state)
    return (
      <main className="p-6">
        <Loading what="the claim" />
      </main>
    );
  const claims = all?.filter((c) => c.testId === detail.summary.id) ?? [];
  const { analysis } = state;
  const own = analysis && outcomeOf(analysis.result.findings, arm);
  const claimable = analysis && own && own.verdict === 'claim' && own.grade !== 'indicative';
  const { plan } = detail;
  const facts = detail.arms.find((a) => a.key === arm)?.facts;
  const text = claimable && facts ? claimText(analysis.result, metric, unit, facts, arm) : null;
  const save = async (): Promise<void> => {
    const answer = await draft({ testId: detail.summary.id, analysisId: analysis!.id, arm, metric, unit });
    if ('data' in answer && answer.data) void navigate(`/claims/${answer.data.id}`);
  };
  return (
    <main className="grid gap-6 px-[22px] py-4">
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
      {!claimable && (
        <Empty title="No claim can be drafted">
          {analysis ? (
            <>
              The verdict is “{own?.verdict}”, grade “{own?.grade}”.{' '}
              <Link to={`/tests/${detail.summary.id}/judge`}>See the gates</Link> for what would mend it.
            </>
          ) : (
            <>
              There is no result yet
              {state.waitsFor.length ? `: it waits for ${state.waitsFor.join(' and ')}` : ''}.
            </>
          )}
        </Empty>
      )}
      {claimable && role && DRAFT.includes(role) && text && (
        <section className="grid max-w-[760px] gap-4">
          <h2>Draft a claim</h2>
          <div className="flex flex-wrap items-end gap-4">
            <Field label="Metric" hint="Named in the plan.">
              <Select
                disabled={plan.metrics.length < 2}
                value={metric}
                onChange={(e) => setMetric(e.target.value as typeof metric)}
              >
                {plan.metrics.map((m) => (
                  <option key={m} value={m}>
                    {METRIC_NAMES[m]}
                  </option>
                ))}
              </Select>
            </Field>
            <Field label="Unit" hint="Rounded towards less.">
              <Select value={unit} onChange={(e) => setUnit(e.target.value as typeof unit)}>
                {CLAIM_UNITS.map((u) => (
                  <option key={u}>{u}</option>
                ))}
              </Select>
            </Field>
          </div>
          {text.ok ? (
            <article className="border border-rule bg-sheet p-5">
              <p className="font-display text-[20px] font-semibold">{text.value.wording}</p>
              <ul className="mt-3 list-disc pl-5 text-soft">
                {text.value.conditions.map((c) => (
                  <li key={c}>{c}</li>
                ))}
              </ul>
              {text.value.disclosures.length > 0 && (
                <div className="mt-3 border-l-4 border-loss pl-3">
                  <b className="text-loss">Told with it</b>
                  <ul>
                    {text.value.disclosures.map((d) => (
                      <li key={d}>{d}</li>
                    ))}
                  </ul>
                </div>
              )}
            </article>
          ) : (
            <ProblemNote
              message={
                text.code === 'NOT_POSITIVE'
                  ? `The lower limit (${text.value?.toFixed(2)} ${unit}) rounds to nothing in this unit. Choose a finer one.`
                  : 'This metric cannot be claimed in this unit. Choose another.'
              }
            />
          )}
          <p className="text-[12.5px] text-soft">
            Number, wording, conditions and disclosures are made from the analysis and cannot be edited.
            Another person reviews the claim before it appears in the catalogue.
          </p>
          {refused !== undefined && <ProblemNote message={problemOf(refused).message} />}
          <div>
            <Button kind="main" disabled={!text.ok || isLoading} onClick={() => void save()}>
              Draft this claim
            </Button>
          </div>
        </section>
      )}
      {claimable && role && !DRAFT.includes(role) && claims.length === 0 && (
        <Empty title="No claim yet">The test manager drafts it.</Empty>
      )}
    </main>
  );
}
