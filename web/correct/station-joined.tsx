import clsx from 'clsx';
import type { AirFileShown } from '../../contract/capture/air-file.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import { number, useUnits } from '../base/format.ts';
import { clockAt } from '../plan/schedule-time.ts';

type Given = AirFileShown['pulls'][number];

/** What the file of a station gives for each pull, with the lines it stands in. */
export function Joined({
  shown,
  pulls,
  zone,
  ticked,
  onTick,
}: {
  shown: readonly Given[];
  pulls: readonly Pull[];
  zone: string;
  ticked: ReadonlySet<string>;
  onTick: (ticked: ReadonlySet<string>) => void;
}) {
  const toggle = (id: string): void => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    onTick(next);
  };
  return (
    <div className="overflow-x-auto">
      <table className="ledger" aria-label="Air of each pull">
        <thead>
          <tr>
            <th>Pull</th>
            <th>Recorded</th>
            <th className="num">Temperature</th>
            <th className="num">Pressure</th>
            <th className="num">Humidity</th>
            <th>From</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((given) => (
            <tr key={given.pullId} className={clsx(!given.air && 'text-soft')}>
              <td className="whitespace-nowrap font-semibold">
                <label className="flex min-h-6 items-center gap-2">
                  <input
                    type="checkbox"
                    disabled={!given.air}
                    checked={ticked.has(given.pullId)}
                    onChange={() => toggle(given.pullId)}
                  />
                  {given.label}
                </label>
              </td>
              <td>{given.at ? clockAt(given.at, zone) : 'not said'}</td>
              {given.air ? (
                <Read air={given.air} there={pulls.find((p) => p.id === given.pullId)?.air ?? null} />
              ) : (
                <td colSpan={4}>{given.why}</td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** How far from the pull a reading was taken. */
const away = (seconds: number): string =>
  seconds < 30 ? 'at that moment' : `${number(seconds / 60, 0)} min away`;

/** One reading in the units of the person, with where it stands and what it would replace. */
function Read({ air, there }: { air: NonNullable<Given['air']>; there: Pull['air'] }) {
  const { temperature, pressure } = useUnits();
  const degrees = (celsius: number): string => `${number(temperature.of(celsius), 1)} ${temperature.unit}`;
  const { humidity, lines, nearestS } = air;
  return (
    <>
      <td className="num">{degrees(air.temperatureC)}</td>
      <td className="num">
        {number(pressure.of(air.pressureHpa), pressure.digits)} {pressure.unit}
      </td>
      <td className="num">
        {humidity.kind === 'relative'
          ? `${number(humidity.percent, 0)} %`
          : `${degrees(humidity.temperatureC)} ${humidity.kind}`}
      </td>
      <td className="text-[12.5px]">
        {lines.length === 1 ? `line ${lines[0]}, ${away(nearestS)}` : `between lines ${lines.join(' and ')}`}
        {there && (
          <span className="block text-ask">
            replaces what was {there.sourceFile ? `joined from ${there.sourceFile}` : there.source}
          </span>
        )}
      </td>
    </>
  );
}
