import { useState } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { STANDARD_NAMES } from '../../core/base/standards.ts';

import { DynoInput, SensorInput, WEEKDAYS } from '../../contract/register/register.ts';
import { day, number } from '../base/format.ts';
import { RecordForm } from '../base/record-form.tsx';
import { Button, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useAddSensorMutation, useChangeDynoMutation, useDynoQuery, useRemoveSensorMutation } from './api.ts';
import { Facts, PageHead, useMay } from './layout.tsx';
import { SOURCES, GROUPS, inputOf } from './dyno-form.tsx';

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
