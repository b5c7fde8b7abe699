import { useMemo, useState } from 'react';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { ticks } from 'd3-array';
import type { TestChannels } from '../../contract/capture/channels.ts';
import { useChannelsQuery } from '../base/endpoints.ts';
import { number, rpm as rpmText, useUnits } from '../base/format.ts';
import { Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { LogTable } from './log-table.tsx';
import { armMeans, drawnChannels, type Drawn } from './log-drawing.ts';

interface Arm {
  readonly key: string;
  readonly label: string;
}

interface Shown {
  readonly arms: readonly Arm[];
  /** Of these, those that are held against each other in the table. */
  readonly compared?: readonly Arm[];
}

/** What the logger recorded beside torque: a small chart a channel, all at one engine speed. */
export function LogChannels({ testId, ...shown }: Shown & { testId: string }) {
  const { data, error, refetch } = useChannelsQuery(testId);
  if (error) return <ProblemNote error={error} again={() => void refetch()} />;
  if (!data) return <Loading what="what the logger recorded" />;
  if (data.pulls.length === 0)
    return <Empty title="No log yet">Attach the file of a pull, and its channels are drawn here.</Empty>;
  return <Charts data={data} {...shown} />;
}

function Charts({ data, arms, compared = arms }: Shown & { data: TestChannels }) {
  const units = useUnits();
  const drawn = useMemo(() => drawnChannels(data, units), [data, units]);
  const [at, setAt] = useState(Math.floor(data.rpm.length / 2));
  return (
    <div className="grid gap-4">
      <LogTable data={data} drawn={drawn} arms={compared} />
      <label className="flex flex-wrap items-center gap-3">
        <span className="font-semibold">At {rpmText(data.rpm[at])}</span>
        <input
          type="range"
          className="h-6 w-80 max-w-full accent-[var(--stands)]"
          aria-label="Engine speed of the read-out"
          aria-valuetext={rpmText(data.rpm[at])}
          min={0}
          max={data.rpm.length - 1}
          value={at}
          onChange={(e) => setAt(Number(e.target.value))}
        />
        <span className="text-[12.5px] text-soft">
          as observed, not corrected; excluded pulls are left out
        </span>
      </label>
      <div className="grid gap-x-8 gap-y-5 md:grid-cols-2 xl:grid-cols-3">
        {drawn.map((channel) => (
          <ChannelChart
            key={channel.quantity}
            channel={channel}
            rpm={data.rpm}
            arms={arms}
            at={at}
            onAt={setAt}
          />
        ))}
      </div>
    </div>
  );
}

const DASHES = ['6 4', undefined, '2 3', '10 3 2 3'];
const styleOf = (arms: readonly Arm[], key: string) => {
  const index = Math.max(
    0,
    arms.findIndex((a) => a.key === key),
  );
  return {
    stroke: index === 0 ? 'var(--ink)' : 'var(--stands)',
    dash: DASHES[index % DASHES.length],
  };
};

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function ChannelChart({
  channel,
  rpm,
  arms,
  at,
  onAt,
}: {
  channel: Drawn;
  rpm: readonly number[];
  arms: readonly Arm[];
  at: number;
  onAt: (at: number) => void;
}) {
  const { name, unit, digits, low, high, pulls } = channel;
  const rows = useMemo(
    () =>
      rpm.map((r, j) => ({
        rpm: r,
        ...Object.fromEntries(pulls.map((p) => [p.label, p.values[j] ?? null])),
      })),
    [rpm, pulls],
  );
  const means = armMeans(channel, at);
  return (
    <figure className="m-0 min-w-0" aria-label={`${name} over engine speed`}>
      <figcaption>
        <span className="font-semibold">{name}</span> <span className="text-[12.5px] text-soft">{unit}</span>
        <span className="block min-h-5 text-[12.5px]">
          {arms
            .filter((arm) => means.has(arm.key))
            .map((arm) => (
              <span key={arm.key} className="mr-3 inline-flex items-center gap-1.5">
                <svg width="18" height="6" aria-hidden>
                  <line
                    x1="0"
                    y1="3"
                    x2="18"
                    y2="3"
                    strokeWidth="2"
                    stroke={styleOf(arms, arm.key).stroke}
                    strokeDasharray={styleOf(arms, arm.key).dash}
                  />
                </svg>
                {arm.label}{' '}
                <b>{means.get(arm.key) === null ? 'no value' : number(means.get(arm.key)!, digits)}</b>
              </span>
            ))}
        </span>
      </figcaption>
      <ResponsiveContainer width="100%" height={120} minWidth={180}>
        <LineChart
          data={rows}
          margin={{ top: 6, right: 8, bottom: 0, left: -10 }}
          onMouseMove={({ activeTooltipIndex }) => {
            if (activeTooltipIndex !== null && activeTooltipIndex !== undefined)
              onAt(Math.min(rpm.length - 1, Number(activeTooltipIndex)));
          }}
        >
          <XAxis
            dataKey="rpm"
            type="number"
            domain={['dataMin', 'dataMax']}
            ticks={ticks(rpm[0], rpm.at(-1)!, 4)}
            tickFormatter={(v: number) => number(v, 0)}
            tick={{ fontSize: 11, fill: 'var(--soft)' }}
            stroke="var(--rule)"
          />
          <YAxis
            domain={[low, high]}
            ticks={ticks(low, high, 3)}
            tickFormatter={(v: number) => number(v, digits)}
            tick={{ fontSize: 11, fill: 'var(--soft)' }}
            axisLine={false}
            tickLine={false}
          />
          <ReferenceLine x={rpm[at]} stroke="var(--ask)" />
          {pulls.map((pull) => (
            <Line
              key={pull.label}
              dataKey={pull.label}
              name={pull.label}
              dot={false}
              activeDot={false}
              isAnimationActive={false}
              connectNulls={false}
              strokeWidth={1.2}
              stroke={styleOf(arms, pull.arm).stroke}
              strokeDasharray={styleOf(arms, pull.arm).dash}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}
