import clsx from 'clsx';
import { format } from 'date-fns';
import { useState } from 'react';

import { type LedgerEntryShown, type VehicleDetail } from '../../contract/register/register.ts';
import { day, dayTime, number } from '../base/format.ts';
import { DateTimeInput } from '../base/date-input.tsx';
import { Button, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useConfigurationQuery } from './api.ts';
import { EntryForm } from './ledger-entry.tsx';

/** What was on the car on a day, and whether that is stock: computed from the ledger, with what is not stock listed. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function OnThatDay({ vehicleId }: { vehicleId: string }) {
  const [on, setOn] = useState(() => format(new Date(), "yyyy-MM-dd'T'HH:mm"));
  const [now] = useState(() => new Date());
  const asked = on === '' || Number.isNaN(Date.parse(on)) ? now : new Date(on);
  const { data, error, refetch } = useConfigurationQuery({ id: vehicleId, on: asked.toISOString() });
  return (
    <section aria-labelledby="on-that-day" className="border border-rule bg-sheet p-4">
      <h2 id="on-that-day">What was on it</h2>
      <div className="mt-1 flex items-baseline gap-2 text-[12.5px] text-soft">
        on
        <DateTimeInput label="The question is about" value={on} onChange={setOn} />
      </div>
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the ledger" />}
      {data && (
        <>
          <p className="mt-3">
            {data.stock.stock === 'yes' ? (
              <Mark tone="stands">This is stock.</Mark>
            ) : data.stock.stock === 'no' ? (
              <Mark tone="ask">Not stock</Mark>
            ) : (
              <Mark tone="soft">Not known to be stock</Mark>
            )}
          </p>
          <ul className="text-[12.5px]">
            {data.stock.notStock.map((d) => (
              <li key={d.text} className="text-ask">
                {d.subject}: {d.text}
              </li>
            ))}
            {data.stock.worn.map((d) => (
              <li key={d.text} className="text-ask">
                worn: {d.text}
              </li>
            ))}
            {data.stock.notRecorded.map((d) => (
              <li key={d.text} className="text-soft">
                {d.text}
              </li>
            ))}
          </ul>
          <dl className="mt-3 border-t border-rule">
            {data.lines.map((line) => (
              <div
                key={`${line.subject} ${line.text}`}
                className="grid grid-cols-[104px_1fr] gap-2 border-b border-rule py-1"
              >
                <dt className="text-soft">{line.subject}</dt>
                <dd>
                  {line.text}
                  {line.since && <span className="text-soft"> · {day(line.since)}</span>}
                </dd>
              </div>
            ))}
            <div className="grid grid-cols-[104px_1fr] gap-2 py-1">
              <dt className="text-soft">odometer</dt>
              <dd>
                {data.odometerKm === null ? 'not recorded' : `${number(data.odometerKm, 0)} km or more`}
              </dd>
            </div>
          </dl>
        </>
      )}
    </section>
  );
}

/** The ledger itself, newest first; wrong entries stay readable, struck through, with what put them right. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function Ledger({ detail, mayWrite }: { detail: VehicleDetail; mayWrite: boolean }) {
  const [writing, setWriting] = useState<'new' | LedgerEntryShown | null>(null);
  return (
    <section aria-labelledby="ledger">
      <div className="mb-2 flex items-baseline justify-between">
        <h2 id="ledger">Ledger</h2>
        {mayWrite && writing === null && (
          <Button small onClick={() => setWriting('new')}>
            Write an entry
          </Button>
        )}
      </div>
      {writing !== null && (
        <EntryForm
          key={writing === 'new' ? 'new' : writing.id}
          detail={detail}
          wrong={writing === 'new' ? null : writing}
          onDone={() => setWriting(null)}
        />
      )}
      {detail.ledger.length === 0 && (
        <p className="border border-dashed border-rule px-4 py-5 text-soft">
          Nothing is written down. Begin with tyres, fuel and the last service: until then nobody knows
          whether this car is stock.
        </p>
      )}
      {detail.ledger.length > 0 && (
        <div className="overflow-x-auto">
          <table className="ledger">
            <thead>
              <tr>
                <th>Done</th>
                <th>What</th>
                <th className="num">Odometer</th>
                <th>Written by</th>
                {mayWrite && (
                  <th>
                    <span className="sr-only">Put right</span>
                  </th>
                )}
              </tr>
            </thead>
            <tbody>
              {detail.ledger.map((e) => (
                <tr key={e.id} className={clsx(e.superseded && 'text-soft')}>
                  <td className="whitespace-nowrap pr-4">
                    {day(e.at)}
                    <span className="block text-[12px] text-soft">{format(new Date(e.at), 'HH:mm')}</span>
                  </td>
                  <td>
                    {e.superseded ? <s>{e.text}</s> : e.text}
                    {e.superseded && <span className="ml-2 text-[12px]">put right later</span>}
                    {e.supersedes && (
                      <span className="ml-2 text-[12px] text-ask">puts another entry right</span>
                    )}
                    {e.note && <span className="block text-[12.5px] text-soft">{e.note}</span>}
                  </td>
                  <td className="num">{e.odometerKm === null ? '' : `${number(e.odometerKm, 0)} km`}</td>
                  <td className="pl-3! text-[12.5px] text-soft">
                    {e.enteredBy.split(',')[0]}
                    <span className="block">{dayTime(e.enteredAt)}</span>
                  </td>
                  {mayWrite && (
                    <td className="text-right">
                      {!e.superseded && (
                        <Button kind="quiet" small onClick={() => setWriting(e)}>
                          Put right
                        </Button>
                      )}
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
