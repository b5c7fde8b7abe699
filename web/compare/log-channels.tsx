import { useMemo, useState } from 'react';
import type { TestChannels } from '../../contract/capture/channels.ts';
import { useChannelsQuery } from '../base/endpoints.ts';
import { rpm as rpmText, useUnits } from '../base/format.ts';
import { Empty, Loading, ProblemNote } from '../base/ui.tsx';
import { LogTable } from './log-table.tsx';
import { ChannelChart, type ChartArm } from './channel-chart.tsx';
import { nearestPoint, useCursor } from './shared-cursor.ts';
import { drawnChannels } from './log-drawing.ts';

interface Shown {
  readonly arms: readonly ChartArm[];
  /** Of these, those that are held against each other in the table. */
  readonly compared?: readonly ChartArm[];
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
  const cursor = useCursor();
  const [own, setOwn] = useState(Math.floor(data.rpm.length / 2));
  // One cursor for the page, where the page has one.
  const at = nearestPoint(data.rpm, cursor?.rpm ?? null) ?? own;
  const setAt = (index: number): void => {
    setOwn(index);
    cursor?.onPut(data.rpm[index]);
  };
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
            picked={cursor?.picked ?? null}
          />
        ))}
      </div>
    </div>
  );
}
