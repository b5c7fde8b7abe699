import { useState } from 'react';
import { Link, useNavigate, useOutletContext } from 'react-router';
import { DRAFT } from '../../contract/base/roles.ts';
import { CLAIM_UNITS } from '../../contract/publish/claim.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { adviceText, claimText } from '../../core/publish/claim.ts';
import { problemOf, useSessionQuery } from '../base/api.ts';
import { useAnalysisQuery, useClaimsOfTestQuery, useDraftClaimMutation } from '../base/endpoints.ts';
import { Button, Empty, Field, Loading, ProblemNote, Select, Textarea } from '../base/ui.tsx';
import { outcomeOf } from '../../core/judge/verdict.ts';
import { ArmChoice, useArm } from '../compare/arm-choice.tsx';
import { ClaimCard } from './claim-card.tsx';

/** Verdicts that are told as advice. */
const ADVICE: ReadonlySet<string> = new Set(['claim', 'no gain shown', 'loss', 'send back to design']);

/** Drafts a claim or advice: the wording is made from the result, the unit is chosen, nothing is typed. */
export function ClaimPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const role = session?.person?.role;
  const { data: state, error } = useAnalysisQuery(detail.summary.id);
  const { data: all } = useClaimsOfTestQuery(detail.summary.id, { skip: role === 'partner shop' });
  const [draft, { error: refused, isLoading }] = useDraftClaimMutation();
  const arm = useArm(detail);
  const [metric, setMetric] = useState(detail.plan.metrics[0]);
  const [unit, setUnit] = useState<(typeof CLAIM_UNITS)[number]>(
    detail.plan.metric === 'bandAverage' ? '%' : 'kW',
  );
  const [why, setWhy] = useState('');
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
  const claims = all?.items ?? [];
  const { analysis } = state;
  const { plan } = detail;
  const facts = detail.arms.find((a) => a.key === arm)?.facts;
  const own = analysis && outcomeOf(analysis.result.findings, arm, facts?.product ?? false);
  const settled = own && own.grade !== 'indicative';
  // What is no product, and a result without a gain, is told as advice by the same path.
  const tells =
    settled && facts && own.verdict === 'claim' && facts.product
      ? 'gain'
      : settled && ADVICE.has(own.verdict)
        ? 'advice'
        : null;
  const claimable = tells !== null;
  const text =
    tells && facts
      ? tells === 'gain'
        ? claimText(analysis!.result, metric, unit, facts, arm)
        : adviceText(analysis!.result, unit, facts, arm)
      : null;
  const save = async (): Promise<void> => {
    const answer = await draft({
      testId: detail.summary.id,
      analysisId: analysis!.id,
      arm,
      metric,
      unit,
      tells: tells!,
      ...(why.trim() ? { answer: why.trim() } : {}),
    });
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
          <h2>{tells === 'gain' ? 'Draft a claim' : 'Draft advice'}</h2>
          {tells === 'advice' && (
            <p className="text-soft">
              {facts?.product
                ? `The verdict is “${own?.verdict}”. It can be told in the catalogue as advice, reviewed like a claim.`
                : 'Nothing that is sold differs here: what it gives is told as advice, never as a product’s gain.'}
            </p>
          )}
          <div className="flex flex-wrap items-end gap-4">
            <Field
              label="Metric"
              hint={tells === 'gain' ? 'Named in the plan.' : 'Advice tells the average.'}
            >
              <Select
                disabled={plan.metrics.length < 2 || tells === 'advice'}
                value={tells === 'advice' ? 'bandAverage' : metric}
                onChange={(e) => setMetric(e.target.value as typeof metric)}
              >
                {(tells === 'advice' ? (['bandAverage'] as const) : plan.metrics).map((m) => (
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
              <p className="font-semibold">{facts?.subject.text}</p>
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
                  : text.code === 'PEAK_AT_EDGE'
                    ? 'The largest power lies at the edge of the window, so the peak itself was not reached. Claim another metric of the plan, or test with a wider window.'
                    : 'This metric cannot be claimed in this unit. Choose another.'
              }
            />
          )}
          <p className="text-[12.5px] text-soft">
            Number, wording, conditions and disclosures are made from the analysis and cannot be edited.
            Another person reviews the claim before it appears in the catalogue.
          </p>
          {refused !== undefined && <ProblemNote message={problemOf(refused).message} />}
          {refused !== undefined && problemOf(refused).code === 'CHANGES_TO_ANSWER' && (
            <Field
              label="Why it does not touch the claim"
              hint="The reviewer reads it; it stays with the claim."
            >
              <Textarea rows={3} value={why} onChange={(e) => setWhy(e.target.value)} />
            </Field>
          )}
          <div>
            <Button kind="main" disabled={!text.ok || isLoading} onClick={() => void save()}>
              {tells === 'gain' ? 'Draft this claim' : 'Draft this advice'}
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
