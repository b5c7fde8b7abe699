import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import type { KnownVariance, Repeatability } from '../../core/register/repeatability.ts';
import { DynoInput, SensorInput, WEEKDAYS, type Dyno } from '../../contract/register/register.ts';
import { day, number } from '../base/format.ts';
import { RecordForm, RowsEditor, type FieldGroup } from '../base/record-form.tsx';
import { Button, buttonClass, Empty, Input, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import {
  useAddDynoMutation,
  useAddSensorMutation,
  useChangeDynoMutation,
  useDynoQuery,
  useRegisterQuery,
  useRemoveSensorMutation,
} from './api.ts';
import { Facts, PageHead, useMay } from './layout.tsx';

const SOURCES: readonly [keyof Repeatability, string, string][] = [
  ['curve', 'Pull, at one rpm', 'scatter of a smoothed curve at one rpm'],
  ['bandAverage', 'Pull, band average', 'scatter of the average over the band'],
  ['peak', 'Pull, peak', 'scatter of the peak'],
  ['mount', 'Mount', 'one strapping-down against another'],
  ['day', 'Day', 'one day against another'],
];

/** SD and degrees of freedom, as people read them; kept as variances. */
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
          <th>Degrees of freedom</th>
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
              <Input
                aria-label={`SD of ${name}, per cent`}
                type="number"
                step="any"
                className="w-24"
                defaultValue={value[key] ? Number(Math.sqrt(value[key].variance).toFixed(4)) : ''}
                onChange={(e) =>
                  set(key, {
                    variance: e.target.value === '' ? NaN : Number(e.target.value) ** 2,
                    df: value[key]?.df ?? NaN,
                  })
                }
              />
            </td>
            <td>
              <Input
                aria-label={`Degrees of freedom of ${name}`}
                type="number"
                step="any"
                className="w-24"
                defaultValue={value[key]?.df ?? ''}
                onChange={(e) =>
                  set(key, {
                    df: e.target.value === '' ? NaN : Number(e.target.value),
                    variance: value[key]?.variance ?? NaN,
                  })
                }
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

const GROUPS: readonly FieldGroup<keyof DynoInput>[] = [
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
  siteHeightM: 0,
  appliesStandard: 'none',
  samplingHz: null,
  lastCalibratedOn: null,
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC',
  hourlyRate: 0,
  labourRate: 0,
  currency: 'EUR',
  driftBound: null,
  opening: [],
  rollerRadiusM: null,
  repeatability: {},
  validFrom: null,
};
const inputOf = ({ id: _i, version: _v, ...input }: Dyno): DynoInput => ({ ...input, validFrom: null });

export function DynosPage() {
  const may = useMay();
  const { data, error } = useRegisterQuery();
  return (
    <main className="px-6 py-5">
      <PageHead title="Dynos" note="With their sensors and what is known of their scatter.">
        {may.manage && (
          <Link to="/register/dynos/new" className={buttonClass('main')}>
            New dyno
          </Link>
        )}
      </PageHead>
      <ProblemNote error={error} />
      {!data && !error && <Loading what="the dynos" />}
      {data && data.dynos.length === 0 && <Empty title="No dyno yet">Register the one you measure on.</Empty>}
      {data && data.dynos.length > 0 && (
        <table className="ledger">
          <thead>
            <tr>
              <th>Dyno</th>
              <th>Site</th>
              <th>Kind</th>
              <th className="num">Pull SD</th>
              <th className="num">Mount SD</th>
              <th className="pl-4!">Last calibrated</th>
            </tr>
          </thead>
          <tbody>
            {data.dynos.map((d) => (
              <tr key={d.id}>
                <td>
                  <Link to={`/register/dynos/${d.id}`} className="font-semibold no-underline hover:underline">
                    {d.name}
                  </Link>
                </td>
                <td>{d.site}</td>
                <td>
                  {d.kind}, {d.drive}
                </td>
                <td className="num">
                  <Sd known={d.repeatability.bandAverage} />
                </td>
                <td className="num">
                  <Sd known={d.repeatability.mount} />
                </td>
                <td className="pl-4!">
                  {d.lastCalibratedOn ? day(d.lastCalibratedOn) : <Mark tone="ask">not entered</Mark>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
}
const Sd = ({ known }: { known: KnownVariance | undefined }) =>
  known ? (
    <>
      {number(Math.sqrt(known.variance), 2)} %
      <span className="block text-[12px] text-soft">{number(known.df, 1)} df</span>
    </>
  ) : (
    <span className="text-soft">not registered</span>
  );

export function NewDynoPage() {
  const navigate = useNavigate();
  const [add, { error, isLoading }] = useAddDynoMutation();
  return (
    <main className="max-w-[980px] px-6 py-5">
      <PageHead title="New dyno" />
      <RecordForm
        schema={DynoInput}
        groups={GROUPS}
        values={BLANK}
        saving={isLoading}
        problem={error}
        onCancel={() => void navigate('/register/dynos')}
        verb="Add the dyno"
        save={async (record) => {
          const answer = await add(record);
          if ('data' in answer && answer.data) void navigate(`/register/dynos/${answer.data.id}`);
        }}
      />
    </main>
  );
}

export function DynoPage() {
  const { dynoId = '' } = useParams();
  const may = useMay();
  const { data, error } = useDynoQuery(dynoId);
  const [change, { error: refused, isLoading }] = useChangeDynoMutation();
  const [addSensor, { error: notAdded, isLoading: adding }] = useAddSensorMutation();
  const [removeSensor] = useRemoveSensorMutation();
  const [open, setOpen] = useState<'dyno' | 'sensor' | null>(null);
  const [now] = useState(() => new Date().toISOString().slice(0, 10));
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the dyno" />
      </main>
    );
  const { dyno: d, sensors } = data;
  return (
    <main className="px-6 py-5">
      <PageHead title={d.name} note={`${d.site} · ${d.kind} · ${number(d.siteHeightM, 0)} m above sea level`}>
        {may.manage && (
          <Button onClick={() => setOpen(open === 'dyno' ? null : 'dyno')}>
            {open === 'dyno' ? 'Close the form' : 'Change'}
          </Button>
        )}
      </PageHead>
      {open === 'dyno' && (
        <div className="mb-6 max-w-[980px]">
          <RecordForm
            schema={DynoInput}
            groups={GROUPS}
            values={inputOf(d)}
            saving={isLoading}
            problem={refused}
            onCancel={() => setOpen(null)}
            save={async (record) => {
              const answer = await change({ id: d.id, version: d.version, record });
              if (!('error' in answer)) {
                setOpen(null);
                toast.success('Changed.');
              }
            }}
          />
        </div>
      )}
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_330px]">
        <div className="grid content-start gap-6">
          <section>
            <h2 className="mb-2">Repeatability, registered</h2>
            <table className="ledger max-w-[520px]">
              <thead>
                <tr>
                  <th>Source</th>
                  <th className="num">SD</th>
                  <th className="num">Degrees of freedom</th>
                </tr>
              </thead>
              <tbody>
                {SOURCES.map(([key, name, what]) => {
                  const known = d.repeatability[key];
                  return (
                    <tr key={key}>
                      <td>
                        {name}
                        <span className="block text-[12px] text-soft">{what}</span>
                      </td>
                      <td className="num">
                        {known ? (
                          `${number(Math.sqrt(known.variance), 2)} %`
                        ) : (
                          <span className="text-soft">not registered</span>
                        )}
                      </td>
                      <td className="num">{known ? number(known.df, 1) : ''}</td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </section>
          <section>
            <div className="mb-2 flex items-baseline justify-between">
              <h2>Sensors</h2>
              {may.prepare && open !== 'sensor' && (
                <Button small onClick={() => setOpen('sensor')}>
                  Enter a sensor or a calibration
                </Button>
              )}
            </div>
            {open === 'sensor' && (
              <div className="mb-4 border border-rule bg-sheet p-4">
                <RecordForm
                  schema={SensorInput}
                  values={{
                    quantity: '',
                    serial: '',
                    uncertainty: 0.5,
                    unit: '',
                    calibratedOn: now,
                    dueOn: null,
                    note: '',
                  }}
                  saving={adding}
                  problem={notAdded}
                  onCancel={() => setOpen(null)}
                  verb="Enter it"
                  groups={[
                    {
                      title: 'Sensor',
                      fields: [
                        { name: 'quantity', label: 'Quantity', kind: 'text', span: 4 },
                        { name: 'serial', label: 'Serial number', kind: 'text', span: 4 },
                        { name: 'uncertainty', label: 'Standard uncertainty', kind: 'number', span: 2 },
                        { name: 'unit', label: 'Unit', kind: 'text', span: 2 },
                        { name: 'calibratedOn', label: 'Calibrated', kind: 'date', span: 4 },
                        { name: 'dueOn', label: 'Due again', kind: 'date', span: 4 },
                        { name: 'note', label: 'Note', kind: 'text', span: 4 },
                      ],
                    },
                  ]}
                  save={async (sensor) => {
                    const answer = await addSensor({ dynoId: d.id, sensor });
                    if (!('error' in answer)) {
                      setOpen(null);
                      toast.success('Entered.');
                    }
                  }}
                />
              </div>
            )}
            {sensors.length === 0 ? (
              <p className="text-soft">None entered: no uncertainty of the air is known.</p>
            ) : (
              <table className="ledger">
                <thead>
                  <tr>
                    <th>Quantity</th>
                    <th>Serial</th>
                    <th className="num">Standard uncertainty</th>
                    <th className="pl-4!">Calibrated</th>
                    <th>Due</th>
                    {may.prepare && (
                      <th>
                        <span className="sr-only">Remove</span>
                      </th>
                    )}
                  </tr>
                </thead>
                <tbody>
                  {sensors.map((s) => (
                    <tr key={s.id}>
                      <td>
                        {s.quantity}
                        {s.note && <span className="block text-[12px] text-soft">{s.note}</span>}
                      </td>
                      <td>{s.serial}</td>
                      <td className="num">
                        {s.uncertainty} {s.unit}
                      </td>
                      <td className="pl-4!">{day(s.calibratedOn)}</td>
                      <td>
                        {s.dueOn ? (
                          s.dueOn < now ? (
                            <Mark tone="ask">since {day(s.dueOn)}</Mark>
                          ) : (
                            day(s.dueOn)
                          )
                        ) : (
                          ''
                        )}
                      </td>
                      {may.prepare && (
                        <td className="text-right">
                          <Button
                            kind="quiet"
                            small
                            onClick={() => void removeSensor({ dynoId: d.id, id: s.id })}
                          >
                            Remove
                          </Button>
                        </td>
                      )}
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </section>
        </div>
        <Facts
          rows={[
            ['Drive', `${d.drive}, ${d.cell} cell`],
            ['Fan', d.fan || 'not entered'],
            ['Samples', d.samplingHz ? `${d.samplingHz} a second` : 'not entered'],
            ['Factor of its own', STANDARD_NAMES[d.appliesStandard]],
            ['Last calibrated', d.lastCalibratedOn ? day(d.lastCalibratedOn) : 'not entered'],
            ['Radius of the roller', d.rollerRadiusM === null ? 'not on record' : `${d.rollerRadiusM} m`],
            ['Drift bound', d.driftBound === null ? 'house policy' : `${d.driftBound} % a pull`],
            [
              'Open',
              d.opening.length
                ? d.opening.map((o) => (
                    <span key={`${o.day}${o.from}`} className="block">
                      {WEEKDAYS[o.day - 1]} {o.from} to {o.to}
                    </span>
                  ))
                : 'no hours entered: nothing can be placed',
            ],
            ['Time zone', d.timeZone],
            [
              'Rates',
              `${number(d.hourlyRate, 0)} ${d.currency} a dyno hour, ${number(d.labourRate, 0)} labour`,
            ],
          ]}
        />
      </div>
    </main>
  );
}
