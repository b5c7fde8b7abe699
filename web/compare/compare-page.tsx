import clsx from 'clsx';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { Link, useOutletContext } from 'react-router';
import type { TestDetail } from '../../contract/overview.ts';
import { confidencePct } from '../../core/base/rounding.ts';
import type { BetweenArms } from '../../core/compare/between-arms.ts';
import type { SettingTrend } from '../../core/compare/setting-trend.ts';
import type { PullResult } from '../../core/compare/pull-results.ts';
import { isRefused, type Contrast } from '../../core/compare/result.ts';
import { testsApi, useAnalysisQuery } from '../base/endpoints.ts';
import { useUnits } from '../base/format.ts';
import { Computing } from '../base/computing.tsx';
import { Empty, ProblemNote } from '../base/ui.tsx';
import { CrankEstimate } from '../correct/crank-estimate.tsx';
import { ChartButtons } from '../base/chart-buttons.tsx';
import { ArmChoice, useArm } from './arm-choice.tsx';
import { ArmCurves } from './arm-curves.tsx';
import { ClaimablePanel } from './claimable-panel.tsx';
import { conditionsOf, type Printed } from './comparison-file.ts';
import { CurveTable } from './curve-table.tsx';
import { GainRibbon } from './gain-ribbon.tsx';
import { ArmsBetween } from './arms-between.tsx';
import { OtherBaselines } from './other-baselines.tsx';
import { TogetherTests } from './together.tsx';
import { Further } from './further.tsx';
import { ByUse } from './by-use.tsx';
import { LogEvidenceTable } from './log-evidence.tsx';
import { LogChannels } from './log-channels.tsx';
import { useDrawnWindow, WindowAverages } from './window-averages.tsx';
import { useArmSeries, type Curves } from './use-arm-series.ts';
import { GAIN_UNITS, useGainUnit, type GainUnit } from './use-gain-unit.ts';
import { CursorProvider } from './cursor.tsx';
import { useCursor } from './shared-cursor.ts';
import { PullPicks } from './pull-picks.tsx';
import { SweepOverTime } from './sweep-over-time.tsx';
import { Told } from '../base/told.tsx';

/** Gain first; below it the arms' own curves; beside it what may be claimed. */
export const ComparePage = () => (
  <CursorProvider>
    <Compared />
  </CursorProvider>
);

function Compared() {
  const detail = useOutletContext<TestDetail>();
  const arm = useArm(detail);
  const { data: state, error, isFetching, refetch } = useAnalysisQuery(detail.summary.id);
  const again = (quiet: boolean) => (
    <Computing
      what="the comparison"
      path={`/tests/${detail.summary.id}/analysis`}
      running={testsApi.util.getRunningQueryThunk('analysis', detail.summary.id)}
      quiet={quiet}
    />
  );
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!state) return <main className="p-6">{again(false)}</main>;
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
        <EngineLog detail={detail} />
      </main>
    );
  }
  const contrast =
    state.analysis.result.contrasts.find((c) => c.arm === arm) ?? state.analysis.result.contrasts[0];
  if (isRefused(contrast))
    return (
      <main className="p-6">
        <ArmChoice detail={detail} />
        <Empty title={`No comparison: ${contrast.code}`}>
          <Told>{contrast.message}</Told>
        </Empty>
        <EngineLog detail={detail} />
      </main>
    );
  return (
    <>
      {isFetching && <div className="px-6">{again(true)}</div>}
      <Comparison detail={detail} contrast={contrast} analysis={state.analysis} />
    </>
  );
}

function EngineLog({ detail }: { detail: TestDetail }) {
  const arm = useArm(detail);
  if (!detail.pulls.some((p) => p.file)) return null;
  return (
    <section aria-label="What the logger recorded" className="mt-4 pb-8">
      <h2 className="mb-2">What the logger recorded</h2>
      <LogChannels
        testId={detail.summary.id}
        arms={detail.arms}
        compared={detail.arms.filter((a) => a.role === 'baseline' || a.key === arm)}
      />
      <SweepOverTime testId={detail.summary.id} arms={detail.arms} />
    </section>
  );
}

interface Analysed extends Printed {
  readonly curves: Curves;
  readonly result: Printed['result'] & {
    readonly pulls: readonly PullResult[];
    readonly between?: BetweenArms;
    readonly trend?: SettingTrend;
  };
}
type Units = ReturnType<typeof useUnits>;

/** The contrast in the unit that was chosen. */
function gainIn(unit: GainUnit, contrast: Contrast, units: Units) {
  const { of, name } =
    unit === '%' ? { of: (v: number) => v, name: '%' } : { of: units[unit].of, name: units[unit].unit };
  const { curve, upTo } = unit === '%' ? contrast.relative : contrast[unit];
  return {
    name,
    curve: curve.map((p) => ({ rpm: p.rpm, gain: of(p.gain), lower: of(p.lower), upper: of(p.upper) })),
    upTo: { gain: of(upTo.gain), rpm: upTo.rpm },
  };
}

/** The gain curve in the unit that was chosen, a stretch drawn over it, and the same as a table. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Gain({
  detail,
  contrast,
  units,
  conditions,
}: {
  detail: TestDetail;
  contrast: Contrast;
  units: Units;
  conditions: readonly string[];
}) {
  const drawing = useRef<HTMLDivElement>(null);
  const [unit, setUnit] = useGainUnit();
  const [asTable, setAsTable] = useState(false);
  const [drawn, setDrawn] = useDrawnWindow();
  const gain = gainIn(unit, contrast, units);
  const file = `test-${detail.summary.number}`;
  const title = `Gain over stock, ${gain.name === '%' ? '% of stock' : gain.name}`;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2>Gain over stock</h2>
        <span className="text-[12.5px] text-soft">
          with the band that holds the whole true curve in {confidencePct(detail.plan.confidence)} of 100
          tests
        </span>
        <UnitChoice unit={unit} onChange={setUnit} units={units}>
          <Toggle on={asTable} onClick={() => setAsTable(!asTable)}>
            table
          </Toggle>
          <ChartButtons of={drawing} name={`${file}-gain`} words={{ title, conditions }} />
        </UnitChoice>
      </div>
      <div ref={drawing}>
        <GainRibbon
          curve={gain.curve}
          unit={gain.name}
          upTo={gain.upTo}
          height={338}
          window={drawn}
          onWindow={setDrawn}
        />
      </div>
      {drawn && (
        <WindowAverages
          testId={detail.summary.id}
          arm={contrast.arm}
          window={drawn}
          onDrop={() => setDrawn(null)}
        />
      )}
      {asTable && (
        <CurveTable
          contrast={contrast}
          conditions={conditions}
          name={`test-${detail.summary.number}-curve`}
        />
      )}
    </>
  );
}

function Comparison({
  detail,
  contrast,
  analysis,
}: {
  detail: TestDetail;
  contrast: Contrast;
  analysis: Analysed;
}) {
  const units = useUnits();
  const { curves } = analysis;
  const { between, trend } = analysis.result;
  const conditions = useMemo(() => conditionsOf(detail, contrast, analysis), [detail, contrast, analysis]);
  const label =
    detail.arms.length > 2
      ? (detail.arms.find((a) => a.key === contrast.arm)?.label ?? contrast.arm)
      : 'part';
  const series = useArmSeries(curves, contrast, label, units);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <main className="min-w-0 px-[22px] pt-3">
        <ArmChoice detail={detail} />
        <Gain detail={detail} contrast={contrast} units={units} conditions={conditions} />
        <BothCurves
          detail={detail}
          rpm={curves.rpm}
          series={series}
          contrast={contrast}
          analysis={analysis}
          conditions={conditions}
        />
        <Further detail={detail} contrast={contrast} />
        <ByUse testId={detail.summary.id} arm={contrast.arm} />
        <LogEvidenceTable detail={detail} contrast={contrast} />
        <TogetherTests testId={detail.summary.id} arm={contrast.arm} fitmentId={detail.fitment.id} />
        <OtherBaselines testId={detail.summary.id} gain={contrast.relative.bandAverage.gain} />
        {between && <ArmsBetween detail={detail} between={between} trend={trend} />}
        <EngineLog detail={detail} />
        <CrankEstimate
          arms={[
            { label: 'stock', points: contrast.power.curve.map((c) => ({ rpm: c.rpm, kw: c.against })) },
            { label, points: contrast.power.curve.map((c) => ({ rpm: c.rpm, kw: c.arm })) },
          ]}
        />
      </main>
      <ClaimablePanel detail={detail} contrast={contrast} />
    </div>
  );
}

/** Power and torque of the arms, and the single pulls that can be picked out of both. */
function BothCurves({
  detail,
  rpm,
  series,
  contrast,
  analysis,
  conditions,
}: {
  detail: TestDetail;
  rpm: readonly number[];
  series: ReturnType<typeof useArmSeries>;
  contrast: Contrast;
  analysis: Analysed;
  conditions: readonly string[];
}) {
  const units = useUnits();
  const picked = useCursor()?.picked ?? null;
  const file = `test-${detail.summary.number}`;
  const power = useMemo(() => ({ name: `${file}-power`, conditions }), [file, conditions]);
  const torque = useMemo(() => ({ name: `${file}-torque`, conditions }), [file, conditions]);
  const compared = detail.arms.filter((a) => a.key === contrast.arm || a.key === contrast.against);
  return (
    <section aria-label="Curves of the arms" className="mt-2 pb-6">
      <div className="grid gap-[18px] md:grid-cols-2">
        <ArmCurves
          title={`Power at the wheel, ${units.power.unit}`}
          rpm={rpm}
          series={series.power}
          saved={power}
          picked={picked}
        />
        <ArmCurves
          title={`Torque at the wheel, ${units.torque.unit}`}
          rpm={rpm}
          series={series.torque}
          saved={torque}
          picked={picked}
        />
      </div>
      <PullPicks
        testId={detail.summary.id}
        arms={compared}
        curves={analysis.curves.pulls}
        pulls={analysis.result.pulls}
      />
    </section>
  );
}

function UnitChoice({
  unit,
  onChange,
  units,
  children,
}: {
  unit: GainUnit;
  onChange: (unit: GainUnit) => void;
  units: Units;
  children: ReactNode;
}) {
  return (
    <div role="group" aria-label="Unit of the gain" className="ml-auto flex gap-1">
      {GAIN_UNITS.map((id) => (
        <Toggle key={id} on={unit === id} onClick={() => onChange(id)}>
          {id === '%' ? '%' : units[id].unit}
        </Toggle>
      ))}
      {children}
    </div>
  );
}

function Toggle({ on, onClick, children }: { on: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={clsx(
        'min-h-6 rounded border px-2 text-[12.5px]',
        on ? 'border-ink bg-ink text-on-ink' : 'border-rule text-soft hover:text-ink',
      )}
    >
      {children}
    </button>
  );
}
