import { useState } from 'react';
import { toast } from 'sonner';
import type { Device } from '../../contract/register/devices.ts';
import { DEVICE_KINDS, DEVICE_NAMES, type DeviceKind } from '../../core/register/devices.ts';
import { NumberInput, whyWrong, type NumberTyped } from '../base/number-input.tsx';
import { Button, Field, Input, ProblemNote } from '../base/ui.tsx';
import { useSetDevicesMutation } from './api.ts';

/** Where the devices of a dyno are spoken to; docs/devices.md says how one is attached. */
export function Devices({
  dynoId,
  devices,
  mayPrepare,
}: {
  dynoId: string;
  devices: readonly Device[];
  mayPrepare: boolean;
}) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="Devices">
      <div className="mb-2 flex items-baseline justify-between">
        <h2>Devices</h2>
        {mayPrepare && !open && (
          <Button small onClick={() => setOpen(true)}>
            Name the devices
          </Button>
        )}
      </div>
      {open ? (
        <DevicesForm dynoId={dynoId} devices={devices} onDone={() => setOpen(false)} />
      ) : devices.length === 0 ? (
        <p className="text-soft">None named: pulls come as files, and air is typed.</p>
      ) : (
        <ul>
          {devices.map((d) => (
            <li key={d.kind}>
              <span className="inline-block w-36 text-soft">{DEVICE_NAMES[d.kind]}</span> {d.host}, port{' '}
              {d.port}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

interface Typed {
  readonly host: string;
  readonly port: NumberTyped;
}
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function DevicesForm({
  dynoId,
  devices,
  onDone,
}: {
  dynoId: string;
  devices: readonly Device[];
  onDone: () => void;
}) {
  const [set, { error, isLoading }] = useSetDevicesMutation();
  const [typed, setTyped] = useState<Record<DeviceKind, Typed>>(() => {
    const of = (kind: DeviceKind): Typed => {
      const there = devices.find((d) => d.kind === kind);
      return { host: there?.host ?? '', port: there?.port ?? null };
    };
    return { dyno: of('dyno'), station: of('station'), logger: of('logger') };
  });
  const named = DEVICE_KINDS.filter((kind) => typed[kind].host.trim() !== '');
  const lacksPort = named.some((kind) => typeof typed[kind].port !== 'number');
  const save = async (): Promise<void> => {
    const list = named.map((kind) => ({
      kind,
      host: typed[kind].host.trim(),
      port: typed[kind].port as number,
    }));
    if ('error' in (await set({ dynoId, devices: list }))) return;
    toast.success('Named.');
    onDone();
  };
  return (
    <form
      className="grid gap-3 border border-rule bg-sheet p-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (!lacksPort) void save();
      }}
    >
      {DEVICE_KINDS.map((kind) => (
        <div key={kind} className="grid grid-cols-[minmax(0,1fr)_120px] gap-3">
          <Field label={`${DEVICE_NAMES[kind]}: name or address in the house’s network`}>
            <Input
              value={typed[kind].host}
              onChange={(event) =>
                setTyped({ ...typed, [kind]: { ...typed[kind], host: event.target.value } })
              }
            />
          </Field>
          <Field label="Port" error={whyWrong(typed[kind].port)}>
            <NumberInput
              value={typed[kind].port}
              onChange={(port) => setTyped({ ...typed, [kind]: { ...typed[kind], port } })}
            />
          </Field>
        </div>
      ))}
      <p className="text-soft">Leave a device empty that the dyno does not have.</p>
      <ProblemNote error={error} />
      <div className="flex gap-2">
        <Button kind="main" type="submit" disabled={isLoading || lacksPort}>
          Save
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
    </form>
  );
}
