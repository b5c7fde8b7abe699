import { memo, useMemo } from 'react';
import { Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { ticks } from 'd3-array';
import { number } from '../base/format.ts';
import { UnderCursor } from './cursor.tsx';
import { armMeans, type Drawn } from './log-drawing.ts';

export interface ChartArm {
  readonly key: string;
  readonly label: string;
}

const DASHES = ['6 4', undefined, '2 3', '10 3 2 3'];
export const styleOf = (arms: readonly ChartArm[], key: string) => {
  const index = Math.max(
    0,
    arms.findIndex((a) => a.key === key),
  );
  return {
    stroke: index === 0 ? 'var(--ink)' : 'var(--stands)',
    dash: DASHES[index % DASHES.length],
  };
};

/** One channel of all pulls over engine speed, with the arms' means where the cursor stands. */
export function ChannelChart({
  channel,
  rpm,
  arms,
  at,
  picked,
}: {
  channel: Drawn;
  rpm: readonly number[];
  arms: readonly ChartArm[];
  /** Grid point that is read. */
  at: number;
  picked: string | null;
}) {
  const { name, unit, digits } = channel;
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
                <LineKey arms={arms} arm={arm.key} />
                {arm.label}{' '}
                <b>{means.get(arm.key) === null ? 'no value' : number(means.get(arm.key)!, digits)}</b>
              </span>
            ))}
        </span>
      </figcaption>
      <UnderCursor left={LEFT} right={RIGHT} from={rpm[0]} to={rpm.at(-1)!}>
        <ChannelLines channel={channel} rpm={rpm} arms={arms} picked={picked} />
      </UnderCursor>
    </figure>
  );
}

export function LineKey({ arms, arm }: { arms: readonly ChartArm[]; arm: string }) {
  const { stroke, dash } = styleOf(arms, arm);
  return (
    <svg width="18" height="6" aria-hidden>
      <line x1="0" y1="3" x2="18" y2="3" strokeWidth="2" stroke={stroke} strokeDasharray={dash} />
    </svg>
  );
}

const AXIS_WIDTH = 60;
const LEFT_MARGIN = -10;
const LEFT = LEFT_MARGIN + AXIS_WIDTH;
const RIGHT = 8;

/** The lines alone: not drawn again while the cursor moves. */
const ChannelLines = memo(function ChannelLines({
  channel: { digits, low, high, pulls },
  rpm,
  arms,
  picked,
}: {
  channel: Drawn;
  rpm: readonly number[];
  arms: readonly ChartArm[];
  picked: string | null;
}) {
  const rows = useMemo(
    () =>
      rpm.map((r, j) => ({
        rpm: r,
        ...Object.fromEntries(pulls.map((p) => [p.label, p.values[j] ?? null])),
      })),
    [rpm, pulls],
  );
  const isAside = pulls.some((p) => p.label === picked);
  return (
    <ResponsiveContainer width="100%" height={120} minWidth={180}>
      <LineChart data={rows} margin={{ top: 6, right: RIGHT, bottom: 0, left: LEFT_MARGIN }}>
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
          width={AXIS_WIDTH}
          domain={[low, high]}
          ticks={ticks(low, high, 3)}
          tickFormatter={(v: number) => number(v, digits)}
          tick={{ fontSize: 11, fill: 'var(--soft)' }}
          axisLine={false}
          tickLine={false}
        />
        {pulls.map((pull) => (
          <Line
            key={pull.label}
            dataKey={pull.label}
            name={pull.label}
            dot={false}
            activeDot={false}
            isAnimationActive={false}
            connectNulls={false}
            strokeWidth={pull.label === picked ? 2.2 : 1.2}
            strokeOpacity={isAside && pull.label !== picked ? 0.25 : 1}
            stroke={styleOf(arms, pull.arm).stroke}
            strokeDasharray={styleOf(arms, pull.arm).dash}
          />
        ))}
      </LineChart>
    </ResponsiveContainer>
  );
});
