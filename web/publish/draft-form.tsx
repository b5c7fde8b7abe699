import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { CLAIM_UNITS, type WordingShown } from '../../contract/publish/claim.ts';
import type { Analysis } from '../../contract/judge/analysis.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { METRIC_NAMES, type Metric } from '../../core/plan/metrics.ts';
import { problemOf } from '../base/api.ts';
import { useDraftClaimMutation } from '../base/endpoints.ts';
import { useWordingQuery } from './draft-api.ts';
import { FormSelect, Select } from '../base/select.tsx';
import { Button, Field, Loading, ProblemNote, Textarea } from '../base/ui.tsx';
import { useUnits } from '../base/format.ts';

type Unit = (typeof CLAIM_UNITS)[number];
type Facts = NonNullable<TestDetail['arms'][number]['facts']>;
interface Choice {
  metric: Metric;
  unit: Unit;
  answer: string;
}

/** Drafts a claim or advice: the wording is made from the result, the unit is chosen, nothing is typed. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function DraftForm({
  detail,
  arm,
  facts,
  tells,
  analysis,
  verdict,
}: {
  detail: TestDetail;
  arm: string;
  facts: Facts;
  tells: 'gain' | 'advice';
  analysis: Analysis;
  verdict: string;
}) {
  const { plan, summary } = detail;
  const units = useUnits();
  const [draft, { error, isLoading }] = useDraftClaimMutation();
  const navigate = useNavigate();
  const { control, register, handleSubmit, watch } = useForm<Choice>({
    defaultValues: {
      metric: plan.metrics[0],
      unit: plan.metric === 'bandAverage' ? '%' : units.power.unit,
      answer: '',
    },
  });
  const { metric, unit } = watch();
  const asked = {
    testId: summary.id,
    arm,
    tells,
    unit,
    metric: tells === 'advice' ? 'bandAverage' : metric,
  } as const;
  const { currentData: text, error: unread, refetch } = useWordingQuery(asked);
  const metrics = tells === 'advice' ? (['bandAverage'] as const) : plan.metrics;
  const save = handleSubmit(async (choice) => {
    const answer = choice.answer.trim();
    const request = { testId: summary.id, analysisId: analysis.id, arm, tells, metric: choice.metric, unit };
    const made = await draft({ ...request, ...(answer ? { answer } : {}) });
    if ('data' in made && made.data) void navigate(`/claims/${made.data.id}`);
  });
  return (
    <form noValidate onSubmit={(event) => void save(event)} className="grid max-w-[760px] gap-4">
      <h2>{tells === 'gain' ? 'Draft a claim' : 'Draft advice'}</h2>
      {tells === 'advice' && <WhyAdvice product={facts.product} verdict={verdict} />}
      <div className="flex flex-wrap items-end gap-4">
        <Field label="Metric" hint={tells === 'gain' ? 'Named in the plan.' : 'Advice tells the average.'}>
          {metrics.length < 2 ? (
            <Select disabled value={metrics[0]} onChange={() => undefined}>
              <option value={metrics[0]}>{METRIC_NAMES[metrics[0]]}</option>
            </Select>
          ) : (
            <FormSelect control={control} name="metric">
              {metrics.map((m) => (
                <option key={m} value={m}>
                  {METRIC_NAMES[m]}
                </option>
              ))}
            </FormSelect>
          )}
        </Field>
        <Field label="Unit" hint="Rounded towards less.">
          <FormSelect control={control} name="unit">
            {CLAIM_UNITS.map((u) => (
              <option key={u}>{u}</option>
            ))}
          </FormSelect>
        </Field>
      </div>
      {unread ? (
        <ProblemNote error={unread} again={() => void refetch()} />
      ) : !text ? (
        <Loading what="the wording" />
      ) : text.said ? (
        <Wording subject={facts.subject.text} said={text.said} />
      ) : (
        <ProblemNote message={text.why!} />
      )}
      <p className="text-[12.5px] text-soft">
        Number, wording, conditions and disclosures are made from the analysis and cannot be edited. Another
        person reviews the claim before it appears in the catalogue.
      </p>
      {error !== undefined && <ProblemNote message={problemOf(error).message} />}
      {error !== undefined && problemOf(error).code === 'CHANGES_TO_ANSWER' && (
        <Field label="Why it does not touch the claim" hint="The reviewer reads it; it stays with the claim.">
          <Textarea rows={3} {...register('answer')} />
        </Field>
      )}
      <div>
        <Button kind="main" type="submit" disabled={!text?.said || isLoading}>
          {tells === 'gain' ? 'Draft this claim' : 'Draft this advice'}
        </Button>
      </div>
    </form>
  );
}

function WhyAdvice({ product, verdict }: { product: boolean; verdict: string }) {
  return (
    <p className="text-soft">
      {product
        ? `The verdict is “${verdict}”. It can be told in the catalogue as advice, reviewed like a claim.`
        : 'Nothing that is sold differs here: what it gives is told as advice, never as a product’s gain.'}
    </p>
  );
}

/** The claim as it would be read. */
function Wording({ subject, said }: { subject: string; said: NonNullable<WordingShown['said']> }) {
  return (
    <article className="border border-rule bg-sheet p-5">
      <p className="font-semibold">{subject}</p>
      <p className="font-display text-[20px] font-semibold">{said.wording}</p>
      <p className="mt-1 text-soft">evidence grade {said.grade}</p>
      <ul className="mt-3 list-disc pl-5 text-soft">
        {said.conditions.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      {said.disclosures.length > 0 && (
        <div className="mt-3 border-l-4 border-loss pl-3">
          <b className="text-loss">Told with it</b>
          <ul>
            {said.disclosures.map((d) => (
              <li key={d}>{d}</li>
            ))}
          </ul>
        </div>
      )}
    </article>
  );
}
