import { useEffect, useMemo, useState, type ReactNode } from 'react';
import type { TestDetail } from '../../contract/overview.ts';
import type { PlanRequest } from '../../contract/plan/test.ts';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { useTestQuery } from '../base/endpoints.ts';
import { Loading, ProblemNote } from '../base/ui.tsx';
import { PageHead } from '../register/layout.tsx';
import { usePartQuery, useVehiclesInfiniteQuery } from '../register/api.ts';
import { useCreateTestMutation, useReplacePlanMutation } from './api.ts';
import { BLANK_DRAFT, draftOf, likeDraft, withArm, type Draft } from './draft.ts';
import { PlanBuilder } from './plan-builder.tsx';
import { usePlanDraft, type PlanDraft } from './use-plan-draft.ts';

const NOTE =
  'Decide before measuring: what differs between the arms, what will be claimed, what the plan can see. ' +
  'It is locked before the first pull.';
/** Plans a new test: from nothing, or as another one, with other runs. */
export function NewTestPage() {
  const [search] = useSearchParams();
  const like = search.get('like');
  return like ? <LikeTest key={search.toString()} testId={like} search={search} /> : <FromNothing />;
}

/** A plan as another test's, with the runs that would decide what that one left open. */
function LikeTest({ testId, search }: { testId: string; search: URLSearchParams }) {
  return (
    <OfTest testId={testId}>
      {(detail) => <NewTest of={`like:${search.toString()}`} first={likeDraft(detail, search)} />}
    </OfTest>
  );
}

/** Waits for a test, and says where it cannot be read. */
function OfTest({ testId, children }: { testId: string; children: (detail: TestDetail) => ReactNode }) {
  const { data, error, refetch } = useTestQuery(testId);
  if (data && !error) return children(data);
  return (
    <main className="p-6">
      {error ? <ProblemNote error={error} again={() => void refetch()} /> : <Loading what="the plan" />}
    </main>
  );
}

/** From coverage the fitment and the part come with it. */
function FromNothing() {
  const [search] = useSearchParams();
  const [fitmentId, partId] = [search.get('fitment') ?? '', search.get('part') ?? ''];
  const blank = useMemo((): Draft => ({ ...BLANK_DRAFT, fitmentId }), [fitmentId]);
  const plan = usePlanDraft(`new:${fitmentId}:${partId}`, blank, null);
  const { onChange: setDraft } = plan;
  const { data: part } = usePartQuery(partId, { skip: !partId });
  const { data: vehicles } = useVehiclesInfiniteQuery({ q: '', fitmentId }, { skip: !fitmentId });
  const revision = part?.revisions[0];
  useEffect(() => {
    if (!part || !revision) return;
    // The part asked for goes into the first arm in the settings it is sold in.
    setDraft((d) =>
      d.arms[1].changes.length > 0
        ? d
        : withArm(d, d.arms[1].key, {
            label: part.part.name.toLowerCase(),
            changes: [
              {
                kind: 'part fitted',
                category: part.part.category,
                partRevisionId: revision.id,
                settings: Object.fromEntries(revision.options.map((o) => [o.name, o.settings[0]])),
              },
            ],
          }),
    );
  }, [part, revision, setDraft]);
  const only = vehicles?.pages[0]?.total === 1 ? vehicles.pages[0].items[0].id : '';
  useEffect(() => {
    if (only) setDraft((d) => (d.vehicleId ? d : { ...d, vehicleId: only }));
  }, [only, setDraft]);
  return <NewPlan plan={plan} />;
}

function NewTest({ of, first }: { of: string; first: Draft }) {
  // As it was when the page was opened: what others write into that test meanwhile is not this one's.
  const [begun] = useState(first);
  return <NewPlan plan={usePlanDraft(`new:${of}`, begun, null)} />;
}

function NewPlan({ plan }: { plan: PlanDraft }) {
  const [create, { error, isLoading }] = useCreateTestMutation();
  const navigate = useNavigate();
  return (
    <main className="pl-6 pt-5">
      <PageHead title="Plan a new test" note={NOTE} />
      <PlanBuilder
        plan={plan}
        saving={isLoading}
        problem={error}
        verb="Save the plan"
        onSave={(request) =>
          void (async () => {
            const answer = await create(request);
            if (!('data' in answer) || !answer.data) return;
            plan.drop();
            toast.success(
              answer.data.ids.length > 1
                ? `${answer.data.ids.length} tests are planned.`
                : 'The plan is saved.',
            );
            void navigate(`/tests/${answer.data.id}/plan`);
          })()
        }
      />
    </main>
  );
}

/** Changes a plan that is not locked yet. */
export function EditPlanPage() {
  const { testId = '' } = useParams();
  return <OfTest testId={testId}>{(detail) => <EditPlan key={testId} detail={detail} />}</OfTest>;
}

function EditPlan({ detail }: { detail: TestDetail }) {
  const { id, number, title, updatedAt } = detail.summary;
  const [replace, { error: refused, isLoading }] = useReplacePlanMutation();
  const navigate = useNavigate();
  const plan = usePlanDraft(
    id,
    useMemo(() => draftOf(detail), [detail]),
    updatedAt,
  );
  const save = async (request: PlanRequest): Promise<void> => {
    const asked = { id, plan: { ...request, series: [] }, basedOn: plan.basedOn ?? updatedAt };
    if ('error' in (await replace(asked))) return;
    plan.drop();
    toast.success('Saved.');
    void navigate(`/tests/${id}/plan`);
  };
  return (
    <main className="pl-6 pt-5">
      <PageHead title={`Change the plan of test ${number}`} note={title} />
      <PlanBuilder
        editing
        plan={plan}
        saving={isLoading}
        problem={refused}
        verb="Save the changes"
        onSave={(request) => void save(request)}
      />
    </main>
  );
}
