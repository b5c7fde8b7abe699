import { memo, useRef } from 'react';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { ChartButtons } from '../base/chart-buttons.tsx';
import { number } from '../base/format.ts';
import { UnderCursor } from './cursor.tsx';
import { nearestPoint, useCursor } from './shared-cursor.ts';
import { ticks } from 'd3-array';

export interface ArmSeries {
  readonly id: string;
  readonly label: string;
  readonly values: readonly (number | null)[];
  readonly arm: 'stock' | 'part';
  readonly kind: 'mean' | 'pull';
}

/** Curves of the arms: means drawn heavy and labelled on the line, single pulls thin behind them. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export const ArmCurves = memo(function ArmCurves({
  title,
  rpm,
  series,
  height = 210,
  saved,
  picked = null,
}: {
  title: string;
  rpm: readonly number[];
  series: readonly ArmSeries[];
  height?: number;
  /** What is printed in a file of it, and how that is called. */
  saved?: { readonly name: string; readonly conditions: readonly string[] };
  /** A pull that stands out from the others. */
  picked?: string | null;
}) {
  const figure = useRef<HTMLElement>(null);
  const data = rpm.map((r, j) => ({
    rpm: r,
    ...Object.fromEntries(series.map((s) => [s.id, s.values[j] ?? null])),
  }));
  const all = series.flatMap((s) => s.values).filter((v): v is number => v !== null);
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = (high - low) * 0.06;
  const means = series
    .filter((s) => s.kind === 'mean')
    .map((s) => ({ id: s.id, end: s.values.findLast((v) => v !== null) ?? 0 }));
  // Labels of lines that end close together are moved apart.
  const shift = ({ id }: ArmSeries): number => {
    const own = means.find((m) => m.id === id)!.end;
    const near = means.find((m) => m.id !== id && Math.abs(m.end - own) < (high - low) * 0.09);
    return near ? (own > near.end ? -3 : 12) : 4;
  };
  return (
    <figure ref={figure} aria-label={`${title}, arms’ means and single pulls`} className="m-0 min-w-0">
      <figcaption className="flex flex-wrap items-baseline gap-x-1 font-semibold">
        <span className="mr-auto">{title}</span>
        {saved && (
          <ChartButtons of={figure} name={saved.name} words={{ title, conditions: saved.conditions }} />
        )}
      </figcaption>
      <MeansRead rpm={rpm} series={series} />
      <UnderCursor left={LEFT} right={room(series)} from={rpm[0]} to={rpm.at(-1)!}>
        <ResponsiveContainer width="100%" height={height} minWidth={200}>
          <LineChart data={data} margin={{ top: 8, right: room(series), bottom: 0, left: LEFT_MARGIN }}>
            <XAxis
              dataKey="rpm"
              type="number"
              domain={['dataMin', 'dataMax']}
              tickFormatter={(v: number) => number(v, 0)}
              tick={{ fontSize: 12, fill: 'var(--soft)' }}
              stroke="var(--rule)"
              ticks={ticks(rpm[0], rpm.at(-1)!, 4)}
            />
            <YAxis
              width={AXIS_WIDTH}
              domain={[low - pad, high + pad]}
              ticks={ticks(low - pad, high + pad, 4)}
              tickFormatter={(v: number) => number(v, 0)}
              tick={{ fontSize: 12, fill: 'var(--soft)' }}
              axisLine={false}
              tickLine={false}
            />
            <ReferenceLine y={low - pad} stroke="var(--rule)" />
            {inFront(series, picked).map((s) => (
              <Line
                key={s.id}
                dataKey={s.id}
                dot={false}
                activeDot={false}
                isAnimationActive={false}
                type="linear"
                connectNulls={false}
                stroke={s.arm === 'part' ? 'var(--stands)' : 'var(--ink)'}
                strokeWidth={s.kind === 'mean' ? 2.3 : s.id === picked ? 2 : 0.8}
                strokeOpacity={opacity(s, picked)}
                strokeDasharray={s.arm === 'stock' ? (s.kind === 'mean' ? '6 4' : '3 3') : undefined}
                label={s.kind === 'mean' ? endLabel(s, shift(s)) : false}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </UnderCursor>
    </figure>
  );
});

/** Edge of the curves: the margin, and what the axis takes. */
const AXIS_WIDTH = 60;
const LEFT_MARGIN = -14;
const LEFT = LEFT_MARGIN + AXIS_WIDTH;

/** What is picked out is drawn last, over the others. */
const inFront = (series: readonly ArmSeries[], picked: string | null): readonly ArmSeries[] =>
  series.some((s) => s.id === picked)
    ? [...series.filter((s) => s.id !== picked), ...series.filter((s) => s.id === picked)]
    : series;
const opacity = ({ id, kind }: ArmSeries, picked: string | null): number => {
  if (id === picked) return 1;
  const isAside = picked !== null;
  if (kind === 'mean') return isAside ? 0.55 : 1;
  return isAside ? 0.2 : 0.45;
};

/** The arms' means, and the pull that is picked out, where the cursor stands. */
function MeansRead({ rpm, series }: { rpm: readonly number[]; series: readonly ArmSeries[] }) {
  const cursor = useCursor();
  const at = nearestPoint(rpm, cursor?.rpm ?? null);
  const told = series.filter((s) => s.kind === 'mean' || s.id === cursor?.picked);
  return (
    <p className="m-0 min-h-5 text-[12.5px] text-soft">
      {at === null
        ? ' '
        : told.map((s) => (
            <span key={s.id} className="mr-3">
              {shortened(s.label)}{' '}
              <b className={s.arm === 'part' ? 'text-stands' : 'text-ink'}>
                {s.values[at] === null ? 'no value' : number(s.values[at])}
              </b>
            </span>
          ))}
    </p>
  );
}

/** Letters of a name that stand beside a line; the whole of it is in the legend and in its tip. */
const MOST_LETTERS = 15;
const shortened = (label: string): string =>
  label.length > MOST_LETTERS ? `${label.slice(0, MOST_LETTERS - 1).trimEnd()}…` : label;
/** Width of a letter at this size, px, with room to spare. */
const LETTER = 7.4;
/** What the names need beside the lines. */
const room = (series: readonly ArmSeries[]): number =>
  12 + LETTER * Math.max(4, ...series.filter((s) => s.kind === 'mean').map((s) => shortened(s.label).length));

/** Writes the arm's name beside the last point of its line. */
function endLabel(series: ArmSeries, dy: number) {
  const lastIndex = series.values.findLastIndex((v) => v !== null);
  return function Label(props: { x?: number | string; y?: number | string; index?: number }) {
    if (props.index !== lastIndex) return <g />;
    return (
      <text
        x={Number(props.x) + 6}
        y={Number(props.y) + dy}
        fontSize="12"
        fontWeight="640"
        fill={series.arm === 'part' ? 'var(--stands)' : 'var(--ink)'}
      >
        <title>{series.label}</title>
        {shortened(series.label)}
      </text>
    );
  };
}
