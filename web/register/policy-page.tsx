import { skipToken } from '@reduxjs/toolkit/query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import { PolicySchema, type PolicyEntry } from '../../contract/base/policy.ts';
import { GUARDS } from '../../core/base/guard.ts';
import { BOOSTED_SCHOOLS } from '../../core/base/standards.ts';
import type { Policy } from '../../core/base/policy.ts';
import { dayTime } from '../base/format.ts';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { Button, Loading, ProblemNote } from '../base/ui.tsx';
import { useEnterPolicyMutation, usePoliciesQuery } from './api.ts';
import { PageHead, useMay } from './layout.tsx';
import { usePolicyPreviewQuery, useTryPolicyMutation } from './policy-api.ts';
import { PolicyPreviewPanel } from './policy-preview.tsx';

/** The policy as one row of fields; per cents where people think in them. */
const PolicyForm = z
  .object({
    version: PolicySchema.shape.version,
    reason: z.string().trim().min(10, 'Give the reason in a sentence.').max(1000),
    pullsPerRun: PolicySchema.shape.pullsPerRun,
    warmUpPulls: PolicySchema.shape.warmUpPulls,
    driftBoundLpPerPull: PolicySchema.shape.driftBoundLpPerPull,
    factorPassPct: z.number().min(0).max(100),
    factorCautionPct: z.number().min(0).max(100),
    rampPct: z.number().min(0).max(100),
    trimmedPct: z.number().min(0).max(100),
    scatterTimes: PolicySchema.shape.scatter.shape.cautionTimes,
    scatterMostPct: PolicySchema.shape.scatter.shape.mostPct,
    tooLowPct: z.number().min(0).max(10),
    claimAgeMonths: PolicySchema.shape.claimAgeMonths,
    smoothingRpm: PolicySchema.shape.smoothingRpm,
    confidencePct: z.number().min(80).max(99.9),
    guard: z.enum(GUARDS),
    boostedSchool: z.enum(BOOSTED_SCHOOLS),
  })
  .refine((p) => p.factorCautionPct >= p.factorPassPct, {
    message: 'Not below the limit that passes.',
    path: ['factorCautionPct'],
  });
type PolicyForm = z.infer<typeof PolicyForm>;

const GROUPS: readonly FieldGroup<keyof PolicyForm>[] = [
  {
    title: 'Version',
    fields: [
      { name: 'version', label: 'Name', kind: 'text', span: 3, hint: 'a new one; the old stays readable' },
      { name: 'reason', label: 'Why', kind: 'text', span: 9 },
    ],
  },
  {
    title: 'What a test needs',
    fields: [
      { name: 'pullsPerRun', label: 'Counted pulls a run', kind: 'number', span: 3 },
      { name: 'warmUpPulls', label: 'Warm-up pulls before it', kind: 'number', span: 3 },
      { name: 'driftBoundLpPerPull', label: 'Drift bound, % a pull', kind: 'number', span: 3 },
      { name: 'claimAgeMonths', label: 'A claim stands, months', kind: 'number', span: 3 },
    ],
  },
  {
    title: 'Limits of the gates',
    note: 'A tighter limit puts every published claim in question at once; each is evaluated again, and goes stale if it no longer holds.',
    fields: [
      { name: 'factorPassPct', label: 'Arms’ factors apart, % (pass)', kind: 'number', span: 3 },
      { name: 'factorCautionPct', label: 'Arms’ factors apart, % (most)', kind: 'number', span: 3 },
      { name: 'rampPct', label: 'Ramp rates apart, %', kind: 'number', span: 3 },
      { name: 'trimmedPct', label: 'Rpm range lost by trimming, %', kind: 'number', span: 3 },
      { name: 'scatterTimes', label: 'Scatter over history, times', kind: 'number', span: 3 },
      { name: 'scatterMostPct', label: 'Scatter at the most, %', kind: 'number', span: 3 },
      { name: 'tooLowPct', label: 'Scatter believed down to, chance in %', kind: 'number', span: 3 },
    ],
  },
  {
    title: 'How curves are read and corrected',
    note: 'For plans made from now on; a locked plan keeps its own.',
    fields: [
      { name: 'smoothingRpm', label: 'Smoothing, rpm', kind: 'number', span: 3 },
      { name: 'confidencePct', label: 'Confidence of the band, %', kind: 'number', span: 3 },
      {
        name: 'guard',
        label: 'Guard against unequal scatter',
        kind: 'select',
        options: [...GUARDS],
        span: 6,
        hint: 'of averages and peaks; strict is wider at three pulls a run',
      },
      {
        name: 'boostedSchool',
        label: 'School of boosted engines',
        kind: 'select',
        options: [...BOOSTED_SCHOOLS],
        span: 6,
        hint: 'a boost control that holds absolute pressure makes up for part of the air',
      },
    ],
  },
];

const percent = (share: number): number => Number((100 * share).toFixed(6));
const formOf = (p: Policy): PolicyForm => ({
  version: '',
  reason: '',
  pullsPerRun: p.pullsPerRun,
  warmUpPulls: p.warmUpPulls,
  driftBoundLpPerPull: p.driftBoundLpPerPull,
  factorPassPct: percent(p.factorArms.pass),
  factorCautionPct: percent(p.factorArms.caution),
  rampPct: percent(p.rampSpread),
  trimmedPct: percent(p.trimmedShare),
  scatterTimes: p.scatter.cautionTimes,
  scatterMostPct: p.scatter.mostPct,
  tooLowPct: percent(p.scatter.tooLowChance),
  claimAgeMonths: p.claimAgeMonths,
  smoothingRpm: p.smoothingRpm,
  confidencePct: percent(p.confidence),
  guard: p.guard,
  boostedSchool: p.boostedSchool,
});
const policyOf = (f: PolicyForm): Policy => ({
  version: f.version,
  pullsPerRun: f.pullsPerRun,
  warmUpPulls: f.warmUpPulls,
  driftBoundLpPerPull: f.driftBoundLpPerPull,
  factorArms: { pass: f.factorPassPct / 100, caution: f.factorCautionPct / 100 },
  rampSpread: f.rampPct / 100,
  trimmedShare: f.trimmedPct / 100,
  scatter: {
    cautionTimes: f.scatterTimes,
    mostPct: f.scatterMostPct,
    tooLowChance: f.tooLowPct / 100,
  },
  claimAgeMonths: f.claimAgeMonths,
  smoothingRpm: f.smoothingRpm,
  confidence: f.confidencePct / 100,
  guard: f.guard,
  boostedSchool: f.boostedSchool,
});

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
        note="Thresholds that every analysis is judged by. A version is never edited: a change is a new one, with its reason."
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
  const shown = formOf(entry.policy) as unknown as Record<string, string | number>;
  const fields = GROUPS.slice(1).flatMap((group) => group.fields);
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
      <dl className="mt-2 grid gap-x-8 gap-y-1 md:grid-cols-2 xl:grid-cols-3">
        {fields.map((field) => (
          <div key={field.name} className="flex justify-between gap-3 border-b border-rule">
            <dt className="text-soft">{field.label}</dt>
            <dd className="tabular-nums">{shown[field.name]}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
