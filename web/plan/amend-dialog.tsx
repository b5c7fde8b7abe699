import clsx from 'clsx';
import { useState } from 'react';
import { toast } from 'sonner';
import { METRIC_NAMES, METRICS, type Metric } from '../../core/plan/metrics.ts';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import { AmendRequest, type AmendDraft } from '../../contract/plan/test.ts';
import type { TestDetail } from '../../contract/overview.ts';

import { Button, Dialog, Field, Input, ProblemNote, Select, Textarea } from '../base/ui.tsx';
import { useAmendPlanMutation } from './api.ts';
import { FIELD_NAMES, type Field_, DECISIVE } from './amend-words.ts';

/** One change to a locked plan, with its reason; what it does to a claim is said before it is made. */
export function AmendDialog({ detail, onClose }: { detail: TestDetail; onClose: () => void }) {
  const { plan, arms } = detail;
  const [amend, { error, isLoading }] = useAmendPlanMutation();
  const [field, setField] = useState<Field_>('coolDownMinutes');
  const [reason, setReason] = useState('');
  const [value, setValue] = useState({
    coolDownMinutes: plan.coolDownMinutes,
    gear: plan.gear,
    fuel: plan.fuel,
    question: detail.question,
    metrics: plan.metrics,
    band: plan.band,
    standard: plan.standard,
    addedRun: { arm: arms[0].key, newMount: false },
  });
  const [told, setTold] = useState<string | null>(null);
  const begun = detail.pulls.some((p) => p.file);
  const save = async (): Promise<void> => {
    const draft: AmendDraft = { reason, changes: { [field]: value[field] } };
    const checked = AmendRequest.safeParse(draft);
    if (!checked.success) {
      setTold(checked.error.issues[0].message);
      return;
    }
    setTold(null);
    if (!('error' in (await amend({ id: detail.summary.id, request: checked.data })))) {
      toast.success('Amended. The plan as it was locked stays readable.');
      onClose();
    }
  };
  return (
    <Dialog wide open onClose={onClose} title="Amend the locked plan">
      <div className="grid gap-4">
        <Field label="What is changed">
          <Select value={field} onChange={(e) => setField(e.target.value as Field_)}>
            {(Object.keys(value) as Field_[]).map((f) => (
              <option key={f} value={f}>
                {f === 'addedRun' ? 'a run is added' : FIELD_NAMES[f]}
              </option>
            ))}
          </Select>
        </Field>
        {field === 'coolDownMinutes' && (
          <Field label="Cool-down, min">
            <Input
              type="number"
              min={0}
              max={60}
              value={value.coolDownMinutes}
              onChange={(e) => setValue({ ...value, coolDownMinutes: e.target.valueAsNumber })}
            />
          </Field>
        )}
        {(field === 'gear' || field === 'fuel') && (
          <Field label={field === 'gear' ? 'Gear' : 'Fuel'}>
            <Input value={value[field]} onChange={(e) => setValue({ ...value, [field]: e.target.value })} />
          </Field>
        )}
        {field === 'question' && (
          <Field label="Question">
            <Textarea
              rows={2}
              value={value.question}
              onChange={(e) => setValue({ ...value, question: e.target.value })}
            />
          </Field>
        )}
        {field === 'standard' && (
          <Field label="Standard">
            <Select
              value={value.standard}
              onChange={(e) => setValue({ ...value, standard: e.target.value as typeof plan.standard })}
            >
              {STANDARDS.map((s) => (
                <option key={s} value={s}>
                  {STANDARD_NAMES[s]}
                </option>
              ))}
            </Select>
          </Field>
        )}
        {field === 'metrics' && (
          <fieldset className="flex flex-wrap gap-4">
            <legend className="font-medium">Metrics</legend>
            {METRICS.map((m: Metric) => (
              <label key={m} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={value.metrics.includes(m)}
                  onChange={(e) =>
                    setValue({
                      ...value,
                      metrics: e.target.checked
                        ? [...value.metrics, m]
                        : value.metrics.filter((x) => x !== m),
                    })
                  }
                />
                {METRIC_NAMES[m]}
              </label>
            ))}
          </fieldset>
        )}
        {field === 'band' && (
          <div className="grid grid-cols-3 gap-3">
            {(['fromRpm', 'toRpm', 'stepRpm'] as const).map((k) => (
              <Field key={k} label={{ fromRpm: 'From, rpm', toRpm: 'To, rpm', stepRpm: 'Every, rpm' }[k]}>
                <Input
                  type="number"
                  value={value.band[k]}
                  onChange={(e) =>
                    setValue({ ...value, band: { ...value.band, [k]: e.target.valueAsNumber } })
                  }
                />
              </Field>
            ))}
          </div>
        )}
        {field === 'addedRun' && (
          <div className="flex flex-wrap items-end gap-4">
            <Field label="Arm of the added run">
              <Select
                value={value.addedRun.arm}
                onChange={(e) => setValue({ ...value, addedRun: { ...value.addedRun, arm: e.target.value } })}
              >
                {arms.map((a) => (
                  <option key={a.key} value={a.key}>
                    {a.label}
                  </option>
                ))}
              </Select>
            </Field>
            <label className="flex items-center gap-2 pb-2">
              <input
                type="checkbox"
                checked={value.addedRun.newMount || plan.remount}
                disabled={plan.remount}
                onChange={(e) =>
                  setValue({ ...value, addedRun: { ...value.addedRun, newMount: e.target.checked } })
                }
              />{' '}
              strapped down anew
            </label>
          </div>
        )}
        <p className={clsx('text-[12.5px]', begun && DECISIVE.includes(field) ? 'text-loss' : 'text-soft')}>
          {begun && DECISIVE.includes(field)
            ? '▼ Pulls have been captured: after this change the result can only be indicative, and published claims of this test go stale.'
            : begun
              ? 'Pulls have been captured: the amendment is told as a caution, and published claims of this test go stale.'
              : 'No pull has been captured yet: the amendment is told, and weighs nothing.'}
        </p>
        <Field label="Reason" error={told ?? undefined}>
          <Textarea rows={2} value={reason} onChange={(e) => setReason(e.target.value)} />
        </Field>
        <ProblemNote error={error} />
        <div className="flex gap-3">
          <Button kind="main" disabled={isLoading} onClick={() => void save()}>
            Amend the plan
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </div>
    </Dialog>
  );
}
