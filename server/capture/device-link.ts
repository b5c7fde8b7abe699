/** One connection to a device: kept up, cut into messages, told apart by what the device says first. */
import { lookup } from 'node:dns/promises';
import { BlockList, connect, isIP, type Socket } from 'node:net';
import { lineCutter } from '../../contract/capture/device-lines.ts';
import {
  asLine,
  DeviceMessage,
  SILENCE_MS,
  type BenchCommand,
  type Hello,
} from '../../contract/capture/device-protocol.ts';
import type { DeviceKind } from '../../core/register/devices.ts';

const AGAIN_MS = 800;
/** What came while this process stood still is heard first. */
const GRACE_MS = 500;

/** Devices stand in the house: nothing outside its own network is ever spoken to. */
const AT_HOME = new BlockList();
AT_HOME.addSubnet('127.0.0.0', 8);
AT_HOME.addSubnet('10.0.0.0', 8);
AT_HOME.addSubnet('172.16.0.0', 12);
AT_HOME.addSubnet('192.168.0.0', 16);
AT_HOME.addSubnet('169.254.0.0', 16);
AT_HOME.addAddress('::1', 'ipv6');
AT_HOME.addSubnet('fc00::', 7, 'ipv6');
AT_HOME.addSubnet('fe80::', 10, 'ipv6');

async function addressOf(host: string): Promise<string> {
  const address = isIP(host) ? host : (await lookup(host)).address;
  if (!AT_HOME.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4'))
    throw new Error(`${host} is not in the house’s own network`);
  return address;
}

export interface DeviceEvents {
  /** @param line as it came */
  readonly said: (message: Exclude<DeviceMessage, { type: 'hello' }>, line: string) => void;
  readonly arrived: (hello: Hello) => void;
  readonly left: (why: string) => void;
}
export interface DeviceLink {
  readonly connected: () => boolean;
  send(command: BenchCommand): void;
  /** Breaks the connection and makes it anew: the device then says what it still holds. */
  again(): void;
  close(): void;
}

/** Connects, again and again, until it is closed. What is no message of the protocol ends the connection. */
// eslint-disable-next-line max-lines-per-function -- one connection with all that can become of it
export function linkDevice(
  { kind, host, port }: { readonly kind: DeviceKind; readonly host: string; readonly port: number },
  { said, arrived, left }: DeviceEvents,
): DeviceLink {
  let socket: Socket | undefined;
  let again: NodeJS.Timeout | undefined;
  let greeted = false;
  let closed = false;

  function heard(line: string): void {
    let message: DeviceMessage;
    try {
      message = DeviceMessage.parse(JSON.parse(line));
    } catch {
      throw new Error(`it says what is no message: ${line.slice(0, 80)}`);
    }
    if (message.type === 'hello') {
      if (message.device !== kind)
        throw new Error(`a ${message.device} answers where a ${kind} is registered`);
      greeted = true;
      arrived(message);
    } else if (greeted) said(message, line);
    else throw new Error('it does not say what it is first');
  }
  async function open(): Promise<void> {
    let address: string;
    try {
      address = await addressOf(host);
    } catch (error) {
      retry(error instanceof Error ? error.message : String(error));
      return;
    }
    if (closed) return;
    const own = connect(port, address);
    socket = own;
    let why = 'the connection broke';
    const cut = lineCutter();
    own.setEncoding('utf8');
    own.setNoDelay(true);
    own.setTimeout(SILENCE_MS, () => {
      const heardOf = own.bytesRead;
      setTimeout(() => {
        if (own.bytesRead === heardOf) own.destroy(new Error('it has gone silent'));
      }, GRACE_MS);
    });
    own.on('data', (piece) => {
      try {
        for (const line of cut(String(piece))) heard(line);
      } catch (error) {
        own.destroy(error instanceof Error ? error : new Error(String(error)));
      }
    });
    own.on('error', (error) => (why = error.message));
    own.on('close', () => retry(why));
  }
  function retry(why: string): void {
    const was = greeted;
    greeted = false;
    socket = undefined;
    if (closed) return;
    left(was ? why : `it cannot be reached: ${why}`);
    again = setTimeout(() => void open(), AGAIN_MS);
  }
  void open();
  return {
    connected: () => greeted,
    send(command) {
      if (greeted && socket?.writable) socket.write(asLine(command));
    },
    again() {
      socket?.destroy();
    },
    close() {
      closed = true;
      clearTimeout(again);
      socket?.destroy();
    },
  };
}
