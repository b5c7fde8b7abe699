import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { ControlCheckShown } from '../../contract/register/control.ts';
import { day, number } from '../base/format.ts';

/** Checks of a control vehicle in order: each alone, and from the reference on their moving mean in its limits. */
// eslint-disable-next-line max-lines-per-function -- the markup of one drawing, in the order it is read
export function ControlDrawing({ tag, checks }: { tag: string; checks: readonly ControlCheckShown[] }) {
  const standing = checks.filter((c) => c.struck === null);
  const data = standing.map((c, i) => ({
    n: i + 1,
    off: c.off,
    ewma: c.chart?.ewma ?? null,
    limits: c.chart ? [-c.chart.limit, c.chart.limit] : null,
    alarm: c.chart?.alarm ?? false,
  }));
  const last = standing.at(-1);
  const alarm = standing.filter((c) => c.chart?.alarm).length;
  return (
    <figure>
      <figcaption className="text-[12.5px] text-soft">
        Each check, in per cent from the centre; after the reference their moving mean and its limits
      </figcaption>
      <div
        className="h-44"
        role="img"
        aria-label={
          `${tag}: ${standing.length} checks, from ${standing[0] ? day(standing[0].at) : ''} to ${last ? day(last.at) : ''}; ` +
          `the latest ${last ? number(last.off, 2) : ''} % from the centre; ${alarm} out of limits`
        }
      >
        <ResponsiveContainer width="100%" height="100%">
          <ComposedChart data={data} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
            <CartesianGrid vertical={false} stroke="var(--rule)" />
            <XAxis
              dataKey="n"
              padding={{ left: 10, right: 10 }}
              tick={{ fontSize: 12, fill: 'var(--soft)' }}
              stroke="var(--rule)"
              tickLine={false}
            />
            <YAxis
              tick={{ fontSize: 12, fill: 'var(--soft)' }}
              tickFormatter={(v: number) => number(v, 2)}
              stroke="var(--rule)"
              tickLine={false}
              unit=" %"
            />
            <Area
              dataKey="limits"
              fill="var(--stands)"
              fillOpacity={0.12}
              stroke="none"
              isAnimationActive={false}
            />
            <ReferenceLine y={0} stroke="var(--ink)" />
            <Line
              dataKey="ewma"
              stroke="var(--stands)"
              strokeWidth={2.2}
              dot={false}
              isAnimationActive={false}
            />
            <Line dataKey="off" stroke="none" isAnimationActive={false} dot={CheckDot} />
          </ComposedChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

/** Colour never alone: what is out of limits is a diamond. */
function CheckDot({
  cx,
  cy,
  payload,
}: {
  cx?: number;
  cy?: number;
  payload?: { n: number; alarm: boolean };
}) {
  if (cx === undefined || cy === undefined || !payload) return <g />;
  return payload.alarm ? (
    <path
      key={payload.n}
      d={`M${cx} ${cy - 6} L${cx + 6} ${cy} L${cx} ${cy + 6} L${cx - 6} ${cy} Z`}
      fill="var(--loss)"
    />
  ) : (
    <circle key={payload.n} cx={cx} cy={cy} r={3} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.4} />
  );
}
