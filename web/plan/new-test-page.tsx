import { zodResolver } from '@hookform/resolvers/zod';
import { useForm, useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { METRIC_NAMES, METRICS } from '../../core/plan/metrics.ts';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import { CreateTestRequest, PROTOCOLS } from '../../contract/plan/test.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { useCreateTestMutation, useRegisterQuery } from '../base/endpoints.ts';
import { Button, Field, Input, Loading, ProblemNote, Select, Textarea } from '../base/ui.tsx';

type Draft = z.input<typeof CreateTestRequest>;

/** Plans a test of one part against stock on one vehicle. */
export function NewTestPage() {
  const { data: register, error } = useRegisterQuery();
  const [create, { error: refused, isLoading }] = useCreateTestMutation();
  const navigate = useNavigate();
  const { register: field, handleSubmit, control, setValue, formState: { errors } } = useForm<Draft, unknown, CreateTestRequest>({
    resolver: zodResolver(CreateTestRequest),
    defaultValues: { question: '', fitmentId: '', vehicleId: '', partRevisionId: '', dynoId: '', partnerId: null, standard: 'sae-j1349', band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 }, metric: 'upTo', protocol: 'A-B-A', pullsPerRun: 3, warmUps: 3, remount: false, gear: '4th, 1:1', fuel: '95 RON pump', calibration: 'unchanged, stock' },
  });
  const [fitmentId, protocol, pullsPerRun, warmUps] = useWatch({ control, name: ['fitmentId', 'protocol', 'pullsPerRun', 'warmUps'] });
  if (error) return <main className="p-6"><ProblemNote error={error} /></main>;
  if (!register) return <main className="p-6"><Loading what="the register" /></main>;
  const chosen = PROTOCOLS[protocol];
  const total = chosen.arms.length * ((Number(pullsPerRun) || 0) + (Number(warmUps) || 0));
  const whole = { valueAsNumber: true } as const;
  const save = handleSubmit(async (plan) => { const answer = await create(plan); if ('data' in answer && answer.data) void navigate(`/tests/${answer.data.id}/plan`); });
  return (
    <main className="mx-auto max-w-[920px] px-6 py-6">
      <h1>Plan a new test</h1>
      <p className="mb-5 mt-1 text-soft">One part against stock on one vehicle. Name now what will be claimed; the plan is locked before the first pull.</p>
      <form onSubmit={(event) => void save(event)} noValidate className="grid gap-5">
        <Field label="What is the test to show?" error={errors.question?.message}><Textarea rows={2} {...field('question')} placeholder="How much does the manifold give at the top, and what does it cost below?" /></Field>
        <div className="grid gap-4 md:grid-cols-2">
          <Field label="Fitment" error={errors.fitmentId && 'Choose a fitment.'}><Select {...field('fitmentId', { onChange: () => setValue('vehicleId', '') })}><option value="">choose</option>{register.fitments.map((f) => <option key={f.id} value={f.id}>{fitmentName(f)}</option>)}</Select></Field>
          <Field label="Vehicle" error={errors.vehicleId && 'Choose a vehicle of the fitment.'} hint={fitmentId ? undefined : 'Choose the fitment first.'}><Select {...field('vehicleId')} disabled={!fitmentId}><option value="">choose</option>{register.vehicles.filter((v) => v.fitmentId === fitmentId).map((v) => <option key={v.id} value={v.id}>{v.tag}</option>)}</Select></Field>
          <Field label="Part and revision" error={errors.partRevisionId && 'Choose a part.'}><Select {...field('partRevisionId')}><option value="">choose</option>{register.partRevisions.map((p) => <option key={p.id} value={p.id}>{p.name}, revision {p.revision} ({p.sku})</option>)}</Select></Field>
          <Field label="Dyno" error={errors.dynoId && 'Choose a dyno.'}><Select {...field('dynoId')}><option value="">choose</option>{register.dynos.map((d) => <option key={d.id} value={d.id}>{d.name}, {d.kind}</option>)}</Select></Field>
          <Field label="Metric of the claim" hint="“Up to” for a local gain, the average for a broad one."><Select {...field('metric')}>{METRICS.map((m) => <option key={m} value={m}>{METRIC_NAMES[m]}</option>)}</Select></Field>
          <Field label="Standard"><Select {...field('standard')}>{STANDARDS.map((s) => <option key={s} value={s}>{STANDARD_NAMES[s]}</option>)}</Select></Field>
        </div>
        <fieldset className="grid gap-4 border-t border-rule pt-4 md:grid-cols-4">
          <legend className="font-semibold">Protocol</legend>
          <Field label="Order of arms"><Select {...field('protocol')}>{Object.keys(PROTOCOLS).map((p) => <option key={p}>{p}</option>)}</Select></Field>
          <Field label="Counted pulls a run" error={errors.pullsPerRun?.message}><Input type="number" min={2} max={12} {...field('pullsPerRun', whole)} /></Field>
          <Field label="Warm-up pulls a run" error={errors.warmUps?.message}><Input type="number" min={0} max={8} {...field('warmUps', whole)} /></Field>
          <label className="flex items-center gap-2 self-end pb-2"><input type="checkbox" {...field('remount')} className="size-4" /> strapped down anew for every run</label>
          <p className="text-soft md:col-span-4">{chosen.use} {chosen.cannot} {total} pulls in all.</p>
        </fieldset>
        <div className="grid gap-4 md:grid-cols-3">
          <Field label="From, rpm" error={errors.band?.fromRpm?.message ?? errors.band?.root?.message}><Input type="number" step={50} {...field('band.fromRpm', whole)} /></Field>
          <Field label="To, rpm" error={errors.band?.toRpm?.message ?? errors.band?.message}><Input type="number" step={50} {...field('band.toRpm', whole)} /></Field>
          <Field label="Step, rpm" error={errors.band?.stepRpm?.message}><Input type="number" step={10} {...field('band.stepRpm', whole)} /></Field>
          <Field label="Gear, nearest 1:1"><Input {...field('gear')} /></Field>
          <Field label="Fuel"><Input {...field('fuel')} /></Field>
          <Field label="Calibration"><Input {...field('calibration')} /></Field>
        </div>
        {register.partners.length > 0 && <Field label="Assigned to a partner shop" hint="A partner shop sees only the tests assigned to it."><Select {...field('partnerId', { setValueAs: (v: string | null) => v || null })}><option value="">no, run in the house</option>{register.partners.map((p) => <option key={p.id} value={p.id}>{p.name}</option>)}</Select></Field>}
        <ProblemNote error={refused} />
        <div className="flex gap-3"><Button kind="main" type="submit" disabled={isLoading}>Save the plan</Button><Button onClick={() => void navigate('/tests')}>Cancel</Button></div>
      </form>
    </main>
  );
}
