import clsx from 'clsx';
import { ticks } from 'd3-array';
import { useMemo } from 'react';
import { Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { WatchedBench } from '../../../contract/correct/bench-watch.ts';
import type { StationAir } from '../../../core/capture/session/station-line.ts';
import { number, useUnits } from '../../base/format.ts';
import { useRetold } from '../../base/retold.ts';

interface Arm {
  readonly key: string;
  readonly label: string;
}
const DASHES = [undefined, '6 4', '2 3', '10 3 2 3'];

/** What has been done so far: curves over each other, spread, what is off, the air. */
export function SidePanel({
  bench,
  arms,
  air,
}: {
  bench: WatchedBench;
  arms: readonly Arm[];
  air: StationAir | undefined;
}) {
  return (
    <aside
      aria-label="So far"
      className="grid content-start gap-4 border-rule bg-sheet p-5 max-lg:border-t lg:w-[372px] lg:overflow-y-auto lg:border-l"
    >
      <Curves bench={bench} arms={arms} />
      <Spread bench={bench} />
      <Notices bench={bench} />
      <Air bench={bench} air={air} />
    </aside>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Curves({ bench, arms }: { bench: WatchedBench; arms: readonly Arm[] }) {
  const units = useUnits();
  const done = bench.recordings.filter((r) => r.state === 'complete' && r.summary && r.order !== null);
  const last = done.at(-1);
  const rows = useMemo(
    () =>
      bench.rpm.map((rpm, j) => ({
        rpm,
        ...Object.fromEntries(
          done.map((r) => {
            const value = r.summary!.curve[j];
            return [r.id, value === null || value === undefined ? null : units.torque.of(value)];
          }),
        ),
      })),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a recording that is done does not change
    [bench.rpm, done.length, units],
  );
  return (
    <figure className="m-0" aria-label="Pulls so far, torque">
      <figcaption className="text-[15px] font-semibold">
        Pulls so far, {done.every((r) => r.summary!.factor !== null) ? 'corrected' : 'observed'} torque at the
        wheel, {units.torque.unit}
      </figcaption>
      {done.length === 0 ? (
        <p className="py-6 text-[15px] text-soft">The first pull is drawn here when it is done.</p>
      ) : (
        <ResponsiveContainer width="100%" height={190} minWidth={180}>
          <LineChart data={rows} margin={{ top: 8, right: 8, bottom: 0, left: -14 }}>
            <XAxis
              dataKey="rpm"
              type="number"
              domain={['dataMin', 'dataMax']}
              ticks={ticks(bench.rpm[0], bench.rpm.at(-1)!, 4)}
              tickFormatter={(v: number) => number(v, 0)}
              tick={{ fontSize: 13, fill: 'var(--soft)' }}
              stroke="var(--rule)"
            />
            <YAxis
              domain={['auto', 'auto']}
              tickFormatter={(v: number) => number(v, 0)}
              tick={{ fontSize: 13, fill: 'var(--soft)' }}
              axisLine={false}
              tickLine={false}
            />
            {done.map((r) => {
              const arm = Math.max(
                0,
                arms.findIndex((a) => a.key === r.arm),
              );
              const isLast = r.id === last?.id;
              return (
                <Line
                  key={r.id}
                  dataKey={r.id}
                  dot={false}
                  activeDot={false}
                  isAnimationActive={false}
                  connectNulls={false}
                  strokeWidth={isLast ? 3 : 1.3}
                  stroke={isLast ? 'var(--ask)' : arm === 0 ? 'var(--ink)' : 'var(--stands)'}
                  strokeDasharray={isLast ? undefined : DASHES[arm % DASHES.length]}
                />
              );
            })}
          </LineChart>
        </ResponsiveContainer>
      )}
      {last && (
        <p className="text-[14px] text-soft">
          {arms.map((arm, i) => (
            <span key={arm.key} className="mr-3 whitespace-nowrap">
              <svg width="22" height="8" aria-hidden className="mr-1 inline">
                <line
                  x1="0"
                  y1="4"
                  x2="22"
                  y2="4"
                  strokeWidth="2"
                  stroke={i === 0 ? 'var(--ink)' : 'var(--stands)'}
                  strokeDasharray={DASHES[i % DASHES.length]}
                />
              </svg>
              {arm.label}
            </span>
          ))}
          <span className="whitespace-nowrap text-ask">
            <svg width="22" height="8" aria-hidden className="mr-1 inline">
              <line x1="0" y1="4" x2="22" y2="4" strokeWidth="3" stroke="var(--ask)" />
            </svg>
            the last pull
          </span>
        </p>
      )}
    </figure>
  );
}

function Spread({ bench: { spread, historySd } }: { bench: WatchedBench }) {
  return (
    <div>
      <p className="text-[15px] text-soft">Spread of the counted pulls about their runs</p>
      <p className="text-[32px] font-semibold leading-tight">
        {spread ? `${number(spread.sd, 1)} %` : '–'}{' '}
        <span className="text-[15px] font-normal text-soft">
          {historySd === null ? 'this dyno has no history' : `this dyno usually ${number(historySd, 1)} %`}
        </span>
      </p>
    </div>
  );
}

/** The newest first: what was said of pulls long gone is on the page of the pulls. */
const SHOWN = 4;
const ORDER = { stop: 0, ask: 1, know: 2 };
function Notices({ bench: { notices } }: { bench: WatchedBench }) {
  const told = useRetold();
  // The newest of each kind; what was said before of others is counted.
  const newest = [...notices].reverse().filter((n, i, all) => all.findIndex((o) => o.code === n.code) === i);
  const stops = newest.filter((n) => n.tone === 'stop');
  const list = [...stops, ...newest.filter((n) => n.tone !== 'stop')]
    .slice(0, Math.max(SHOWN, stops.length))
    .sort((a, b) => ORDER[a.tone] - ORDER[b.tone]);
  return (
    <ul aria-label="What is off" aria-live="polite" className="grid gap-3">
      {list.length === 0 && <li className="text-[15px] text-soft">Nothing is off.</li>}
      {list.map((n) => (
        <li
          key={`${n.code}${n.recordingId ?? ''}${n.message}`}
          className={clsx(
            'border-l-4 pl-3 text-[15px] leading-snug',
            { stop: 'border-loss', ask: 'border-ask', know: 'border-stands' }[n.tone],
          )}
        >
          <b className={{ stop: 'text-loss', ask: 'text-ask', know: 'text-ink' }[n.tone]}>
            {n.tone === 'stop' && 'Stop. '}
            {told(n.message)}
          </b>{' '}
          {told(n.advice)}
        </li>
      ))}
      {notices.length > list.length && (
        <li className="text-[14px] text-soft">{notices.length - list.length} earlier remarks.</li>
      )}
    </ul>
  );
}

function Air({ bench, air }: { bench: WatchedBench; air: StationAir | undefined }) {
  const units = useUnits();
  const factor = bench.recordings.findLast((r) => r.summary)?.summary?.factor;
  return (
    <p className="border-l-4 border-stands pl-3 text-[15px]">
      {air ? (
        <>
          Air now {number(units.pressure.of(air.pressureHpa), units.pressure.digits)} {units.pressure.unit},{' '}
          {number(units.temperature.of(air.temperatureC), 1)} {units.temperature.unit}
          {air.humidity.kind === 'relative' ? `, ${number(air.humidity.percent, 0)} %` : ''}.
        </>
      ) : (
        'No live air: type it on the page of the air.'
      )}
      {factor !== null && factor !== undefined && <> Factor of the last pull {number(factor, 3)}.</>}
    </p>
  );
}
