import clsx from 'clsx';
import { useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import { assessArms } from '../../core/plan/arms.ts';
import { LOGS, PHOTOGRAPHS } from '../../core/plan/controls.ts';
import { planHours } from '../../core/plan/hours.ts';
import { METRIC_NAMES, METRICS, type Metric } from '../../core/plan/metrics.ts';
import { PROTOCOL_KEYS, protocolOf } from '../../core/plan/protocols.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import { TWELVE_AS_FOUR_RUNS } from '../../core/plan/precision.ts';
import { armsInput } from '../../contract/plan/arms-input.ts';
import { PlanRequest } from '../../contract/plan/test.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { number } from '../base/format.ts';
import { DateInput } from '../base/date-input.tsx';
import { Picker, type Choice } from '../base/picker.tsx';
import { RowsEditor } from '../base/rows-editor.tsx';
import { Button, Caution, Field, Input, Loading, Mark, ProblemNote, Select, Textarea } from '../base/ui.tsx';
import {
  useFindFitments,
  useFitmentQuery,
  usePlanningQuery,
  usePoliciesQuery,
  useRegisterQuery,
  useVehiclesInfiniteQuery,
} from '../register/api.ts';
import { ArmsEditor } from './arms-editor.tsx';
import { baselineOf, partArmsOf, withOrder, withProtocol, type Draft } from './draft.ts';
import { useFollowVehicle } from './follow-vehicle.ts';
import { NoisyEnds } from './noisy-ends.tsx';
import { OrderEditor } from './order-editor.tsx';
import { PrecisionPanel } from './precision-panel.tsx';
import { RunStrip } from './run-strip.tsx';
import { SeriesEditor } from './series-editor.tsx';

/** Builds a plan: what is asked, arms as differences, protocol, pulls; beside it what would follow from it, as it is built. */
export function PlanBuilder({
  draft,
  onChange,
  onSave,
  saving,
  problem,
  verb,
  editing,
}: {
  draft: Draft;
  /** Changes the draft as it then is: what was typed and what follows from a choice never overwrite each other. */
  onChange: (update: (draft: Draft) => Draft) => void;
  onSave: (plan: PlanRequest) => void;
  saving: boolean;
  problem: unknown;
  verb: string;
  editing?: boolean;
}) {
  const set = (change: Partial<Draft>): void => onChange((d) => ({ ...d, ...change }));
  const [tried, setTried] = useState(false);
  const { data: register, error } = useRegisterQuery();
  const { data: fitment } = useFitmentQuery(draft.fitmentId, { skip: !draft.fitmentId });
  const { data: vehiclePages } = useVehiclesInfiniteQuery(
    { q: '', fitmentId: draft.fitmentId },
    { skip: !draft.fitmentId },
  );
  const { data: planning } = usePlanningQuery(draft.vehicleId, { skip: !draft.vehicleId });
  const vehicles = vehiclePages?.pages.flatMap((p) => p.items) ?? [];
  const known = planning && planning.vehicle.id === draft.vehicleId ? planning : undefined;
  const { data: policies } = usePoliciesQuery();
  const policy =
    policies?.entries.find((e) => e.policy.version === policies.inForce)?.policy ?? DEFAULT_POLICY;
  const dyno = register?.dynos.find((d) => d.id === draft.dynoId);
  const protocol = protocolOf(draft.protocol);
  const parts = partArmsOf(draft);
  const baseline = baselineOf(draft);

  useFollowVehicle(known, onChange);
  const assessed = useMemo(
    () =>
      known
        ? {
            input: armsInput(known, draft.arms, draft.fuel),
            assessment: assessArms(armsInput(known, draft.arms, draft.fuel)),
          }
        : null,
    [known, draft.arms, draft.fuel],
  );
  const hoursOf = useMemo(() => {
    if (!assessed || !dyno) return null;
    const arms = new Map([assessed.assessment.baseline, ...assessed.assessment.parts].map((a) => [a.key, a]));
    return (order: readonly string[], remount: boolean) =>
      planHours({
        order,
        arms,
        revisions: assessed.input.revisions,
        pullsPerRun: draft.pullsPerRun,
        warmUps: draft.warmUps,
        coolDownMinutes: draft.coolDownMinutes,
        remount,
        dynoHourly: dyno.hourlyRate,
        labourHourly: dyno.labourRate,
      });
  }, [assessed, dyno, draft.pullsPerRun, draft.warmUps, draft.coolDownMinutes]);
  const hours = hoursOf?.(draft.order, draft.remount) ?? null;
  const firstPart = parts[0]?.key ?? '';
  const precisionInput = useMemo(
    () =>
      dyno && draft.metrics.length > 0 && draft.pullsPerRun >= 2
        ? {
            order: draft.order,
            baseline: baseline.key,
            arm: firstPart,
            pullsPerRun: draft.pullsPerRun,
            warmUps: draft.warmUps,
            remount: draft.remount,
            metrics: draft.metrics,
            partArms: parts.length,
            repeatability: dyno.repeatability,
            driftBound: dyno.driftBound ?? policy.driftBoundLpPerPull,
            confidence: policy.confidence,
            guard: policy.guard,
          }
        : null,
    [
      dyno,
      policy,
      draft.order,
      draft.pullsPerRun,
      draft.warmUps,
      draft.remount,
      draft.metrics,
      baseline.key,
      firstPart,
      parts.length,
    ],
  );

  const checked = PlanRequest.safeParse(draft);
  const errorAt = (name: string): string | undefined =>
    tried && !checked.success
      ? checked.error.issues.find((issue) => issue.path.join('.') === name || issue.path[0] === name)?.message
      : undefined;
  const stops = assessed
    ? [assessed.assessment.baseline, ...assessed.assessment.parts]
        .flatMap((a) => a.problems)
        .filter((p) => p.severity === 'stop')
    : [];
  const save = (): void => {
    setTried(true);
    if (checked.success) onSave(checked.data);
  };
  const chooseFitment = (choice: Choice): void => {
    if (choice.id !== draft.fitmentId)
      set({
        fitmentId: choice.id,
        vehicleId: '',
        series: [],
        arms: draft.arms.map((a) => ({ ...a, changes: [] })),
      });
  };
  const chooseVehicle = (id: string): void => {
    set({
      vehicleId: id,
      series: draft.series.filter((s) => s.vehicleId !== id || protocol.series === 'visits'),
    });
  };
  if (error) return <ProblemNote error={error} />;
  if (!register) return <Loading what="the register" />;

  return (
    <div className="grid gap-x-8 gap-y-6 xl:grid-cols-[minmax(0,1fr)_minmax(0,404px)]">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          save();
        }}
        noValidate
        className="grid min-w-0 content-start gap-6"
      >
        <Section title="Question">
          <Field label="What is the test to show?" error={errorAt('question')}>
            <Textarea
              rows={2}
              value={draft.question}
              onChange={(e) => set({ question: e.target.value })}
              placeholder="How much does the manifold give at the top, and what does it cost below?"
            />
          </Field>
          <div className="grid gap-4 md:grid-cols-3">
            <Field label="Fitment" error={errorAt('fitmentId')}>
              <Picker
                label="Fitment"
                placeholder="find a fitment"
                value={
                  fitment && draft.fitmentId
                    ? { id: fitment.fitment.id, name: fitmentName(fitment.fitment) }
                    : null
                }
                useFind={useFindFitments}
                onChoose={chooseFitment}
              />
            </Field>
            <Field
              label="Vehicle"
              error={errorAt('vehicleId')}
              hint={
                !draft.fitmentId
                  ? 'Choose the fitment first.'
                  : vehiclePages && vehicles.length === 0
                    ? 'None is registered for it.'
                    : undefined
              }
            >
              <Select
                disabled={!draft.fitmentId}
                value={draft.vehicleId}
                onChange={(e) => chooseVehicle(e.target.value)}
              >
                <option value="">choose</option>
                {vehicles.map((v) => (
                  <option key={v.id} value={v.id}>
                    {v.tag}
                    {v.stock === 'no' ? ' (not stock)' : ''}
                  </option>
                ))}
              </Select>
            </Field>
            <Field label="Dyno" error={errorAt('dynoId')}>
              <Select value={draft.dynoId} onChange={(e) => set({ dynoId: e.target.value })}>
                <option value="">choose</option>
                {register.dynos.map((d) => (
                  <option key={d.id} value={d.id}>
                    {d.name}, {d.kind}
                  </option>
                ))}
              </Select>
            </Field>
          </div>
        </Section>

        <Section
          title="Protocol"
          note={
            <>
              <b className="text-ink">{protocol.use}</b> {protocol.cannot}
            </>
          }
        >
          <div role="radiogroup" aria-label="Protocol" className="flex flex-wrap gap-1.5">
            {PROTOCOL_KEYS.filter((key) => !editing || !protocolOf(key).series).map((key) => (
              <button
                key={key}
                type="button"
                role="radio"
                aria-checked={draft.protocol === key}
                title={`${protocolOf(key).use} ${protocolOf(key).cannot}`}
                onClick={() => onChange((d) => withProtocol(d, key))}
                className={clsx(
                  'rounded border px-2.5 py-1 text-left',
                  draft.protocol === key
                    ? 'border-ink bg-ink text-on-ink'
                    : 'border-rule bg-sheet hover:border-ink',
                )}
              >
                {key.includes('-') ? (
                  <>
                    <b>{key}</b>{' '}
                    <span className={draft.protocol === key ? '' : 'text-soft'}>
                      {protocolOf(key).name.toLowerCase()}
                    </span>
                  </>
                ) : (
                  protocolOf(key).name
                )}
              </button>
            ))}
          </div>
          {protocol.series && (
            <SeriesEditor draft={draft} onChange={set} kind={protocol.series} dynos={register.dynos} />
          )}
        </Section>

        <Section
          title="Arms"
          note="Each arm is built as differences from what is on the vehicle now; everything else that differs is listed at once."
        >
          {known ? (
            <ArmsEditor
              draft={draft}
              onChange={onChange}
              planning={known}
              assessment={assessed?.assessment ?? null}
              error={errorAt('arms')}
            />
          ) : (
            <p className="border border-dashed border-rule px-4 py-5 text-soft">
              {draft.vehicleId
                ? 'Reading the vehicle’s ledger …'
                : 'Choose the vehicle: its ledger says what is on it now.'}
            </p>
          )}
        </Section>

        <Section
          title="Run order"
          note="Drag a run, or take it up with the space bar and move it with the arrow keys; the order is then your own."
        >
          <OrderEditor draft={draft} onOrder={(order) => onChange((d) => withOrder(d, order))} />
          {errorAt('order') && (
            <p role="alert" className="text-loss">
              {errorAt('order')}
            </p>
          )}
          <RunStrip draft={draft} />
        </Section>

        <Section title="Pulls and window">
          <div className="grid gap-4 md:grid-cols-4">
            <Num
              label="Counted pulls a run"
              value={draft.pullsPerRun}
              onChange={(v) => set({ pullsPerRun: v })}
              min={2}
              max={12}
              error={errorAt('pullsPerRun')}
            />
            <Num
              label="Warm-up pulls before each"
              value={draft.warmUps}
              onChange={(v) => set({ warmUps: v })}
              min={0}
              max={8}
              error={errorAt('warmUps')}
              hint={
                draft.warmUps < 3
                  ? 'policy asks for three, the same before every run'
                  : 'uncounted, the same before every run'
              }
            />
            <Num
              label="Cool-down, min"
              value={draft.coolDownMinutes}
              onChange={(v) => set({ coolDownMinutes: v })}
              min={0}
              max={60}
              error={errorAt('coolDownMinutes')}
              hint="before every counted pull"
            />
            <label className="flex items-center gap-2 self-start pt-7">
              <input
                type="checkbox"
                className="size-4"
                checked={draft.remount}
                disabled={draft.protocol === 'A-B'}
                onChange={(e) => set({ remount: e.target.checked })}
              />{' '}
              strapped down anew for every run
            </label>
          </div>
          <fieldset>
            <legend className="font-medium">Metrics to be claimed</legend>
            <div className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
              {METRICS.map((m: Metric) => (
                <label key={m} className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-4"
                    checked={draft.metrics.includes(m)}
                    onChange={(e) =>
                      set({
                        metrics: e.target.checked
                          ? [...draft.metrics, m]
                          : draft.metrics.filter((x) => x !== m),
                      })
                    }
                  />
                  {METRIC_NAMES[m]}
                </label>
              ))}
            </div>
            <p className={clsx('mt-1 text-[12.5px]', errorAt('metrics') ? 'text-loss' : 'text-soft')}>
              {errorAt('metrics') ??
                (draft.metrics.length > 1
                  ? 'Each pays for their number: the bands grow wider. Name one if one is enough.'
                  : 'Only what is named here can be claimed. “Up to” for a local gain, the average for a broad one.')}
            </p>
          </fieldset>
          {known && <NoisyEnds seen={known.noisyEnds} band={draft.band} onChange={(band) => set({ band })} />}
          <div className="grid gap-4 md:grid-cols-4">
            <Num
              label="From, rpm"
              value={draft.band.fromRpm}
              onChange={(v) => set({ band: { ...draft.band, fromRpm: v } })}
              step={50}
              error={errorAt('band')}
            />
            <Num
              label="To, rpm"
              value={draft.band.toRpm}
              onChange={(v) => set({ band: { ...draft.band, toRpm: v } })}
              step={50}
            />
            <Num
              label="Every, rpm"
              value={draft.band.stepRpm}
              onChange={(v) => set({ band: { ...draft.band, stepRpm: v } })}
              step={10}
            />
            <Field label="Standard">
              <Select
                value={draft.standard}
                onChange={(e) => set({ standard: e.target.value as Draft['standard'] })}
              >
                {STANDARDS.map((s) => (
                  <option key={s} value={s}>
                    {STANDARD_NAMES[s]}
                  </option>
                ))}
              </Select>
            </Field>
            <Field
              label="Gear, nearest 1:1"
              error={errorAt('gear')}
              hint={
                known && known.vehicle.gears.length
                  ? known.vehicle.gears.map((g) => `${g.name} ${g.ratio}`).join(', ')
                  : undefined
              }
            >
              <Input value={draft.gear} onChange={(e) => set({ gear: e.target.value })} />
            </Field>
            <Field
              label="Fuel"
              error={errorAt('fuel')}
              hint={known ? `stock: ${known.fitment.fuel}` : undefined}
            >
              <Input value={draft.fuel} onChange={(e) => set({ fuel: e.target.value })} />
            </Field>
            {known && (
              <p className="self-end pb-2 text-[12.5px] text-soft">
                Tyres:{' '}
                {known.present.configuration.tyres ?? (known.vehicle.wheels || null) ?? (
                  <span className="text-loss">
                    not on record. Write them into the vehicle’s ledger before the plan is saved.
                  </span>
                )}
              </p>
            )}
            <Field label="Assigned to">
              <Select
                value={draft.partnerId ?? ''}
                onChange={(e) => set({ partnerId: e.target.value || null })}
              >
                <option value="">the house</option>
                {register.partners.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </Select>
            </Field>
          </div>
        </Section>

        <Section title="Held equal, and wanted beside the pulls">
          <div className="grid gap-4 lg:grid-cols-2">
            <div role="group" aria-label="Controls">
              <p className="mb-1 font-medium">Controls with tolerances</p>
              <RowsEditor
                value={draft.controls}
                onChange={(controls) => set({ controls })}
                blank={{ quantity: '', target: null, tolerance: 1, unit: '' }}
                add="Add a control"
                fields={[
                  { name: 'quantity', label: 'quantity', width: '144px' },
                  { name: 'target', label: 'target', width: '78px', kind: 'number' },
                  { name: 'tolerance', label: '±', width: '70px', kind: 'number' },
                  { name: 'unit', label: 'unit', width: '60px' },
                ]}
              />
              {errorAt('controls') && (
                <p role="alert" className="text-[12.5px] text-loss">
                  {errorAt('controls')}
                </p>
              )}
              <p className="mt-1 text-[12.5px] text-soft">Without a target: equal in both arms.</p>
            </div>
            <div className="grid content-start gap-3">
              <Checks
                legend="Photographs"
                all={PHOTOGRAPHS}
                value={draft.photographs}
                onChange={(photographs) => set({ photographs })}
              />
              <Checks legend="Logs" all={LOGS} value={draft.logs} onChange={(logs) => set({ logs })} />
            </div>
          </div>
          <div className="grid gap-4 md:grid-cols-3">
            <Field label="Not before">
              <DateInput value={draft.notBefore ?? ''} onChange={(iso) => set({ notBefore: iso || null })} />
            </Field>
            <Field label="Due" error={errorAt('due')}>
              <DateInput value={draft.due ?? ''} onChange={(iso) => set({ due: iso || null })} />
            </Field>
            <Num
              label="Priority, 0 to 9"
              value={draft.priority}
              onChange={(v) => set({ priority: v })}
              min={0}
              max={9}
              hint="higher goes first in the calendar"
            />
          </div>
        </Section>
        {tried && !checked.success && (
          <p role="alert" className="text-loss">
            {checked.error.issues[0].message}
            {checked.error.issues.length > 1 ? ` And ${checked.error.issues.length - 1} more above.` : ''}
          </p>
        )}
        <ProblemNote error={problem} />
        <div className="flex flex-wrap items-center gap-3">
          <Button kind="main" type="submit" disabled={saving}>
            {verb}
          </Button>
          <Link to="/tests">Cancel</Link>
          {stops.length > 0 && (
            <span className="text-[12.5px] text-ask">
              It can be saved, but not locked while{' '}
              {stops.length === 1 ? 'a stop stands' : `${stops.length} stops stand`}.
            </span>
          )}
        </div>
      </form>

      <aside
        aria-label="What follows from the plan"
        className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-5 border-l border-rule bg-sheet px-5 py-4 xl:sticky xl:top-0 xl:max-h-[calc(100vh-44px)] xl:overflow-auto"
      >
        <section>
          <h2 className="mb-1">Which claim it can support</h2>
          {!assessed && <p className="text-soft">Choose the vehicle first.</p>}
          {assessed && (
            <p className="mb-1">
              Baseline:{' '}
              {assessed.assessment.baseline.stock.stock === 'yes' ? (
                <Mark tone="stands">stock by the ledger</Mark>
              ) : assessed.assessment.baseline.stock.stock === 'no' ? (
                <Mark tone="ask">not stock</Mark>
              ) : (
                <Mark tone="ask">not known to be stock</Mark>
              )}
            </p>
          )}
          {assessed?.assessment.parts.map((p) => (
            <p key={p.key} className="border-t border-rule py-1">
              <b>{draft.arms.find((a) => a.key === p.key)?.label}</b>:{' '}
              <Mark
                tone={
                  p.scope === 'part alone' || p.scope === 'setting of the part'
                    ? 'stands'
                    : p.scope === 'nothing'
                      ? 'loss'
                      : 'ask'
                }
              >
                {p.scope}
              </Mark>
              {p.problems.some((x) => x.severity === 'stop') && (
                <span className="block text-[12.5px] text-loss">
                  ▼ {p.problems.find((x) => x.severity === 'stop')!.text}
                </span>
              )}
            </p>
          ))}
        </section>
        <section>
          <h2 className="mb-1">What it can see</h2>
          <PrecisionPanel
            input={precisionInput}
            onRunTwice={() =>
              onChange((d) => ({
                ...withProtocol(d, 'A-B-B-A'),
                remount: d.remount,
                pullsPerRun: TWELVE_AS_FOUR_RUNS.pullsPerRun,
              }))
            }
            hours={
              hoursOf
                ? {
                    'A-B': hoursOf([baseline.key, firstPart], false).dynoHours,
                    'A-B-A': hoursOf([baseline.key, firstPart, baseline.key], false).dynoHours,
                  }
                : null
            }
          />
        </section>
        <section>
          <h2 className="mb-1">Hours and cost</h2>
          {!hours || !dyno ? (
            <p className="text-soft">Choose vehicle and dyno.</p>
          ) : (
            <dl className="border-t-[1.5px] border-ink">
              {(
                [
                  ['Pulls', `${hours.pulls}, ${hours.counted} counted`, hours.minutes.pulls],
                  ['Cool-downs', '', hours.minutes.coolDowns],
                  [
                    'Installs',
                    hours.offDynoHours > 0 ? 'off the rollers' : 'on the rollers',
                    hours.minutes.installs,
                  ],
                  ['Calibrations and settings', '', hours.minutes.settings],
                  [
                    'Strapping',
                    draft.remount ? `${draft.order.length} times` : 'once',
                    hours.minutes.strapping,
                  ],
                  ['Set-up', '', hours.minutes.setUp],
                ] as const
              )
                .filter(([, , m]) => m > 0)
                .map(([name, note, m]) => (
                  <div key={name} className="flex justify-between border-b border-rule py-1">
                    <dt>
                      {name} <span className="text-soft">{note}</span>
                    </dt>
                    <dd>{m >= 90 ? `${number(m / 60, 1)} h` : `${number(m, 0)} min`}</dd>
                  </div>
                ))}
              <div className="flex justify-between py-1.5 font-semibold">
                <dt>{draft.series.length > 0 ? 'One test' : 'In all'}</dt>
                <dd>
                  {number(hours.dynoHours, 1)} dyno hours
                  {hours.offDynoHours > 0 ? `, ${number(hours.offDynoHours, 1)} h off the rollers` : ''}
                </dd>
              </div>
              <div className="flex justify-between pb-1">
                <dt className="text-soft">Cost by the dyno’s rates</dt>
                <dd>
                  {number(hours.cost * (1 + draft.series.length), 0)} {dyno.currency}
                  {draft.series.length > 0 ? ` for ${draft.series.length + 1} tests` : ''}
                </dd>
              </div>
            </dl>
          )}
        </section>
        {known && (
          <Irreversible
            revisions={known.revisions.filter(
              (r) =>
                r.irreversibleSteps &&
                draft.arms.some((a) =>
                  a.changes.some((c) => c.kind === 'part fitted' && c.partRevisionId === r.id),
                ),
            )}
          />
        )}
      </aside>
    </div>
  );
}

const Section = ({ title, note, children }: { title: string; note?: ReactNode; children: ReactNode }) => (
  <section aria-label={title} className="grid gap-3 border-t-[1.5px] border-ink pt-2.5">
    <div>
      <h2>{title}</h2>
      {note && <p className="mt-0.5 max-w-prose text-[12.5px] text-soft">{note}</p>}
    </div>
    {children}
  </section>
);
const Num = ({
  label,
  value,
  onChange,
  error,
  hint,
  ...rest
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  error?: string | undefined;
  hint?: string | undefined;
  min?: number;
  max?: number;
  step?: number;
}) => (
  <Field label={label} error={error} hint={hint}>
    <Input
      type="number"
      {...rest}
      value={Number.isFinite(value) ? value : ''}
      onChange={(e) => onChange(e.target.valueAsNumber)}
    />
  </Field>
);
function Checks<T extends string>({
  legend,
  all,
  value,
  onChange,
}: {
  legend: string;
  all: readonly T[];
  value: readonly T[];
  onChange: (value: T[]) => void;
}) {
  return (
    <fieldset>
      <legend className="font-medium">{legend}</legend>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
        {all.map((item) => (
          <label key={item} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4"
              checked={value.includes(item)}
              onChange={(e) =>
                onChange(e.target.checked ? [...value, item] : value.filter((v) => v !== item))
              }
            />
            {item}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
const Irreversible = ({
  revisions,
}: {
  revisions: readonly { id: string; name: string; irreversibleSteps: string }[];
}) =>
  revisions.length === 0 ? null : (
    <Caution>
      {revisions
        .map(
          (r) =>
            `${r.name}: ${r.irreversibleSteps}. This cannot be undone; decide before the car is touched.`,
        )
        .join(' ')}
    </Caution>
  );
