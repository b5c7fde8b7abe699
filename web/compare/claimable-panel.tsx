import clsx from 'clsx';
import { Link } from 'react-router';
import type { TestDetail } from '../../contract/overview.ts';
import { sayingLess, type Contrast, type ScatterResult } from '../../core/compare/result.ts';
import type { Metric } from '../../core/plan/metrics.ts';
import { Figure } from '../base/figure.tsx';
import { number, rpm, useUnits } from '../base/format.ts';
import { Shortcuts } from './shortcuts.tsx';
import { StartTemperature } from './start-temperature.tsx';
import { Value } from './value.tsx';
import { WhatMoreBuys } from './what-more-buys.tsx';
import { buttonClass } from '../base/ui.tsx';
import { Term } from '../base/term.tsx';

/** What may be claimed of one arm: the metrics, which of them the plan named, and what must be told with them. */
export function ClaimablePanel({ detail, contrast }: { detail: TestDetail; contrast: Contrast }) {
  const ofArm = detail.arms.length > 2 ? `?arm=${contrast.arm}` : '';
  return (
    <aside aria-labelledby="claimable" className="border-l border-rule bg-sheet px-[18px] py-4">
      <h2 id="claimable">What may be claimed</h2>
      {contrast.withExcluded && (
        <p className="text-[12.5px] text-soft">
          A pull is excluded: of the results with and without it, the smaller stands here.
        </p>
      )}
      <Metrics contrast={contrast} planned={detail.plan.metrics} />
      <Losses contrast={contrast} />
      <StartTemperature detail={detail} contrast={contrast} />
      <Link
        to={`/tests/${detail.summary.id}/judge${ofArm}`}
        className={clsx(buttonClass('main'), 'mt-3.5 w-full')}
      >
        See the gates
      </Link>
      <Value detail={detail} contrast={contrast} />
      <WhatMoreBuys buys={contrast.buys} />
      <Shortcuts contrast={contrast} />
      <RestsOn contrast={contrast} />
    </aside>
  );
}

/** With excluded pulls, what may be claimed is the smaller of the results with and without them. */
function Metrics({ contrast, planned }: { contrast: Contrast; planned: readonly Metric[] }) {
  const { power } = useUnits();
  const upTo = sayingLess(contrast, (c) => c.power.upTo.gain).power.upTo;
  const average = sayingLess(contrast, (c) => c.relative.bandAverage.lower).relative.bandAverage;
  const peak = sayingLess(contrast, (c) => c.power.peakToPeak.lower).power.peakToPeak;
  const { curve } = contrast.relative;
  const band = `${number(curve[0].rpm, 0)} to ${rpm(curve.at(-1)!.rpm)}`;
  const named = (m: Metric) =>
    planned.includes(m) ? <b className="text-ink">named in the plan</b> : 'not named in the plan';
  return (
    <>
      {upTo.gain > 0 ? (
        <Figure
          label={`Up to, at ${rpm(upTo.rpm)}`}
          value={power.of(upTo.gain)}
          unit={power.unit}
          note={
            <>
              largest lower limit of the <Term name="band" />, {named('upTo')}
            </>
          }
        />
      ) : (
        <div className="border-b border-rule py-2.5">
          <div className="text-[12.5px] text-soft">Up to</div>
          <div className="font-display text-[18px] font-semibold">no gain substantiated</div>
          <div className="text-[12.5px] text-soft">{named('upTo')}</div>
        </div>
      )}
      <Figure
        label={`Average, ${band}`}
        value={average.gain}
        unit="%"
        interval={average}
        note={named('bandAverage')}
      />
      <Figure
        small
        label="Peak to peak"
        value={power.of(peak.gain)}
        unit={power.unit}
        interval={{
          lower: power.of(peak.lower),
          upper: power.of(peak.upper),
        }}
        note={
          <>
            {rpm(peak.armRpm)} against {rpm(peak.againstRpm)}, {named('peakToPeak')}
            {peak.atEdge && <b> At the edge of the rpm range: no peak, and not claimed as one.</b>}
          </>
        }
      />
    </>
  );
}

function Losses({ contrast: { relative } }: { contrast: Contrast }) {
  return (
    <>
      <Figure
        small
        label="Smallest gain"
        value={relative.worst.gain}
        unit="%"
        interval={relative.worst}
        note={`at ${rpm(relative.worst.rpm)}`}
      />
      {relative.losses.map((loss) => (
        <Figure
          key={loss.fromRpm}
          small
          tone="loss"
          label="▼ Proven loss, must be told"
          value={loss.gain}
          unit={`% at ${rpm(loss.rpm)}`}
          note={`proven from ${number(loss.fromRpm, 0)} to ${rpm(loss.toRpm)}`}
        />
      ))}
    </>
  );
}

function RestsOn({ contrast }: { contrast: Contrast }) {
  return (
    <>
      <p className="mt-3 text-[12.5px] text-soft">
        {contrast.design} · {contrast.pulls.arm} part, {contrast.pulls.against} stock pulls · rule:{' '}
        {contrast.rule} · <Term name="critical value" /> {number(contrast.criticalValue, 2)} ·{' '}
        {number(contrast.df, 1)} <Term name="degrees of freedom" />
        {contrast.scatter &&
          ` (${contrast.scatter.nu} at one rpm, ${number(contrast.scatter.pooledDf, 1)} pooled over the curve)`}
      </p>
      {contrast.scatter && <ScatterLine scatter={contrast.scatter} />}
    </>
  );
}

/** What the band rests on: degrees of freedom at one rpm and over the curve, and how the arms' scatter compares. */
function ScatterLine({ scatter }: { scatter: ScatterResult }) {
  const { armRatio, armsDiffer, guard } = scatter;
  return (
    <p className="mt-1 text-[12.5px] text-soft">
      {armRatio === null
        ? 'The scatter of one arm is not known'
        : `Variance of the part’s pulls ${number(armRatio, 2)} times the baseline’s`}
      {armsDiffer && ', carried by the band'} · {guard} <Term name="guard" /> for averages and peaks
    </p>
  );
}
