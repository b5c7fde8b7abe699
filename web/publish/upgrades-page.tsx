import clsx from 'clsx';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Upgrades } from '../../contract/publish/upgrades.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { upgradeOrder, type UpgradeMeasure, type UpgradeOrder } from '../../core/judge/upgrade-order.ts';
import { number, signed } from '../base/format.ts';
import { Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { useUpgradesQuery } from './coverage-api.ts';

type Step = Upgrades['steps'][number];
const MEASURES: readonly (readonly [UpgradeMeasure, string])[] = [
  ['money', 'for its money'],
  ['hours', 'for the hours of fitting'],
  ['gain', 'by the gain alone'],
];

/** In which order the parts of a fitment are worth it, by the tests there are, and which test would change that. */
export function UpgradesPage() {
  const { fitmentId = '' } = useParams();
  const { data, error, refetch } = useUpgradesQuery(fitmentId);
  const [by, setBy] = useState<UpgradeMeasure>('money');
  if (!data)
    return (
      <main className="p-6">
        {error ? (
          <ProblemNote error={error} again={() => void refetch()} />
        ) : (
          <Loading what="the order of upgrades" />
        )}
      </main>
    );
  const order = upgradeOrder(data.steps, by);
  return (
    <main className="px-6 py-5">
      <p className="text-[12.5px] text-soft">
        <Link to="/coverage">Coverage</Link> · {data.fitment}
      </p>
      <h1>Order of upgrades</h1>
      <p className="mt-1 max-w-prose text-soft">
        What gives most next, from the tests whose gates pass: average gains over stock, stages over the one
        before them. Gains of different tests do not add up; the order says where to begin, not what all of it
        gives together. Nothing here is a claim.
      </p>
      <div role="group" aria-label="Ordered" className="mt-3 flex flex-wrap gap-1.5">
        {MEASURES.map(([key, words]) => (
          <button
            key={key}
            type="button"
            aria-pressed={by === key}
            onClick={() => setBy(key)}
            className={clsx(
              'min-h-6 rounded border px-2 text-[12.5px]',
              by === key ? 'border-ink bg-ink text-on-ink' : 'border-rule text-soft hover:text-ink',
            )}
          >
            {words}
          </button>
        ))}
      </div>
      <OrderTable steps={data.steps} order={order} by={by} />
    </main>
  );
}

export function OrderTable({
  steps,
  order,
  by,
}: {
  steps: readonly Step[];
  order: UpgradeOrder;
  by: UpgradeMeasure;
}) {
  const of = (key: string): Step => steps.find((s) => s.key === key)!;
  if (steps.length === 0)
    return (
      <Empty title="No tests to order by">
        No finished test on this fitment passes its gates yet.{' '}
        <Link to="/coverage?view=next">What is worth testing next</Link>
      </Empty>
    );
  return (
    <>
      <ol aria-label="Order of upgrades" className="mt-4 grid max-w-[900px] gap-0">
        {order.steps.map((placed, i) => (
          <Placed
            key={placed.key}
            step={of(placed.key)}
            placed={placed}
            place={i + 1}
            by={by}
            next={order.steps[i + 1] && of(order.steps[i + 1].key)}
            nameOf={(key) => of(key).label}
          />
        ))}
      </ol>
      {order.left.length > 0 && (
        <section className="mt-5 max-w-[900px]" aria-label="Not in the order">
          <h2>Not in the order</h2>
          <ul className="mt-1">
            {order.left.map(({ key, why, of: other }) => (
              <li key={key} className="border-b border-rule py-1">
                {of(key).label}: <GainWords gain={of(key).gain} />{' '}
                <span className="text-soft">{whyWords(why, other ? of(other).label : null, by)}</span>{' '}
                <Tests tests={of(key).tests} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

const GainWords = ({ gain }: { gain: Step['gain'] }) => (
  <span className="whitespace-nowrap">
    <b>{signedGain(gain.gain)} %</b> ({signedGain(gain.lower)} to {signedUpper(gain.upper)})
  </span>
);
const Tests = ({ tests }: { tests: Step['tests'] }) => (
  <span className="text-[12.5px] text-soft">
    {tests.map(({ id, number: n }, i) => (
      <span key={id}>
        {i > 0 && ', '}
        <Link to={`/tests/${id}/compare`}>test {n}</Link>
      </span>
    ))}
  </span>
);
function whyWords(why: UpgradeOrder['left'][number]['why'], of: string | null, by: UpgradeMeasure): string {
  if (why === 'no gain') return 'No gain was found.';
  if (why === 'not known')
    return by === 'hours' ? 'No hours are registered for it.' : 'No price is registered for it.';
  return why === 'instead of'
    ? `Takes the place of ${of}, which comes first.`
    : `Stands on ${of}, which is not in the order.`;
}

function Placed({
  step,
  placed,
  place,
  by,
  next,
  nameOf,
}: {
  step: Step;
  placed: UpgradeOrder['steps'][number];
  place: number;
  by: UpgradeMeasure;
  next: Step | undefined;
  nameOf: (key: string) => string;
}) {
  const per =
    by === 'money' ? `for 100 ${step.currency ?? ''}` : by === 'hours' ? 'for an hour of fitting' : '';
  return (
    <li className="grid grid-cols-[34px_minmax(0,1fr)] border-t border-rule py-2.5">
      <span className="font-display text-[20px] font-semibold">{place}</span>
      <div>
        <div className="flex flex-wrap items-baseline gap-x-4">
          <b>{step.label}</b>
          <GainWords gain={step.gain} />
          <Tests tests={step.tests} />
        </div>
        <p className="m-0 text-[12.5px] text-soft">
          {by !== 'gain' &&
            `${signed(placed.value.gain, 2)} % ${per} (${signed(placed.value.lower, 2)} to ${signed(placed.value.upper, 2)}) · `}
          {step.priceCents === null ? 'no price' : `${number(step.priceCents / 100, 2)} ${step.currency}`}
          {step.hours === null ? '' : `, ${number(step.hours, 1)} h to fit`}
        </p>
        {next && (
          <p className={clsx('m-0 text-[12.5px]', placed.proven ? 'text-soft' : 'text-ask')}>
            {placed.proven
              ? `Proven before ${next.label}.`
              : `Not told apart from ${next.label}: a further test of ${nameOf(placed.decidedBy!)} would decide, its limits are the wider.`}
          </p>
        )}
      </div>
    </li>
  );
}
