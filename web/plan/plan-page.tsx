import { useState } from 'react';
import { Link, useOutletContext } from 'react-router';
import { PROTOCOL_KEYS, protocolOf } from '../../core/plan/protocols.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { useSessionQuery } from '../base/api.ts';
import { buttonClass, Caution } from '../base/ui.tsx';
import { AmendDialog } from './amend-dialog.tsx';
import { Amendments } from './amendments.tsx';
import { PlanArms } from './plan-arms.tsx';
import { PlanFacts } from './plan-facts.tsx';
import { PlanLock } from './plan-lock.tsx';
import { TestStrip } from './run-strip.tsx';

/** What is to be shown, in which order, by which arms; the lock that must come before the first pull; amendments after it. */
export function PlanPage() {
  const detail = useOutletContext<TestDetail>();
  const { data: session } = useSessionQuery();
  const [amending, setAmending] = useState(false);
  return (
    <main className="grid grid-cols-1 gap-x-10 gap-y-6 px-[22px] py-5 xl:grid-cols-[minmax(0,1fr)_320px]">
      <div className="grid content-start gap-6">
        <section>
          <h2>Question</h2>
          <p className="mt-1 max-w-prose font-display text-[17px]">{detail.question}</p>
        </section>
        <PlanArms arms={detail.arms} />
        <RunSheet detail={detail} />
        <Protocol detail={detail} />
        {detail.amendments.length > 0 && (
          <Amendments testId={detail.summary.id} amendments={detail.amendments} />
        )}
        <Caution>
          Strapping, rotating parts, tyre failure, noise, hot parts, fuel and exhaust gas: check straps and
          extraction, wear hearing protection, keep people clear of the rollers.
        </Caution>
      </div>
      <aside className="content-start">
        <PlanFacts detail={detail} />
        <PlanLock
          detail={detail}
          manager={session?.person?.role === 'test manager'}
          onAmend={() => setAmending(true)}
        />
      </aside>
      {amending && <AmendDialog detail={detail} onClose={() => setAmending(false)} />}
    </main>
  );
}

function RunSheet({ detail }: { detail: TestDetail }) {
  const { plan, summary } = detail;
  const added = detail.amendments.filter((a) => a.changes.some((c) => c.field === 'addedRun')).length;
  return (
    <section>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2>Run sheet</h2>
        <span className="text-[12.5px] text-soft">
          {plan.warmUps} uncounted warm-up pulls before every run, then {plan.pullsPerRun} counted,{' '}
          {plan.coolDownMinutes} min cool-down.{' '}
          {plan.remount ? 'Strapped down anew for every run.' : 'One strapping.'}
        </span>
      </div>
      <TestStrip detail={detail} planned={plan.order.length - added} />
      <p className="mt-3 flex flex-wrap gap-2">
        {plan.lockedAt && (
          <Link to={`/tests/${summary.id}/bench`} className={buttonClass('main', true)}>
            To the bench
          </Link>
        )}
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
  );
}

/** What the order of the runs is good for, and what it cannot show. */
function Protocol({ detail }: { detail: TestDetail }) {
  const key = PROTOCOL_KEYS.find((k) => k === detail.plan.protocol);
  if (!key) return null;
  const protocol = protocolOf(key);
  return (
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
  );
}
