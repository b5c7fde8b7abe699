import clsx from 'clsx';
import { TWELVE_AS_FOUR_RUNS } from '../../core/plan/precision.ts';
import type { PlanHours } from '../../core/plan/hours.ts';
import type { PickedRevision } from '../../contract/register/register.ts';
import { stepForGood } from '../../core/register/for-good.ts';
import { driveOf, headSpeed, settingsOf } from '../../core/plan/drive-speed.ts';
import { number, rpm } from '../base/format.ts';
import { Caution, Mark } from '../base/ui.tsx';
import { withProtocol } from './draft.ts';
import type { PlanView } from './plan-view.ts';
import { PrecisionPanel } from './precision-panel.tsx';

/** Beside the plan, as it is built: which claim it can support, what it can see, what it costs. */
export function WhatFollows({ view }: { view: PlanView }) {
  const { known } = view;
  return (
    <aside
      aria-label="What follows from the plan"
      className={clsx(
        'grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-5 border-l border-rule bg-sheet px-5 py-4',
        'xl:sticky xl:top-0 xl:max-h-[calc(100vh-44px)] xl:overflow-auto',
      )}
    >
      <ClaimSupported view={view} />
      <WhatItSees view={view} />
      <HoursAndCost view={view} />
      {known && <DriveTooFast view={view} revisions={known.revisions} />}
      {known && <Irreversible revisions={cannotComeOff(view)} />}
    </aside>
  );
}

/** Parts of the plan that cannot be taken off again. */
const cannotComeOff = ({ draft, known }: PlanView): PickedRevision[] =>
  (known?.revisions ?? []).filter(
    (r) =>
      stepForGood(r.irreversibleSteps) !== null &&
      draft.arms.some((a) => a.changes.some((c) => c.kind === 'part fitted' && c.partRevisionId === r.id)),
  );

function ClaimSupported({ view }: { view: PlanView }) {
  const { draft, assessed } = view;
  return (
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
  );
}

function WhatItSees({ view }: { view: PlanView }) {
  const { onChange, precisionInput, hoursOf, baseline, firstPart } = view;
  return (
    <section>
      <h2 className="mb-1">What it can see</h2>
      <PrecisionPanel
        showsOneWay={view.protocol.oneWay === true || cannotComeOff(view).length > 0}
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
                'A-A-B-B': hoursOf([baseline.key, baseline.key, firstPart, firstPart], true, true).dynoHours,
              }
            : null
        }
      />
    </section>
  );
}

function HoursAndCost({ view }: { view: PlanView }) {
  const { hours, dyno } = view;
  return (
    <section>
      <h2 className="mb-1">Hours and cost</h2>
      {!hours || !dyno ? (
        <p className="text-soft">Choose vehicle and dyno.</p>
      ) : (
        <HoursTable view={view} hours={hours} currency={dyno.currency} />
      )}
    </section>
  );
}

function HoursTable({ view, hours, currency }: { view: PlanView; hours: PlanHours; currency: string }) {
  const { draft } = view;
  return (
    <dl className="border-t-[1.5px] border-ink">
      {(
        [
          ['Pulls', `${hours.pulls}, ${hours.counted} counted`, hours.minutes.pulls],
          ['Cool-downs', '', hours.minutes.coolDowns],
          ['Installs', hours.offDynoHours > 0 ? 'off the rollers' : 'on the rollers', hours.minutes.installs],
          ['Calibrations and settings', '', hours.minutes.settings],
          ['Strapping', draft.remount ? `${draft.order.length} times` : 'once', hours.minutes.strapping],
          ['Control vehicle', 'before and after each arm', hours.minutes.control ?? 0],
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
          {number(hours.cost * (1 + draft.series.length), 0)} {currency}
          {draft.series.length > 0 ? ` for ${draft.series.length + 1} tests` : ''}
        </dd>
      </div>
    </dl>
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

/** A head that would turn faster than its maker allows at the top of the planned range: said before a pull is driven. */
function DriveTooFast({
  view: { draft },
  revisions,
}: {
  view: PlanView;
  revisions: readonly PickedRevision[];
}) {
  const tooFast = draft.arms.flatMap(({ label, changes }) =>
    revisions.flatMap((revision) => {
      if (!changes.some((c) => c.kind === 'part fitted' && c.partRevisionId === revision.id)) return [];
      const drive = driveOf(revision, settingsOf(changes, revision.id));
      const head = drive && headSpeed(drive, draft.band.toRpm);
      return head?.tooFast ? [{ label, head }] : [];
    }),
  );
  if (tooFast.length === 0) return null;
  return (
    <Caution>
      {tooFast
        .map(
          ({ label, head }) =>
            `${label}: at ${rpm(draft.band.toRpm)} the head would turn ${rpm(head.rpm)}, its maker allows ` +
            `${rpm(head.mostRpm!)}. It can burst: take a larger pulley or a lower range, and ask its maker.`,
        )
        .join(' ')}
    </Caution>
  );
}
