/** Switches a fault of a stand-in from the command line, over the same door as the bench. */
import { connect } from 'node:net';
import { lineCutter } from '../contract/capture/device-lines.ts';
import { asLine, DeviceMessage, type Hello } from '../contract/capture/device-protocol.ts';

const PATIENCE_MS = 5000;
export type Switched =
  | { readonly ok: true; readonly faults: NonNullable<Hello['faults']> }
  | { readonly ok: false; readonly why: string };

/**
 * @param place host:port of a stand-in
 * @param name of a fault; none lists them
 */
export function switchFault(place: string, name: string | undefined, on: boolean): Promise<Switched> {
  const [, host, port] = /^(.+):(\d{1,5})$/.exec(place) ?? [];
  if (!host) return Promise.resolve({ ok: false, why: `“${place}” is no host:port.` });
  return new Promise((resolve) => {
    const socket = connect(Number(port), host);
    const end = (result: Switched): void => {
      socket.destroy();
      resolve(result);
    };
    const cut = lineCutter();
    let asked = false;
    socket.setEncoding('utf8');
    socket.setTimeout(PATIENCE_MS, () => end({ ok: false, why: `${place} does not answer.` }));
    socket.on('error', (error) => end({ ok: false, why: error.message }));
    socket.on('data', (piece) => {
      for (const line of cut(String(piece))) {
        const message = DeviceMessage.safeParse(JSON.parse(line));
        if (!message.success || message.data.type !== 'hello') continue;
        const { faults, device } = message.data;
        if (!faults)
          return end({ ok: false, why: `The ${device} at ${place} is no stand-in: it has no faults.` });
        if (name === undefined || asked) return end({ ok: true, faults });
        if (!faults.some((f) => f.name === name)) {
          const known = faults.map((f) => f.name).join(', ');
          return end({ ok: false, why: `The ${device} has no fault “${name}”; it has: ${known}.` });
        }
        asked = true;
        socket.write(asLine({ type: 'fault', name, on }));
      }
    });
  });
}
