import { Link } from 'react-router';
import type { WatchedBench } from '../../../contract/correct/bench-watch.ts';
import type { TestDetail } from '../../../contract/overview.ts';
import { DEVICE_NAMES } from '../../../core/register/devices.ts';
import { Mark } from '../../base/ui.tsx';

/** Which test, which devices, whether this screen hears them. */
export function BenchHead({
  detail,
  bench,
  connected,
  unsent,
  onStandIns,
}: {
  detail: TestDetail;
  bench: WatchedBench;
  connected: boolean;
  unsent: number;
  onStandIns?: (() => void) | undefined;
}) {
  const isOpen = bench.session !== null && bench.session.closedAt === null;
  return (
    <header className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule px-6 py-3 text-[15px]">
      <Link
        to={`/tests/${detail.summary.id}/pulls`}
        className="font-display text-[18px] font-semibold no-underline"
      >
        Bench
      </Link>
      <p className="min-w-0 flex-1 truncate text-soft" title={detail.summary.title}>
        Test {detail.summary.number} · {detail.summary.title} · {detail.summary.vehicle} · {detail.dyno.name}
      </p>
      <ul aria-label="Devices" className="flex flex-wrap gap-x-4">
        {isOpen &&
          bench.devices.map(({ kind }) => {
            const link = bench.links.find((l) => l.kind === kind);
            const isThere = bench.linked && link?.connected === true;
            return (
              <li key={kind} title={link?.problem ?? undefined}>
                <Mark tone={isThere ? 'stands' : 'ask'}>
                  {DEVICE_NAMES[kind]}
                  {isThere ? '' : ' away'}
                </Mark>
              </li>
            );
          })}
        {isOpen && bench.devices.length === 0 && <li className="text-soft">no devices: bring files</li>}
      </ul>
      {onStandIns && (
        <button type="button" onClick={onStandIns} className="underline underline-offset-3">
          Stand-ins
        </button>
      )}
      {(!connected || unsent > 0) && (
        <p role="status" className="w-full text-ask">
          {!connected && 'No connection. What you write is kept on this device and sent when it is back. '}
          {unsent > 0 && `${unsent} ${unsent === 1 ? 'entry waits' : 'entries wait'} to be sent.`}
        </p>
      )}
    </header>
  );
}
