import { useState } from 'react';
import { useNavigate } from 'react-router';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import type { KnownVariance, Repeatability } from '../../core/register/repeatability.ts';
import { DynoInput, WEEKDAYS, type Dyno } from '../../contract/register/register.ts';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { RowsEditor } from '../base/rows-editor.tsx';
import { NumberInput, type NumberTyped } from '../base/number-input.tsx';
import { Button } from '../base/ui.tsx';
import { useAddDynoMutation } from './api.ts';
import { PageHead } from './layout.tsx';
import { Term } from '../base/term.tsx';

export const SOURCES: readonly [keyof Repeatability, string, string][] = [
  ['curve', 'Pull, at one rpm', 'scatter of a smoothed curve at one rpm'],
  ['bandAverage', 'Pull, average', 'scatter of the average over the rpm range'],
  ['peak', 'Pull, peak', 'scatter of the peak'],
  ['mount', 'Mounting', 'one strapping-down against another'],
  ['day', 'Day', 'one day against another'],
];

/** SD and degrees of freedom, as people read them; kept as variances. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function RepeatabilityEditor({
  value,
  onChange,
}: {
  value: Repeatability;
  onChange: (value: Repeatability) => void;
}) {
  const set = (key: keyof Repeatability, known: Partial<KnownVariance>): void => {
    const next = { ...value[key], ...known } as KnownVariance;
    onChange({
      ...value,
      [key]:
        Number.isFinite(next.variance) && Number.isFinite(next.df)
          ? next
          : known.variance === undefined && known.df === undefined
            ? undefined
            : next,
    });
  };
  return (
    <table className="ledger max-w-[620px]">
      <thead>
        <tr>
          <th>Source</th>
          <th>SD, %</th>
          <th>
            <Term name="degrees of freedom">Degrees of freedom</Term>
          </th>
          <th>
            <span className="sr-only">Clear</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {SOURCES.map(([key, name, what]) => (
          <tr key={key}>
            <td>
              {name}
              <span className="block text-[12px] text-soft">{what}</span>
            </td>
            <td>
              <OwnNumber
                label={`SD of ${name}, per cent`}
                first={value[key] && Number(Math.sqrt(value[key].variance).toFixed(4))}
                unit="%"
                onChange={(sd) => set(key, { variance: sd ** 2, df: value[key]?.df ?? NaN })}
              />
            </td>
            <td>
              <OwnNumber
                label={`Degrees of freedom of ${name}`}
                first={value[key]?.df}
                onChange={(df) => set(key, { df, variance: value[key]?.variance ?? NaN })}
              />
            </td>
            <td>
              {value[key] && (
                <Button
                  kind="quiet"
                  small
                  onClick={() => {
                    const { [key]: _, ...rest } = value;
                    onChange(rest);
                  }}
                >
                  not registered
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A number that keeps its own text: what is kept of it is worked out from it. */
function OwnNumber({
  label,
  first,
  unit,
  onChange,
}: {
  label: string;
  first: number | undefined;
  unit?: string;
  onChange: (value: number) => void;
}) {
  const [typed, setTyped] = useState<NumberTyped>(first ?? null);
  return (
    <NumberInput
      aria-label={label}
      className="w-24"
      units={unit ? [{ names: [unit] }] : []}
      value={typed}
      onChange={(next) => {
        setTyped(next);
        onChange(typeof next === 'number' ? next : NaN);
      }}
    />
  );
}

export const GROUPS: readonly FieldGroup<keyof DynoInput>[] = [
  {
    title: 'Dyno',
    fields: [
      { name: 'name', label: 'Name', kind: 'text', span: 3 },
      { name: 'site', label: 'Site', kind: 'text', span: 5 },
      { name: 'kind', label: 'Kind', kind: 'text', span: 4, hint: 'inertia, loaded roller or hub' },
      { name: 'drive', label: 'Drive', kind: 'select', options: ['two-wheel', 'four-wheel'], span: 2 },
      { name: 'cell', label: 'Cell', kind: 'select', options: ['enclosed', 'open'], span: 2 },
      { name: 'fan', label: 'Fan', kind: 'text', span: 4 },
      { name: 'siteHeightM', label: 'Height above sea level, m', kind: 'number', span: 4 },
      {
        name: 'appliesStandard',
        label: 'Factor it applies itself',
        kind: 'select',
        options: STANDARDS.map((s) => ({ value: s, label: STANDARD_NAMES[s] })),
        span: 3,
      },
      { name: 'samplingHz', label: 'Samples a second', kind: 'number', optional: true, span: 3 },
      { name: 'lastCalibratedOn', label: 'Last calibrated', kind: 'date', span: 3 },
      {
        name: 'driftBound',
        label: 'Drift bound, % a pull',
        kind: 'number',
        optional: true,
        span: 3,
        hint: 'empty: house policy',
      },
      {
        name: 'rollerRadiusM',
        label: 'Radius of the roller, m',
        kind: 'number',
        optional: true,
        span: 3,
        hint: 'for files with roller speed in rpm',
      },
      {
        name: 'validFrom',
        label: 'What is entered holds from',
        kind: 'date',
        span: 3,
        hint: 'empty: from now on. An earlier day corrects the record, and puts claims since then in question.',
      },
    ],
  },
  {
    title: 'Opening hours and rates',
    fields: [
      { name: 'timeZone', label: 'Time zone of the site', kind: 'text', span: 4, hint: 'e.g. Europe/Oslo' },
      { name: 'hourlyRate', label: 'Dyno hour', kind: 'number', span: 3 },
      { name: 'labourRate', label: 'Labour hour', kind: 'number', span: 3 },
      { name: 'currency', label: 'Currency', kind: 'text', span: 2 },
      {
        name: 'opening',
        label: 'Open',
        kind: 'custom',
        span: 12,
        render: (value: DynoInput['opening'], onChange) => (
          <RowsEditor
            value={value ?? []}
            onChange={onChange}
            blank={{ day: 1, from: '08:00', to: '16:30' }}
            add="Add an opening"
            fields={[
              {
                name: 'day',
                label: 'Day',
                width: '130px',
                options: WEEKDAYS.map((name, i) => ({ value: i + 1, label: name })),
              },
              { name: 'from', label: 'from', width: '80px' },
              { name: 'to', label: 'to', width: '80px' },
            ]}
          />
        ),
      },
    ],
  },
  {
    title: 'Registered repeatability',
    note: 'From control-vehicle checks. Without it plans assume usual values, and say so.',
    fields: [
      {
        name: 'repeatability',
        label: 'Scatter by source',
        kind: 'custom',
        span: 12,
        render: (value: Repeatability, onChange) => (
          <RepeatabilityEditor value={value ?? {}} onChange={onChange} />
        ),
      },
    ],
  },
];

const BLANK: DynoInput = {
  name: '',
  site: '',
  kind: 'loaded roller',
  drive: 'two-wheel',
  cell: 'enclosed',
  fan: '',
  // Where it stands and what it costs are facts: they begin empty.
  siteHeightM: undefined as unknown as number,
  appliesStandard: 'none',
  samplingHz: null,
  lastCalibratedOn: null,
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC',
  hourlyRate: undefined as unknown as number,
  labourRate: undefined as unknown as number,
  currency: 'EUR',
  driftBound: null,
  opening: [],
  rollerRadiusM: null,
  repeatability: {},
  validFrom: null,
};

export const inputOf = ({ id: _i, version: _v, ...input }: Dyno): DynoInput => ({
  ...input,
  validFrom: null,
});

export function NewDynoPage() {
  const navigate = useNavigate();
  const [add, { error, isLoading }] = useAddDynoMutation();
  return (
    <main className="max-w-[980px] px-6 py-5">
      <PageHead title="New dyno" />
      <RecordForm
        draft="new dyno"
        schema={DynoInput}
        groups={GROUPS}
        values={BLANK}
        saving={isLoading}
        problem={error}
        onCancel={() => void navigate('/register/dynos')}
        verb="Add the dyno"
        save={async (record) => {
          const answer = await add(record);
          if (!('data' in answer) || !answer.data) return false;
          return navigate(`/register/dynos/${answer.data.id}`);
        }}
      />
    </main>
  );
}
