import { Link, useParams } from 'react-router';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { useTestQuery } from '../base/endpoints.ts';
import { dayTime, number, useUnits } from '../base/format.ts';
import { Button, buttonClass, Loading, ProblemNote } from '../base/ui.tsx';
import { controlShown } from './control-shown.ts';
import { atSite } from './schedule-time.ts';

/** The run sheet on paper: what to do in order, with room to write what was read. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function RunSheetPage() {
  const { testId = '' } = useParams();
  const units = useUnits();
  const { data, error, refetch } = useTestQuery(testId);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="the run sheet" />
      </main>
    );
  const { plan, summary, arms, pulls } = data;
  const armOf = (key: string) => arms.find((a) => a.key === key);
  const runs = [...new Set(pulls.map((p) => p.run))];
  return (
    <main className="mx-auto max-w-[900px] px-6 py-5 print:max-w-none print:p-0 print:text-black">
      <div className="mb-4 flex gap-2 print:hidden">
        <Button kind="main" onClick={() => window.print()}>
          Print
        </Button>
        <a href={`/api/tests/${summary.id}/run-sheet.csv`} className={buttonClass('plain')}>
          CSV
        </a>
        <Link to={`/tests/${summary.id}/plan`} className={buttonClass('plain')}>
          Back to the plan
        </Link>
      </div>
      <h1>Run sheet, test {summary.number}</h1>
      <p className="font-display text-[17px]">{summary.title}</p>
      <p className="text-soft">{data.question}</p>
      <dl className="mt-3 grid grid-cols-2 gap-x-8 border-t-[1.5px] border-ink text-[12.5px]">
        {(
          [
            ['Vehicle', data.vehicle.tag],
            ['Dyno', `${data.dyno.name}, ${data.dyno.kind}`],
            ['Gear and fuel', `${plan.gear}; ${plan.fuel}`],
            ['Rpm range', `${number(plan.band.fromRpm, 0)} to ${number(plan.band.toRpm, 0)} rpm`],
            ['To be claimed', plan.metrics.map((m) => METRIC_NAMES[m]).join('; ')],
            ['Cool-down', `${plan.coolDownMinutes} min before every counted pull`],
            [
              'Plan',
              plan.lockedAt
                ? `locked ${dayTime(plan.lockedAt)} by ${plan.lockedBy}, ${plan.hash?.slice(0, 12)}…`
                : 'NOT LOCKED: lock it before the first pull',
            ],
            [
              'Session',
              data.booking ? atSite(data.booking.start, data.dyno.timeZone) : 'not placed in the calendar',
            ],
          ] as const
        ).map(([term, value]) => (
          <div key={term} className="grid grid-cols-[96px_1fr] gap-2 border-b border-rule py-1">
            <dt className="text-soft">{term}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-3 border-l-4 border-ask px-3 py-1 text-[12.5px]">
        <b>Before the first pull: </b>straps, tyres, extraction and fan checked; hearing protection on; nobody
        in line with the rollers or near hot parts. Carbon monoxide kills without a smell. Local codes and
        licensed practice decide.
      </p>
      {data.amendments.map((a) => (
        <p key={a.number} className="mt-2 text-[12.5px] text-ask">
          Amendment {a.number}: {a.changes.map((c) => `${c.field} ${c.from} → ${c.to}`).join('; ')}.{' '}
          {a.reason}
        </p>
      ))}
      {plan.control && (
        <p className="mt-2 text-[12.5px]">
          <b>Nothing returns to the baseline.</b> ☐ {plan.control} before the first run ☐ after the last run
          of the baseline ☐ before the first run of the part ☐ after the last. Each is entered on the page of
          the dyno.
        </p>
      )}
      {runs.map((run, i) => {
        const own = pulls.filter((p) => p.run === run);
        const arm = armOf(own[0].arm);
        const remounted = i > 0 && own[0].mount !== pulls.find((p) => p.run === runs[i - 1])!.mount;
        return (
          <section key={run} className="mt-4 break-inside-avoid">
            <h2>
              Run {run}: {arm?.label}
              {remounted && ', strapped down anew'}
            </h2>
            {arm && arm.differences.length > 0 && (
              <p className="text-[12.5px]">
                On the car: {arm.differences.map((d) => `${d.subject} ${d.to}`).join('; ')}
              </p>
            )}
            <table className="ledger text-[12.5px]">
              <thead>
                <tr>
                  <th>Pull</th>
                  {plan.controls.map((c) => (
                    <th key={c.quantity}>
                      {c.quantity}
                      <span className="block font-normal">{controlShown(c, units)}</span>
                    </th>
                  ))}
                  <th>Air, {units.temperature.unit}</th>
                  <th>Pressure, {units.pressure.unit}</th>
                  <th>RH, %</th>
                  <th>File</th>
                  <th>Note</th>
                </tr>
              </thead>
              <tbody>
                {own.map((p) => (
                  <tr key={p.id}>
                    <td>{p.counted ? <b>{p.label}</b> : <span className="text-soft">warm-up</span>}</td>
                    {plan.controls.map((c) => (
                      <td key={c.quantity} className="border-l border-rule" />
                    ))}
                    <td className="border-l border-rule" />
                    <td className="border-l border-rule" />
                    <td className="border-l border-rule" />
                    <td className="border-l border-rule" />
                    <td className="w-1/5 border-l border-rule" />
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
      <div className="mt-6 grid grid-cols-2 gap-6 text-[12.5px]">
        <p>
          Photographs:{' '}
          {plan.photographs.map((p) => (
            <span key={p} className="mr-3">
              ☐ {p}
            </span>
          ))}
        </p>
        <p>
          Logs:{' '}
          {plan.logs.map((l) => (
            <span key={l} className="mr-3">
              ☐ {l}
            </span>
          ))}
        </p>
      </div>
    </main>
  );
}
