import clsx from 'clsx';
import { useState } from 'react';
import { Link, useOutletContext } from 'react-router';
import { toast } from 'sonner';
import { METRIC_NAMES, METRICS, type Metric } from '../../core/plan/metrics.ts';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import { PROTOCOL_KEYS, protocolOf } from '../../core/plan/protocols.ts';
import { AmendRequest, type AmendDraft } from '../../contract/plan/test.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { dayTime, number } from '../base/format.ts';
import {
  Button,
  buttonClass,
  Caution,
  Dialog,
  Field,
  Input,
  Mark,
  ProblemNote,
  Select,
  Textarea,
} from '../base/ui.tsx';
import { Facts } from '../register/layout.tsx';
import { useAmendPlanMutation, useLockPlanMutation } from './api.ts';
import { TestStrip } from './run-strip.tsx';

const FIELD_NAMES: Record<string, string> = {
  question: 'question',
  gear: 'gear',
  fuel: 'fuel',
  metrics: 'metrics',
  band: 'window',
  standard: 'standard',
  controls: 'controls',
  coolDownMinutes: 'cool-down',
  addedRun: 'runs',
  photographs: 'photographs',
  logs: 'logs',
};

/** What is to be shown, in which order, by which arms; the lock that must come before the first pull; amendments after it. */
export function PlanPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const [lock, { error, isLoading }] = useLockPlanMutation();
  const [amending, setAmending] = useState(false);
  const { plan, summary, question, arms } = detail;
  const key = PROTOCOL_KEYS.find((k) => k === plan.protocol);
  const protocol = key && protocolOf(key);
  const manager = session?.person?.role === 'test manager';
  const baseline = arms.find((a) => a.role === 'baseline');
  const onLock = async (): Promise<void> => {
    if (!('error' in (await lock(summary.id)))) toast.success('The plan is locked.');
  };
  const plannedRuns =
    plan.order.length - detail.amendments.filter((a) => a.changes.some((c) => c.field === 'addedRun')).length;
  return (
    <main className="grid grid-cols-1 gap-x-10 gap-y-6 px-[22px] py-5 xl:grid-cols-[minmax(0,1fr)_320px]">
      <div className="grid content-start gap-6">
        <section>
          <h2>Question</h2>
          <p className="mt-1 max-w-prose font-display text-[17px]">{question}</p>
        </section>
        <section>
          <h2 className="mb-1">Arms</h2>
          <ul className="border-t-[1.5px] border-ink">
            {arms.map((arm) => (
              <li key={arm.key} className="grid grid-cols-[150px_1fr] gap-3 border-b border-rule py-2">
                <span>
                  <b>{arm.label}</b>
                  <span className="block text-[12px] text-soft">
                    {arm.role === 'baseline'
                      ? 'baseline'
                      : arm.from
                        ? `on ${arms.find((a) => a.key === arm.from)?.label ?? arm.from}`
                        : 'arm'}
                  </span>
                </span>
                <span>
                  {arm.role === 'baseline' ? (
                    <Mark tone={arm.scope === 'yes' || arm.scope === '' ? 'stands' : 'ask'}>
                      {arm.scope === 'yes' || arm.scope === ''
                        ? 'stock'
                        : arm.scope === 'no'
                          ? arm.scopeText
                          : 'not known to be stock'}
                    </Mark>
                  ) : arm.differences.length > 0 ? (
                    arm.differences.map((d) => (
                      <span key={d.subject + d.to} className="block">
                        {d.subject}: <span className="text-soft">{d.from} →</span> {d.to}
                      </span>
                    ))
                  ) : (
                    arm.part
                  )}
                  {arm.role === 'part' && arm.scope && (
                    <span className="block">
                      <Mark
                        tone={
                          arm.scope === 'part alone' || arm.scope === 'setting of the part' ? 'stands' : 'ask'
                        }
                      >
                        {arm.scope}
                      </Mark>{' '}
                      <span className="text-[12.5px] text-soft">{arm.scopeText}</span>
                    </span>
                  )}
                </span>
              </li>
            ))}
          </ul>
          {baseline?.scope === 'no' && (
            <p className="mt-1 text-[12.5px] text-ask">
              The claim will say what the part was measured against.
            </p>
          )}
        </section>
        <section>
          <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h2>Run sheet</h2>
            <span className="text-[12.5px] text-soft">
              {plan.warmUps} uncounted warm-up pulls before every run, then {plan.pullsPerRun} counted,{' '}
              {plan.coolDownMinutes} min cool-down.{' '}
              {plan.remount ? 'Strapped down anew for every run.' : 'One strapping.'}
            </span>
          </div>
          <TestStrip detail={detail} planned={plannedRuns} />
          <p className="mt-3 flex flex-wrap gap-2">
            <Link to={`/tests/${summary.id}/run-sheet`} className={buttonClass('plain', true)}>
              Print
            </Link>
            <a href={`/api/tests/${summary.id}/run-sheet.csv`} className={buttonClass('plain', true)}>
              CSV
            </a>
            {detail.booking && (
              <a href={`/api/tests/${summary.id}/session.ics`} className={buttonClass('plain', true)}>
                Calendar file
              </a>
            )}
          </p>
        </section>
        {protocol && (
          <section>
            <h2>{protocol.name}</h2>
            <p className="mt-1 max-w-prose text-soft">
              {protocol.use} {protocol.cannot}
            </p>
            {detail.series.length > 0 && (
              <p className="mt-1">
                Planned together with{' '}
                {detail.series.map((s, i) => (
                  <span key={s.id}>
                    {i > 0 && ', '}
                    <Link to={`/tests/${s.id}/plan`}>test {s.number}</Link> ({s.vehicle}, {s.dyno})
                  </span>
                ))}
                .
              </p>
            )}
          </section>
        )}
        {detail.amendments.length > 0 && (
          <section aria-labelledby="amendments">
            <h2 id="amendments" className="mb-1">
              Amendments
            </h2>
            <ol className="border-t-[1.5px] border-ink">
              {detail.amendments.map((a) => (
                <li key={a.number} className="border-b border-rule py-2">
                  <b>Amendment {a.number}</b>{' '}
                  <span className="text-soft">
                    {dayTime(a.at)}, {a.person} ·{' '}
                    <a href={`/api/tests/${detail.summary.id}/plan-versions/${a.number + 1}`}>
                      version {a.number + 1} of the plan
                    </a>
                  </span>
                  <ul>
                    {a.changes.map((c) => (
                      <li key={c.field}>
                        {FIELD_NAMES[c.field] ?? c.field}: <s className="text-soft">{c.from}</s> {c.to}
                      </li>
                    ))}
                  </ul>
                  <p className="font-display">{a.reason}</p>
                </li>
              ))}
            </ol>
          </section>
        )}
        <Caution>
          Strapping, rotating parts, tyre failure, noise, hot parts, fuel and exhaust gas: check straps and
          extraction, wear hearing protection, keep people clear of the rollers.
        </Caution>
      </div>
      <aside className="content-start">
        <Facts
          rows={[
            ['Metrics', plan.metrics.map((m) => METRIC_NAMES[m]).join('; ')],
            [
              'Window',
              `${number(plan.band.fromRpm, 0)} to ${number(plan.band.toRpm, 0)} rpm, every ${plan.band.stepRpm}`,
            ],
            ['Standard', STANDARD_NAMES[plan.standard]],
            [
              'Confidence',
              `${100 * plan.confidence} % for the whole curve${plan.metrics.length > 1 || arms.length > 2 ? ', shared by all that is named' : ''}`,
            ],
            ['Guard', `${plan.guard}, for averages and peaks`],
            ['Smoothing', `${plan.smoothingRpm} rpm moving average`],
            [
              'Vehicle',
              <Link key="v" to={`/register/vehicles/${detail.vehicle.id}`}>
                {detail.vehicle.tag}
              </Link>,
            ],
            ['Gear and fuel', `${plan.gear}; ${plan.fuel}`],
            ...(plan.controls.length
              ? [
                  [
                    'Held equal',
                    plan.controls
                      .map(
                        (c) =>
                          `${c.quantity} ${c.target === null ? 'equal' : c.target} ± ${c.tolerance} ${c.unit}`,
                      )
                      .join('; '),
                  ] as const,
                ]
              : []),
            ...(plan.logs.length ? [['Logs', plan.logs.join(', ')] as const] : []),
            ...(plan.photographs.length ? [['Photographs', plan.photographs.join(', ')] as const] : []),
            ...(plan.hours
              ? [
                  [
                    'Time',
                    `${number(plan.hours.dynoHours, 1)} dyno hours${plan.hours.offDynoHours ? `, ${number(plan.hours.offDynoHours, 1)} h off the rollers` : ''}; ${number(plan.hours.cost, 0)} ${detail.dyno.currency}`,
                  ] as const,
                ]
              : []),
            [
              'In the calendar',
              detail.booking ? (
                <Link key="b" to={`/schedule?from=${detail.booking.start.slice(0, 10)}`}>
                  {dayTime(detail.booking.start)}
                </Link>
              ) : (
                <Link key="b" to="/schedule">
                  not placed
                </Link>
              ),
            ],
            ['Planned by', `${plan.createdBy}, ${dayTime(plan.createdAt)}`],
            ...(plan.partner ? [['Assigned to', plan.partner] as const] : []),
          ]}
        />
        <div className="mt-5 grid justify-items-start gap-2">
          {plan.lockedAt ? (
            <>
              <Mark tone="stands">
                Locked {dayTime(plan.lockedAt)} by {plan.lockedBy}
              </Mark>
              <p className="break-all text-[12px] text-soft">SHA-256 of the plan {plan.hash}</p>
              <a href={`/api/tests/${summary.id}/locked-plan.json`} className={buttonClass('plain', true)}>
                The plan as it was locked
              </a>
              {manager && <Button onClick={() => setAmending(true)}>Amend with a reason</Button>}
            </>
          ) : (
            <>
              <Mark tone="ask">Not locked</Mark>
              <p className="text-soft">
                Lock it before the first pull: what is captured before stays indicative. After the lock it
                changes only by an amendment with a reason.
              </p>
              {manager ? (
                <div className="flex flex-wrap gap-2">
                  <Button kind="main" disabled={isLoading} onClick={() => void onLock()}>
                    Lock the plan
                  </Button>
                  <Link to={`/tests/${summary.id}/plan/edit`} className={buttonClass('plain')}>
                    Change the plan
                  </Link>
                </div>
              ) : (
                <p className="text-soft">The test manager locks it.</p>
              )}
            </>
          )}
          <ProblemNote error={error} />
        </div>
      </aside>
      {amending && <AmendDialog detail={detail} onClose={() => setAmending(false)} />}
    </main>
  );
}

type Field_ = 'coolDownMinutes' | 'gear' | 'fuel' | 'question' | 'metrics' | 'band' | 'standard' | 'addedRun';
const DECISIVE: readonly Field_[] = ['question', 'metrics', 'band', 'standard'];

/** One change to a locked plan, with its reason; what it does to a claim is said before it is made. */
function AmendDialog({ detail, onClose }: { detail: TestDetail; onClose: () => void }) {
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
