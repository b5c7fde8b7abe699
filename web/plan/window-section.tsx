import clsx from 'clsx';
import { standardOf } from '../../core/base/policy.ts';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import { METRIC_NAMES, METRICS, type Metric } from '../../core/plan/metrics.ts';
import { Select } from '../base/select.tsx';
import { Field, Input } from '../base/ui.tsx';
import type { Draft } from './draft.ts';
import { NoisyEnds } from './noisy-ends.tsx';
import { Num, Section } from './plan-fields.tsx';
import type { PlanView } from './plan-view.ts';
import { StartTemperature } from './start-temperature.tsx';

/** How many pulls, what is to be claimed, over which speeds, on what. */
export function WindowSection({ view }: { view: PlanView }) {
  const { draft, set, known } = view;
  return (
    <Section title="Pulls and rpm range">
      <PullNumbers view={view} />
      <MetricsChosen view={view} />
      {known && <NoisyEnds seen={known.noisyEnds} band={draft.band} onChange={(band) => set({ band })} />}
      <div className="grid gap-4 md:grid-cols-4">
        <BandNumbers view={view} />
        <RunWith view={view} />
        <div className="md:col-span-2">
          <StartTemperature view={view} />
        </div>
      </div>
    </Section>
  );
}

function PullNumbers({ view }: { view: PlanView }) {
  const { draft, set, errorAt, policy } = view;
  return (
    <div className="grid gap-4 md:grid-cols-4">
      <Num
        label="Counted pulls a run"
        value={draft.pullsPerRun}
        onChange={(v) => set({ pullsPerRun: v })}
        error={errorAt('pullsPerRun')}
        hint={draft.pullsPerRun < policy.pullsPerRun ? `policy asks for ${policy.pullsPerRun}` : undefined}
      />
      <Num
        label="Warm-up pulls before each"
        value={draft.warmUps}
        onChange={(v) => set({ warmUps: v })}
        error={errorAt('warmUps')}
        hint={
          draft.warmUps < policy.warmUpPulls
            ? `policy asks for ${policy.warmUpPulls}, the same before every run`
            : 'uncounted, the same before every run'
        }
      />
      <Num
        label="Cool-down, min"
        value={draft.coolDownMinutes}
        onChange={(v) => set({ coolDownMinutes: v })}
        error={errorAt('coolDownMinutes')}
        hint="before every counted pull"
      />
      <label className="flex items-center gap-2 self-start pt-7">
        <input
          type="checkbox"
          className="size-4"
          checked={draft.remount}
          disabled={draft.protocol === 'A-B' || draft.protocol === 'one-way'}
          onChange={(e) => set({ remount: e.target.checked })}
        />{' '}
        strapped down anew for every run
      </label>
    </div>
  );
}

function MetricsChosen({ view }: { view: PlanView }) {
  const { draft, set, errorAt } = view;
  return (
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
                  metrics: e.target.checked ? [...draft.metrics, m] : draft.metrics.filter((x) => x !== m),
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
  );
}

function BandNumbers({ view }: { view: PlanView }) {
  const { draft, set, errorAt } = view;
  return (
    <>
      <Num
        label="From, rpm"
        value={draft.band.fromRpm}
        onChange={(v) => set({ band: { ...draft.band, fromRpm: v } })}
        error={errorAt('band')}
      />
      <Num
        label="To, rpm"
        value={draft.band.toRpm}
        onChange={(v) => set({ band: { ...draft.band, toRpm: v } })}
      />
      <Num
        label="Every, rpm"
        value={draft.band.stepRpm}
        onChange={(v) => set({ band: { ...draft.band, stepRpm: v } })}
      />
    </>
  );
}

function RunWith({ view }: { view: PlanView }) {
  const { draft, set, errorAt, known, register, policy } = view;
  const houseStandard = standardOf(policy);
  const standard = draft.standard ?? houseStandard;
  return (
    <>
      <Field
        label="Standard"
        hint={standard === houseStandard ? undefined : `policy plans with ${STANDARD_NAMES[houseStandard]}`}
      >
        <Select value={standard} onChange={(e) => set({ standard: e.target.value as Draft['standard'] })}>
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
      <Field label="Fuel" error={errorAt('fuel')} hint={known ? `stock: ${known.fitment.fuel}` : undefined}>
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
        <Select value={draft.partnerId ?? ''} onChange={(e) => set({ partnerId: e.target.value || null })}>
          <option value="">the house</option>
          {register.partners.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </Select>
      </Field>
    </>
  );
}
