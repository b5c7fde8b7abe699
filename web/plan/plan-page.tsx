import { useState } from 'react';
import { Link, useOutletContext } from 'react-router';
import { toast } from 'sonner';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { PROTOCOL_KEYS, protocolOf } from '../../core/plan/protocols.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { dayTime, number } from '../base/format.ts';
import { Button, buttonClass, Caution, Mark, ProblemNote } from '../base/ui.tsx';
import { Facts } from '../register/layout.tsx';
import { useLockPlanMutation } from './api.ts';
import { TestStrip } from './run-strip.tsx';
import { AmendDialog } from './amend-dialog.tsx';
import { FIELD_NAMES } from './amend-words.ts';

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
