import type { TestChannels } from '../../contract/capture/channels.ts';
import { ENGINE_CHANNELS, type EngineChannel } from '../../core/base/quantities.ts';
import { armLog, logContrast, type ArmLog, type LoggedPull } from '../../core/compare/arm-logs.ts';
import { number, rpm as rpmText, signed } from '../base/format.ts';
import type { Drawn } from './log-drawing.ts';

interface Arm {
  readonly key: string;
  readonly label: string;
}
const isEngine = (quantity: string): quantity is EngineChannel =>
  (ENGINE_CHANNELS as readonly string[]).includes(quantity);

/** Channels of the arms held against each other at the same rpm, over the range of the test. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function LogTable({
  data,
  drawn,
  arms,
}: {
  data: TestChannels;
  drawn: readonly Drawn[];
  arms: readonly Arm[];
}) {
  const { rpm } = data;
  const stepRpm = rpm.length > 1 ? rpm[1] - rpm[0] : 50;
  const pulls: LoggedPull[] = data.pulls
    .filter((pull) => !pull.excluded)
    .map(({ label, arm, channels }) => ({
      id: label,
      arm,
      curves: Object.fromEntries(Object.entries(channels).map(([q, c]) => [q, c.values])),
    }));
  const [base, ...others] = arms;
  const rows = drawn.flatMap((channel) => {
    const { quantity } = channel;
    if (!isEngine(quantity)) return [];
    const logs = arms.map((arm) => armLog(pulls, arm.key, quantity, rpm));
    return [{ channel, logs }];
  });
  if (others.length === 0 || rows.length === 0) return null;
  const shown = (log: ArmLog | undefined, { digits, of }: Drawn): string =>
    log ? number(of(log.mean), digits) : 'not logged';
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-t-[1.5px] border-ink text-[13.5px]">
        <caption className="sr-only">Channels of each arm at the same engine speed, as observed</caption>
        <thead>
          <tr className="border-b border-rule text-left text-[12.5px] text-soft">
            <th className="py-1.5 pr-3 font-normal">
              Mean from {rpmText(rpm[0])} to {rpmText(rpm.at(-1)!)}
            </th>
            <th className="px-3 text-right font-normal">{base.label}</th>
            {others.map((arm) => (
              <ArmHeads key={arm.key} label={arm.label} />
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ channel, logs: [own, ...rest] }) => (
            <tr key={channel.quantity} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                <b className="font-semibold">{channel.name}</b>{' '}
                <span className="text-[12.5px] text-soft">{channel.unit}</span>
              </th>
              <td className="px-3 text-right tabular-nums">{shown(own, channel)}</td>
              {rest.map((log, i) => {
                const c = own && log ? logContrast(log, own, rpm, stepRpm) : undefined;
                const by = (internal: number): string => signed(internal * channel.scale, channel.digits);
                return (
                  <ArmCells
                    key={others[i].key}
                    mean={shown(log, channel)}
                    difference={
                      c &&
                      `${by(c.difference)}${c.error === null ? '' : ` ± ${number(c.error * channel.scale, channel.digits)}`}`
                    }
                    most={c && `${by(c.largest.difference)} near ${rpmText(c.largest.rpm)}`}
                  />
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[12.5px] text-soft">
        ± one standard error from the scatter of the pulls; “most” is the largest difference over any 500 rpm.
      </p>
    </div>
  );
}

const ArmHeads = ({ label }: { label: string }) => (
  <>
    <th className="px-3 text-right font-normal">{label}</th>
    <th className="px-3 text-right font-normal">difference</th>
    <th className="px-3 text-right font-normal">most</th>
  </>
);
const ArmCells = ({ mean, difference, most }: { mean: string; difference?: string; most?: string }) => (
  <>
    <td className="px-3 text-right tabular-nums">{mean}</td>
    <td className="px-3 text-right font-semibold tabular-nums">{difference ?? '–'}</td>
    <td className="px-3 text-right tabular-nums text-soft">{most ?? '–'}</td>
  </>
);
