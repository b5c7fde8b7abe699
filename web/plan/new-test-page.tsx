import { useEffect, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { useTestQuery } from '../base/endpoints.ts';
import { Loading, ProblemNote } from '../base/ui.tsx';
import { PageHead } from '../register/layout.tsx';
import { usePartQuery, useVehiclesInfiniteQuery } from '../register/api.ts';
import { useCreateTestMutation, useReplacePlanMutation } from './api.ts';
import { BLANK_DRAFT, draftOf, withArm, type Draft } from './draft.ts';
import { PlanBuilder } from './plan-builder.tsx';

const NOTE =
  'Decide before measuring: what differs between the arms, what will be claimed, what the plan can see. ' +
  'It is locked before the first pull.';
/** Plans a new test; from coverage the fitment and the part come with it. */
export function NewTestPage() {
  const [search] = useSearchParams();
  const [fitmentId, partId] = [search.get('fitment') ?? '', search.get('part') ?? ''];
  const [draft, setDraft] = useState<Draft>({ ...BLANK_DRAFT, fitmentId });
  const [create, { error, isLoading }] = useCreateTestMutation();
  const { data: part } = usePartQuery(partId, { skip: !partId });
  const { data: vehicles } = useVehiclesInfiniteQuery({ q: '', fitmentId }, { skip: !fitmentId });
  const navigate = useNavigate();
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
  }, [part, revision]);
  const only = vehicles?.pages[0]?.total === 1 ? vehicles.pages[0].items[0].id : '';
  useEffect(() => {
    if (only) setDraft((d) => (d.vehicleId ? d : { ...d, vehicleId: only }));
  }, [only]);
  return (
    <main className="pl-6 pt-5">
      <PageHead title="Plan a new test" note={NOTE} />
      <PlanBuilder
        draft={draft}
        onChange={setDraft}
        saving={isLoading}
        problem={error}
        verb="Save the plan"
        onSave={(plan) =>
          void (async () => {
            const answer = await create(plan);
            if (!('data' in answer) || !answer.data) return;
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
  const { data, error, refetch } = useTestQuery(testId);
  const [draft, setDraft] = useState<Draft | null>(null);
  const [replace, { error: refused, isLoading }] = useReplacePlanMutation();
  const navigate = useNavigate();
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the plan" />
      </main>
    );
  return (
    <main className="pl-6 pt-5">
      <PageHead title={`Change the plan of test ${data.summary.number}`} note={data.summary.title} />
      <PlanBuilder
        editing
        draft={draft ?? draftOf(data)}
        onChange={(update) => setDraft((d) => update(d ?? draftOf(data)))}
        saving={isLoading}
        problem={refused}
        verb="Save the changes"
        onSave={(plan) =>
          void (async () => {
            const answer = await replace({ id: testId, plan: { ...plan, series: [] } });
            if (!('error' in answer)) {
              toast.success('Saved.');
              void navigate(`/tests/${testId}/plan`);
            }
          })()
        }
      />
    </main>
  );
}
