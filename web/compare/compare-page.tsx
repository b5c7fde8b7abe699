import clsx from 'clsx';
import { useMemo, useState } from 'react';
import { Link, useOutletContext } from 'react-router';
import type { TestDetail } from '../../contract/overview.ts';
import { isRefused, sayingLess, type Contrast, type ScatterResult } from '../../core/compare/result.ts';
import { useAnalysisQuery } from '../base/endpoints.ts';
import { Figure } from '../base/figure.tsx';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { number, rpm, useUnits } from '../base/format.ts';
import { buttonClass, Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { ArmChoice, useArm } from './arm-choice.tsx';
import { ArmCurves, type ArmSeries } from './arm-curves.tsx';
import { GainRibbon } from './gain-ribbon.tsx';

/** Gain first; below it the arms' own curves; beside it what may be claimed. */
export function ComparePage() {
  const detail = useOutletContext<TestDetail>();
  const arm = useArm(detail);
  const { data: state, error } = useAnalysisQuery(detail.summary.id);
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} />
      </main>
    );
  if (!state)
    return (
      <main className="p-6">
        <Loading what="the comparison" />
      </main>
    );
  if (!state.analysis) {
    return (
      <main className="p-6">
        {state.problem ? (
          <ProblemNote message={state.problem.message} />
        ) : (
          <Empty title="Nothing to compare yet">
            The comparison waits for {state.waitsFor.join(', and for ')}.{' '}
            <Link to={`/tests/${detail.summary.id}/pulls`}>Bring in the pulls</Link> and enter the{' '}
            <Link to={`/tests/${detail.summary.id}/air`}>air readings</Link>.
          </Empty>
        )}
      </main>
    );
  }
  const contrast =
    state.analysis.result.contrasts.find((c) => c.arm === arm) ?? state.analysis.result.contrasts[0];
  if (isRefused(contrast))
    return (
      <main className="p-6">
        <ArmChoice detail={detail} />
        <Empty title={`No comparison: ${contrast.code}`}>{contrast.message}</Empty>
      </main>
    );
  return <Comparison detail={detail} contrast={contrast} curves={state.analysis.curves} />;
}

type Unit = '%' | 'power' | 'torque';

function Comparison({
  detail,
  contrast,
  curves,
}: {
  detail: TestDetail;
  contrast: Contrast;
  curves: {
    rpm: number[];
    pulls: {
      id: string;
      arm: string;
      counted: boolean;
      excluded: boolean;
      powerKw: readonly (number | null)[];
      torqueNm: readonly (number | null)[];
    }[];
  };
}) {
  const units = useUnits();
  const [unit, setUnit] = useState<Unit>('%');
  const [asTable, setAsTable] = useState(false);
  const { relative, power, torque, shortcuts } = contrast;
  // With excluded pulls, what may be claimed is the smaller of the results with and without them.
  const upTo = sayingLess(contrast, (c) => c.power.upTo.gain).power.upTo;
  const average = sayingLess(contrast, (c) => c.relative.bandAverage.lower).relative.bandAverage;
  const peak = sayingLess(contrast, (c) => c.power.peakToPeak.lower).power.peakToPeak;
  const of = unit === 'power' ? units.power.of : unit === 'torque' ? units.torque.of : (v: number) => v;
  const block = unit === '%' ? relative : unit === 'power' ? power : torque;
  const unitName = unit === '%' ? '%' : unit === 'power' ? units.power.unit : units.torque.unit;
  const curve = block.curve.map((p) => ({
    rpm: p.rpm,
    gain: of(p.gain),
    lower: of(p.lower),
    upper: of(p.upper),
  }));
  const band = `${number(curve[0].rpm, 0)} to ${rpm(curve.at(-1)!.rpm)}`;
  const { power: inPower, torque: inTorque } = units;
  const several = detail.arms.length > 2;
  const armLabel = detail.arms.find((a) => a.key === contrast.arm)?.label ?? contrast.arm;
  const armSeries = useMemo(() => {
    const counted = curves.pulls.filter(
      (p) => p.counted && !p.excluded && (p.arm === contrast.arm || p.arm === contrast.against),
    );
    const common = new Map(power.curve.map((p, j) => [p.rpm, j]));
    const series = (
      pick: 'powerKw' | 'torqueNm',
      own: { rpm: number; arm: number; against: number }[],
      scaleBy: (v: number) => number,
    ): ArmSeries[] => {
      const mean = (arm: 'stock' | 'part'): (number | null)[] =>
        curves.rpm.map((r) => {
          const j = common.get(r);
          return j === undefined ? null : scaleBy(arm === 'part' ? own[j].arm : own[j].against);
        });
      return [
        ...counted.map((p): ArmSeries => ({
          id: p.id,
          label: p.id,
          arm: p.arm === contrast.arm ? 'part' : 'stock',
          kind: 'pull',
          values: p[pick].map((v) => (v === null ? null : scaleBy(v))),
        })),
        { id: 'stock', label: 'stock', arm: 'stock', kind: 'mean', values: mean('stock') },
        { id: 'part', label: several ? armLabel : 'part', arm: 'part', kind: 'mean', values: mean('part') },
      ];
    };
    return {
      power: series('powerKw', [...power.curve], inPower.of),
      torque: series('torqueNm', [...torque.curve], inTorque.of),
    };
  }, [curves, power, torque, inPower, inTorque, contrast.arm, contrast.against, several, armLabel]);
  const { metrics } = detail.plan;
  const planned = (m: (typeof metrics)[number]) =>
    metrics.includes(m) ? <b className="text-ink">named in the plan</b> : 'not named in the plan';

  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <main className="min-w-0 px-[22px] pt-3">
        <ArmChoice detail={detail} />
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h2>Gain over stock</h2>
          <span className="text-[12.5px] text-soft">
            with the band that holds the whole true curve in {Math.round(100 * detail.plan.confidence)} of 100
            tests
          </span>
          <div role="group" aria-label="Unit of the gain" className="ml-auto flex gap-1">
            {(
              [
                ['%', '%'],
                ['power', units.power.unit],
                ['torque', units.torque.unit],
              ] as const
            ).map(([id, name]) => (
              <button
                key={id}
                type="button"
                aria-pressed={unit === id}
                onClick={() => setUnit(id)}
                className={clsx(
                  'rounded border px-2 text-[12.5px]',
                  unit === id ? 'border-ink bg-ink text-on-ink' : 'border-rule text-soft hover:text-ink',
                )}
              >
                {name}
              </button>
            ))}
            <button
              type="button"
              aria-pressed={asTable}
              onClick={() => setAsTable(!asTable)}
              className={clsx(
                'rounded border px-2 text-[12.5px]',
                asTable ? 'border-ink bg-ink text-on-ink' : 'border-rule text-soft hover:text-ink',
              )}
            >
              table
            </button>
          </div>
        </div>
        <GainRibbon
          curve={curve}
          unit={unitName}
          upTo={{ gain: of(block.upTo.gain), rpm: block.upTo.rpm }}
          height={338}
        />
        {asTable && <CurveTable contrast={contrast} />}
        <div className="mt-2 grid gap-[18px] pb-6 md:grid-cols-2">
          <ArmCurves
            title={`Power at the wheel, ${units.power.unit}`}
            rpm={curves.rpm}
            series={armSeries.power}
          />
          <ArmCurves
            title={`Torque at the wheel, ${units.torque.unit}`}
            rpm={curves.rpm}
            series={armSeries.torque}
          />
        </div>
      </main>
      <aside aria-labelledby="claimable" className="border-l border-rule bg-sheet px-[18px] py-4">
        <h2 id="claimable">What may be claimed</h2>
        {contrast.withExcluded && (
          <p className="text-[12.5px] text-soft">
            A pull is excluded: of the results with and without it, the smaller stands here.
          </p>
        )}
        {upTo.gain > 0 ? (
          <Figure
            label={`Up to, at ${rpm(upTo.rpm)}`}
            value={units.power.of(upTo.gain)}
            unit={units.power.unit}
            note={<>largest lower limit of the band, {planned('upTo')}</>}
          />
        ) : (
          <div className="border-b border-rule py-2.5">
            <div className="text-[12.5px] text-soft">Up to</div>
            <div className="font-display text-[18px] font-semibold">no gain substantiated</div>
            <div className="text-[12.5px] text-soft">{planned('upTo')}</div>
          </div>
        )}
        <Figure
          label={`Average, ${band}`}
          value={average.gain}
          unit="%"
          interval={average}
          note={planned('bandAverage')}
        />
        <Figure
          small
          label="Peak to peak"
          value={units.power.of(peak.gain)}
          unit={units.power.unit}
          interval={{
            lower: units.power.of(peak.lower),
            upper: units.power.of(peak.upper),
          }}
          note={
            <>
              {rpm(peak.armRpm)} against {rpm(peak.againstRpm)}, {planned('peakToPeak')}
              {peak.atEdge && <b> At the edge of the window: no peak, and not claimed as one.</b>}
            </>
          }
        />
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
        <Link
          to={`/tests/${detail.summary.id}/judge${several ? `?arm=${contrast.arm}` : ''}`}
          className={clsx(buttonClass('main'), 'mt-3.5 w-full')}
        >
          See the gates
        </Link>
        <p className="mt-3 text-[12.5px] text-soft">
          Shortcuts would have said: best pull against best pull{' '}
          <b className="text-ink">{signedGain(shortcuts.bestAgainstBest)} %</b>, last against first{' '}
          <b className="text-ink">{signedGain(shortcuts.lastAgainstFirst)} %</b>, largest overlay difference{' '}
          <b className="text-ink">{signedGain(shortcuts.largestOverlayDifference)} %</b>. With a part that
          does nothing, the last of these finds 1 % or more in about 59 of 100 tests.
        </p>
        <p className="mt-3 text-[12.5px] text-soft">
          {contrast.design} · {contrast.pulls.arm} part, {contrast.pulls.against} stock pulls · rule:{' '}
          {contrast.rule} · critical value {number(contrast.criticalValue, 2)} · {number(contrast.df, 1)}{' '}
          degrees of freedom
          {contrast.scatter &&
            ` (${contrast.scatter.nu} at one rpm, ${number(contrast.scatter.pooledDf, 1)} pooled over the curve)`}
        </p>
        {contrast.scatter && <ScatterLine scatter={contrast.scatter} />}
      </aside>
    </div>
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
      {armsDiffer && ', carried by the band'} · {guard} guard for averages and peaks
    </p>
  );
}

/** The curve as numbers, every 250 rpm: for those who would rather read than look. */
function CurveTable({ contrast }: { contrast: Contrast }) {
  const units = useUnits();
  const rows = contrast.relative.curve
    .map((p, j) => ({ p, power: contrast.power.curve[j], torque: contrast.torque.curve[j] }))
    .filter(({ p }) => p.rpm % 250 === 0);
  return (
    <div className="mb-4 max-h-72 overflow-auto border-y border-rule">
      <table className="ledger">
        <thead>
          <tr>
            <th className="num">rpm</th>
            <th className="num">Gain, %</th>
            <th className="num">Band, %</th>
            <th className="num">Stock, {units.power.unit}</th>
            <th className="num">Part, {units.power.unit}</th>
            <th className="num">Gain, {units.power.unit}</th>
            <th className="num">Stock, {units.torque.unit}</th>
            <th className="num">Gain, {units.torque.unit}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ p, power, torque }) => (
            <tr key={p.rpm}>
              <td className="num">{number(p.rpm, 0)}</td>
              <td className="num">{signedGain(p.gain)}</td>
              <td className="num">
                {signedGain(p.lower)} to {signedUpper(p.upper)}
              </td>
              <td className="num">{number(units.power.of(power.against))}</td>
              <td className="num">{number(units.power.of(power.arm))}</td>
              <td className="num">{signedGain(units.power.of(power.gain))}</td>
              <td className="num">{number(units.torque.of(torque.against))}</td>
              <td className="num">{signedGain(units.torque.of(torque.gain))}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
