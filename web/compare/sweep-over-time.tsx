import { memo, useMemo } from 'react';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { ticks } from 'd3-array';
import { useChannelsQuery } from '../base/endpoints.ts';
import { number, rpm as rpmText, signed } from '../base/format.ts';
import { LineKey, styleOf, type ChartArm } from './channel-chart.tsx';
import { nearestPoint, useCursor } from './shared-cursor.ts';
import { meanSeconds, timedSweeps, type TimedSweeps } from './sweep-time.ts';

/** Engine speed over time, every pull set off where all of them have passed: which arm gets through the range sooner. */
export function SweepOverTime({ testId, arms }: { testId: string; arms: readonly ChartArm[] }) {
  const { data } = useChannelsQuery(testId);
  const timed = useMemo(() => (data ? timedSweeps(data) : null), [data]);
  const cursor = useCursor();
  if (!data || !timed) return null;
  const at = nearestPoint(data.rpm, cursor?.rpm ?? null);
  const read = at !== null && at > timed.from && at <= timed.to ? at : timed.to;
  const shown = arms.filter((arm) => timed.pulls.some((p) => p.arm === arm.key));
  const base = meanSeconds(timed, arms[0].key, read);
  return (
    <figure className="m-0 mt-6" aria-label="Engine speed over time">
      <figcaption>
        <span className="font-semibold">Sweep over time</span>{' '}
        <span className="text-[12.5px] text-soft">
          rpm over seconds by each pull’s own clock, from {rpmText(data.rpm[timed.from])}
        </span>
        <span className="block min-h-5 text-[12.5px]">
          <span className="mr-3 text-soft">to {rpmText(data.rpm[read])}</span>
          {shown.map((arm, i) => {
            const seconds = meanSeconds(timed, arm.key, read);
            return (
              <span key={arm.key} className="mr-3 inline-flex items-center gap-1.5">
                <LineKey arms={arms} arm={arm.key} />
                {arm.label} <b>{seconds === null ? 'no time' : `${number(seconds, 2)} s`}</b>
                {i > 0 && seconds !== null && base !== null && (
                  <span className="text-soft">({signed(seconds - base, 2)} s)</span>
                )}
              </span>
            );
          })}
        </span>
      </figcaption>
      <TimeLines
        rpm={data.rpm}
        timed={timed}
        arms={arms}
        picked={cursor?.picked ?? null}
        at={at === null ? null : data.rpm[at]}
      />
      <p className="m-0 text-[12.5px] text-soft">
        As logged, not corrected for air. Where a brake holds the rate, every pull takes the same time and the
        clock says nothing of the part.
      </p>
    </figure>
  );
}

const lines = (pulls: TimedSweeps['pulls'], rpm: readonly number[], from: number, to: number) =>
  pulls.map(({ label, arm, seconds }) => ({
    label,
    arm,
    points: rpm
      .slice(from, to + 1)
      .flatMap((r, j) => (seconds[from + j] == null ? [] : [{ seconds: seconds[from + j], rpm: r }])),
  }));

const TimeLines = memo(function TimeLines({
  rpm,
  timed: { pulls, from, to },
  arms,
  picked,
  at,
}: {
  rpm: readonly number[];
  timed: TimedSweeps;
  arms: readonly ChartArm[];
  picked: string | null;
  /** Engine speed of the cursor. */
  at: number | null;
}) {
  const series = useMemo(() => lines(pulls, rpm, from, to), [pulls, rpm, from, to]);
  const longest = Math.max(...pulls.map((p) => p.seconds[to] ?? 0));
  const isAside = pulls.some((p) => p.label === picked);
  return (
    <ResponsiveContainer width="100%" height={190} minWidth={180}>
      <LineChart margin={{ top: 6, right: 12, bottom: 4, left: -10 }}>
        <XAxis
          dataKey="seconds"
          type="number"
          domain={[0, longest]}
          ticks={ticks(0, longest, 8)}
          tickFormatter={(v: number) => `${number(v, 1)} s`}
          tick={{ fontSize: 11, fill: 'var(--soft)' }}
          stroke="var(--rule)"
        />
        <YAxis
          dataKey="rpm"
          type="number"
          domain={[rpm[from], rpm[to]]}
          ticks={ticks(rpm[from], rpm[to], 4)}
          tickFormatter={(v: number) => number(v, 0)}
          tick={{ fontSize: 11, fill: 'var(--soft)' }}
          axisLine={false}
          tickLine={false}
        />
        {at !== null && <ReferenceLine y={at} stroke="var(--ask)" />}
        {series.map(({ label, arm, points }) => (
          <Line
            key={label}
            data={points}
            dataKey="rpm"
            name={label}
            dot={false}
            activeDot={false}
            isAnimationActive={false}
            strokeWidth={label === picked ? 2.4 : 1.2}
            strokeOpacity={isAside && label !== picked ? 0.25 : 1}
            stroke={styleOf(arms, arm).stroke}
            strokeDasharray={styleOf(arms, arm).dash}
          />
        ))}
      </LineChart>
    </ResponsiveContainer>
  );
});
