import { wrap, type Remote } from 'comlink';
import { nice, ticks } from 'd3-array';
import { useEffect, useMemo, useState } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceDot, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import type { Precision, PrecisionInput } from '../../core/plan/precision.ts';
import { number } from '../base/format.ts';
import { NumberInput } from '../base/number-input.tsx';
import { Button } from '../base/ui.tsx';
import type { PrecisionService } from './precision.worker.ts';

/** Dyno hours by order of runs. */
type Hours = Readonly<Record<'A-B' | 'A-B-A' | 'A-A-B-B', number>>;

let service: Remote<PrecisionService> | undefined;
const precisionService = (): Remote<PrecisionService> =>
  (service ??= wrap<PrecisionService>(
    new Worker(new URL('./precision.worker.ts', import.meta.url), { type: 'module' }),
  ));

/** Precision of a plan, worked out beside the page; the last answer stands until the next one is there. */
function usePrecision(input: PrecisionInput | null): Precision | null {
  const [answer, setAnswer] = useState<Precision | null>(null);
  const key = JSON.stringify(input);
  useEffect(() => {
    let current = true;
    const asked = JSON.parse(key) as PrecisionInput | null;
    if (asked)
      void precisionService()
        .precisionOf(asked)
        .then((p) => {
          if (current) setAnswer(p);
        });
    return () => {
      current = false;
    };
  }, [key]);
  return input ? answer : null;
}

/** Rounded up: a plan that needs 2.03 % must not read as if it saw 2.0 %. */
const shown = (pct: number | null): string =>
  pct === null ? 'cannot be analysed' : `${number(Math.ceil(pct * 10 - 1e-9) / 10, 1)} %`;

/** The smallest gain the plan would show, by metric; how it falls with pulls; what a re-mount costs. */
export function PrecisionPanel({
  input,
  hours,
  onRunTwice,
  showsOneWay,
}: {
  input: Omit<PrecisionInput, 'wantedPct'> | null;
  /** Plans the same twelve pulls with the part run twice. */
  onRunTwice: () => void;
  hours: Hours | null;
  /** Whether a part cannot come off again: then a plan without return stands beside A-B-A. */
  showsOneWay: boolean;
}) {
  const [wanted, setWanted] = useState(2);
  const asked = useMemo(
    () => (input ? { ...input, wantedPct: Number.isFinite(wanted) ? wanted : 2 } : null),
    [input, wanted],
  );
  const p = usePrecision(asked);
  if (!input) return <p className="text-soft">Choose a dyno: its scatter decides what can be seen.</p>;
  if (!p)
    return (
      <p role="status" className="text-soft">
        Working out what this plan can see …
      </p>
    );
  return (
    <div>
      <label className="mb-1 flex items-center gap-1.5 text-[12.5px] text-soft">
        Gain wanted{' '}
        <NumberInput
          aria-label="Gain wanted, per cent"
          units={[{ names: ['%'] }]}
          value={wanted}
          onChange={(typed) => setWanted(typeof typed === 'number' ? typed : NaN)}
          className="w-16 px-1.5! py-0.5! text-right"
        />{' '}
        %
      </label>
      <BySize precision={p} />
      {p.twice && (
        <div className="mt-2 flex items-center gap-3 border-y border-rule py-2">
          <p className="min-w-0 flex-1 text-[12.5px]">
            As A-B-B-A, three a run, the same twelve pulls see <b>{shown(p.twice.pct90)}</b> instead of{' '}
            {shown(p.twice.instead)}: the part stays on for two runs, each after its own warm-up pulls.
          </p>
          <Button onClick={onRunTwice}>Plan it so</Button>
        </div>
      )}
      <OverPulls precision={p} input={input} />
      <p className="text-[12.5px] text-soft">
        Strapping the car down anew moves the reading by itself
        {p.mountAssumed ? ' (usual scatter of mountings assumed: none registered)' : ''}. More pulls on one
        strapping do not help against that; more strappings do.
      </p>
      <Returns precision={p} hours={hours} showsOneWay={showsOneWay} />
    </div>
  );
}

function BySize({ precision: p }: { precision: Precision }) {
  return (
    <div className="overflow-x-auto">
      <table className="ledger" aria-label="Smallest gain the plan would show">
        <thead>
          <tr>
            <th>Smallest gain shown</th>
            <th className="num">80 of 100</th>
            <th className="num">90 of 100</th>
            <th className="num pr-0!">Pulls for it</th>
          </tr>
        </thead>
        <tbody>
          {p.metrics.map((m) => (
            <tr key={m.metric}>
              <td>
                {METRIC_NAMES[m.metric]}
                {m.assumed && (
                  <span className="block text-[12px] text-ask">usual scatter assumed: none registered</span>
                )}
                {m.metric === 'upTo' && (
                  <span className="block text-[12px] text-soft">
                    for a gain at one rpm; a broad gain is seen sooner
                  </span>
                )}
              </td>
              <td className="num">{shown(m.pct80)}</td>
              <td className="num">
                <b>{shown(m.pct90)}</b>
              </td>
              <td className="num pr-0!">{m.pulls === null ? 'none do' : `${m.pulls} a run`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Larger gains than these are seen anyhow, and would flatten the rest of the drawing. */
const LARGEST_DRAWN_PCT = 12;
/** How the smallest gain shown falls with counted pulls a run; where this plan stands on it. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function OverPulls({
  precision: p,
  input,
}: {
  precision: Precision;
  input: Omit<PrecisionInput, 'wantedPct'>;
}) {
  const here = p.curve.find((c) => c.pulls === input.pullsPerRun);
  const hereValue = here && (input.remount ? here.remounted : here.oneMount);
  const most = Math.max(
    1,
    ...p.curve.flatMap((c) => [c.oneMount ?? 0, c.remounted ?? 0]).filter((v) => v < LARGEST_DRAWN_PCT),
  );
  const [, top] = nice(0, most, 4);
  return (
    <figure className="mt-3">
      <figcaption className="text-[12.5px] text-soft">
        Smallest gain, %, shown 90 times of 100, over counted pulls a run ({METRIC_NAMES[input.metrics[0]]})
      </figcaption>
      <div
        className="h-40"
        role="img"
        aria-label={
          (input.oneWay
            ? ''
            : `On one mounting ${p.curve.map((c) => `${c.pulls} pulls ${shown(c.oneMount)}`).join(', ')}; `) +
          `strapped down anew ${p.curve.map((c) => `${c.pulls} pulls ${shown(c.remounted)}`).join(', ')}`
        }
      >
        <ResponsiveContainer width="100%" height="100%">
          <LineChart
            data={p.curve.map((c) => ({ ...c }))}
            margin={{ top: 8, right: 98, bottom: 4, left: -22 }}
          >
            <CartesianGrid vertical={false} stroke="var(--rule)" />
            <XAxis
              dataKey="pulls"
              tick={{ fontSize: 12, fill: 'var(--soft)' }}
              stroke="var(--rule)"
              tickLine={false}
            />
            <YAxis
              domain={[0, top]}
              ticks={ticks(0, top, 4)}
              interval={0}
              allowDataOverflow
              tick={{ fontSize: 12, fill: 'var(--soft)' }}
              stroke="var(--rule)"
              tickLine={false}
            />
            <Line
              dataKey="oneMount"
              stroke="var(--stands)"
              strokeWidth={2.2}
              dot={false}
              isAnimationActive={false}
              label={endLabel(p.curve.length - 1, 'one mounting', 'var(--stands)', 10)}
            />
            <Line
              dataKey="remounted"
              stroke="var(--ink)"
              strokeWidth={1.8}
              strokeDasharray="6 4"
              dot={false}
              isAnimationActive={false}
              label={endLabel(p.curve.length - 1, 'strapped anew', 'var(--ink)', -3)}
            />
            {hereValue !== null && hereValue !== undefined && (
              <ReferenceDot
                x={input.pullsPerRun}
                y={hereValue}
                r={5}
                fill="var(--paper)"
                stroke={input.remount ? 'var(--ink)' : 'var(--stands)'}
                strokeWidth={2}
              />
            )}
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

/** What the return to baseline buys. */
function Returns({
  precision: p,
  hours,
  showsOneWay,
}: {
  precision: Precision;
  hours: Hours | null;
  showsOneWay: boolean;
}) {
  return (
    <table className="ledger mt-3" aria-label="What the return to baseline buys">
      <thead>
        <tr>
          <th>{showsOneWay ? 'Order' : 'On one mounting'}</th>
          <th className="num">Dyno hours</th>
          <th className="num pr-0!">Sees, 90 of 100</th>
        </tr>
      </thead>
      <tbody>
        {p.returns.map((r) => (
          <tr key={r.design}>
            <td>
              <b>{r.design}</b>
              <span className="block text-[12px] text-soft">
                {r.design === 'A-B' ? (
                  <span className="text-ask">
                    {number(100 * r.driftShare, 0)} % of the variance is the drift bound; never published
                  </span>
                ) : (
                  'a steady drift cancels; may be claimed'
                )}
              </span>
            </td>
            <td className="num">{hours ? number(hours[r.design], 1) : ''}</td>
            <td className="num pr-0!">{shown(r.pct90)}</td>
          </tr>
        ))}
        {showsOneWay && <WithoutReturn oneWay={p.oneWay} hours={hours} />}
      </tbody>
    </table>
  );
}

/** The same part without return, beside what coming back would cost and see. */
function WithoutReturn({ oneWay, hours }: { oneWay: Precision['oneWay']; hours: Hours | null }) {
  return (
    <tr>
      <td>
        <b>A-A-B-B</b>
        <span className="block text-[12px] text-soft">
          without return, strapped down anew each time, with a control vehicle;{' '}
          {oneWay.registered ? (
            'may be claimed where the part cannot come off'
          ) : (
            <span className="text-ask">usual mountings or days assumed: not registered, no claim</span>
          )}
        </span>
      </td>
      <td className="num">{hours ? number(hours['A-A-B-B'], 1) : ''}</td>
      <td className="num pr-0!">{shown(oneWay.pct90)}</td>
    </tr>
  );
}

/** A direct label at the end of a line. */
const endLabel = (last: number, text: string, fill: string, dy: number) =>
  function EndLabel(props: { x?: number | string; y?: number | string; index?: number }) {
    return props.index === last ? (
      <text x={Number(props.x) + 6} y={Number(props.y) + dy} fontSize={12} fontWeight={640} fill={fill}>
        {text}
      </text>
    ) : (
      <g />
    );
  };
