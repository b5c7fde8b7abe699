import { skipToken } from '@reduxjs/toolkit/query';
import { Fragment, useState } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import type { PolicyEntry } from '../../contract/base/policy.ts';
import type { Policy } from '../../core/base/policy.ts';
import { dayTime } from '../base/format.ts';
import { RecordForm } from '../base/record-form.tsx';
import { Button, Loading, ProblemNote } from '../base/ui.tsx';
import { useEnterPolicyMutation, usePoliciesQuery } from './api.ts';
import { PageHead, useMay } from './layout.tsx';
import { usePolicyPreviewQuery, useTryPolicyMutation } from './policy-api.ts';
import { formOf, GROUPS, PolicyForm, policyOf, shownOf } from './policy-form.ts';
import { PolicyPreviewPanel } from './policy-preview.tsx';

/** House policy: what is in force, every version before it, and a new one with its reason. */
export function PolicyPage() {
  const may = useMay();
  const { data, error, refetch } = usePoliciesQuery();
  const [address, setAddress] = useSearchParams();
  const [editing, setEditing] = useState(false);
  const tried = address.get('try');
  const newest = data?.entries[0];
  const leave = (): void => setAddress({}, { replace: true });
  return (
    <main className="px-6 py-5">
      <PageHead
        title="Policy"
        note={
          'What every analysis is judged by, what plans begin with and how claims are worded. ' +
          'A version is never edited: a change is a new one, with its reason.'
        }
      >
        {may.manage && newest && !editing && !tried && (
          <Button kind="main" onClick={() => setEditing(true)}>
            New version
          </Button>
        )}
      </PageHead>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the policy" />}
      {tried && may.manage && !editing && (
        <Tried key={tried} id={tried} onBack={() => setEditing(true)} onDone={leave} />
      )}
      {editing && newest && (
        <PolicyDraft
          tried={tried}
          newest={newest.policy}
          onTry={(id) => {
            setEditing(false);
            setAddress({ try: id });
          }}
          onCancel={() => {
            setEditing(false);
            leave();
          }}
        />
      )}
      {data && !editing && !tried && (
        <div className="grid gap-6">
          {data.entries.map((entry) => (
            <Entry key={entry.policy.version} entry={entry} inForce={entry.policy.version === data.inForce} />
          ))}
        </div>
      )}
    </main>
  );
}

/** The form of a new version, filled from the one in force or from the one that was tried last. */
function PolicyDraft({
  tried,
  newest,
  onTry,
  onCancel,
}: {
  tried: string | null;
  newest: Policy;
  onTry: (id: string) => void;
  onCancel: () => void;
}) {
  const { data: last } = usePolicyPreviewQuery(tried ?? skipToken);
  const [tryIt, { isLoading, error }] = useTryPolicyMutation();
  if (tried && !last) return <Loading what="what was tried" />;
  const values = last
    ? { ...formOf(last.policy), version: last.policy.version, reason: last.reason }
    : formOf(newest);
  return (
    <RecordForm
      draft="policy"
      schema={PolicyForm}
      groups={GROUPS}
      values={values}
      saving={isLoading}
      problem={error}
      verb="See what it changes"
      onCancel={onCancel}
      save={async (form) => {
        const answer = await tryIt({ policy: policyOf(form), reason: form.reason });
        if (!('data' in answer) || !answer.data) return false;
        onTry(answer.data.id);
        return true;
      }}
    />
  );
}

/** What was tried, and the step that puts it in force. */
function Tried({ id, onBack, onDone }: { id: string; onBack: () => void; onDone: () => void }) {
  const [enter, { isLoading, error }] = useEnterPolicyMutation();
  return (
    <PolicyPreviewPanel
      id={id}
      entering={isLoading}
      problem={error}
      onBack={onBack}
      onEnter={({ policy, reason }) =>
        void enter({ policy, reason }).then((answer) => {
          if ('error' in answer) return;
          toast.success(`Policy ${policy.version} is in force.`);
          onDone();
        })
      }
    />
  );
}

function Entry({ entry, inForce }: { entry: PolicyEntry; inForce: boolean }) {
  return (
    <section className="border-t border-rule pt-3">
      <h2>
        {entry.policy.version}{' '}
        <span className="text-[13px] font-normal text-soft">
          {inForce ? 'in force, ' : ''}
          {dayTime(entry.at)}
          {entry.person ? ` by ${entry.person}` : ''}
        </span>
      </h2>
      <p className="text-soft">{entry.reason}</p>
      {GROUPS.slice(1).map((group) => (
        <Fragment key={group.title}>
          <h3 className="mt-3 text-[13px] font-semibold">{group.title}</h3>
          <dl className="mt-1 grid gap-x-8 gap-y-1 md:grid-cols-2 xl:grid-cols-3">
            {group.fields.map((field) => (
              <div key={field.name} className="flex justify-between gap-3 border-b border-rule">
                <dt className="text-soft">{field.label}</dt>
                <dd className="tabular-nums">{shownOf(field, entry.policy)}</dd>
              </div>
            ))}
          </dl>
        </Fragment>
      ))}
    </section>
  );
}
