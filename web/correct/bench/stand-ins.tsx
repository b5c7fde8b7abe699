import type { WatchedBench } from '../../../contract/correct/bench-watch.ts';
import { DEVICE_NAMES } from '../../../core/register/devices.ts';
import { Dialog } from '../../base/dialog.tsx';
import { useSwitchFaultMutation } from './api.ts';

/** Faults of the stand-ins, to practise with. No real device has any. */
export function StandIns({
  testId,
  bench,
  onClose,
}: {
  testId: string;
  bench: WatchedBench;
  onClose: () => void;
}) {
  const [turn] = useSwitchFaultMutation();
  const names = [...new Set(bench.links.flatMap((l) => l.faults.map((f) => f.name)))];
  return (
    <Dialog open onClose={onClose} title="Faults of the stand-ins" wide>
      <p className="mb-3 text-soft">
        These devices are simulated. A fault that is switched on plays from the next pull on; see whether the
        bench finds it.
      </p>
      <ul className="grid grid-cols-2 gap-2">
        {names.map((name) => {
          const of = bench.links.filter((l) => l.faults.some((f) => f.name === name));
          const isOn = of.some((l) => l.faults.some((f) => f.name === name && f.on));
          return (
            <li key={name}>
              <label className="flex min-h-11 items-center gap-3 rounded-md border border-rule px-3">
                <input
                  type="checkbox"
                  checked={isOn}
                  onChange={() => void turn({ testId, name, on: !isOn })}
                  className="size-5"
                />
                <span>
                  {name}{' '}
                  <span className="text-[12.5px] text-soft">
                    {of.map((l) => DEVICE_NAMES[l.kind]).join(', ')}
                  </span>
                </span>
              </label>
            </li>
          );
        })}
      </ul>
    </Dialog>
  );
}
