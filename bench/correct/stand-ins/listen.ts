/** What every stand-in does alike: listens on loopback, greets, says `now`, takes commands. */
import { createServer, type Socket } from 'node:net';
import {
  asLine,
  BenchCommand,
  BENCH_PROTOCOL,
  type DeviceChannel,
  type DeviceMessage,
  type Hello,
} from '../../../contract/capture/device-protocol.ts';
import { lineCutter } from '../../../contract/capture/device-lines.ts';
import type { DeviceKind } from '../../../core/register/devices.ts';
import { faultsOf, type FaultName } from './faults.ts';

export interface StandInOptions {
  readonly port: number;
  /** How many times faster than life its time runs. */
  readonly speed: number;
  readonly seed: number;
}
export interface StandIn {
  readonly port: number;
  readonly faults: Set<FaultName>;
  close(): Promise<void>;
}
interface Playing {
  readonly device: DeviceKind;
  readonly name: string;
  readonly channels: readonly DeviceChannel[];
  readonly begins?: boolean;
  readonly kept?: () => Hello['kept'];
  /** Its clock, ms. */ readonly clock: () => number;
  readonly now: () => (number | null)[];
  readonly onCommand?: (command: BenchCommand, say: (message: DeviceMessage) => void) => void;
}
export interface Listening {
  /** Says something to everyone connected. */
  say(message: DeviceMessage): void;
  /** Breaks every connection, and takes none for so long, ms. */
  breakFor(ms: number): void;
  readonly port: number;
  close(): Promise<void>;
}

/** A stand-in that rides on the same car says so: a network that breaks is none of its business. */
export const RIDER = 'rider';
export const iso = (ms: number): string => new Date(ms).toISOString();

/** Opens the port. Faults are switched here; what they do is each stand-in's own. */
// eslint-disable-next-line max-lines-per-function -- one server with its sockets
export async function listen(
  { port, speed }: Pick<StandInOptions, 'port' | 'speed'>,
  faults: Set<FaultName>,
  playing: Playing,
): Promise<Listening> {
  const sockets = new Set<Socket>();
  const riders = new WeakSet<Socket>();
  let away = 0;
  const hello = (): DeviceMessage => ({
    type: 'hello',
    protocol: BENCH_PROTOCOL,
    device: playing.device,
    name: playing.name,
    clock: iso(playing.clock()),
    channels: [...playing.channels],
    begins: playing.begins ?? false,
    kept: playing.kept?.() ?? [],
    faults: faultsOf(playing.device).map((name) => ({ name, on: faults.has(name) })),
  });
  const server = createServer((socket) => {
    socket.on('error', () => undefined);
    if (Date.now() < away) {
      socket.destroy();
      return;
    }
    socket.setNoDelay(true);
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    const say = (message: DeviceMessage): void => {
      if (socket.writable) socket.write(asLine(message));
    };
    say(hello());
    const cut = lineCutter();
    socket.setEncoding('utf8');
    socket.on('data', (piece: string) => {
      for (const line of cut(piece)) {
        const said = parsed(line);
        if ((said as { type?: unknown } | undefined)?.type === RIDER) riders.add(socket);
        const command = BenchCommand.safeParse(said);
        if (!command.success) continue;
        if (command.data.type === 'fault') {
          const name = command.data.name as FaultName;
          if (!faultsOf(playing.device).includes(name)) continue;
          if (command.data.on) faults.add(name);
          else faults.delete(name);
          for (const each of sockets) each.write(asLine(hello()));
        } else playing.onCommand?.(command.data, say);
      }
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const say = (message: DeviceMessage): void => {
    for (const socket of sockets) if (socket.writable) socket.write(asLine(message));
  };
  const beat = setInterval(
    () => say({ type: 'now', clock: iso(playing.clock()), values: playing.now() }),
    Math.max(100, 500 / Math.min(speed, 5)),
  );
  return {
    say,
    breakFor(ms) {
      away = Date.now() + ms;
      for (const socket of sockets) if (!riders.has(socket)) socket.destroy();
    },
    port: (server.address() as { port: number }).port,
    close: () =>
      new Promise((resolve) => {
        clearInterval(beat);
        for (const socket of sockets) socket.destroy();
        server.close(() => resolve());
      }),
  };
}
function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return undefined;
  }
}
