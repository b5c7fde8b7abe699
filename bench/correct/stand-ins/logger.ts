/**
 * Stand-in for the engine's own logger. It rides on the same car as the dyno's stand-in, so it listens there; what it
 * says is its own: another clock, another rate, another noise.
 */
import { connect } from 'node:net';
import { lineCutter } from '../../../contract/capture/device-lines.ts';
import { DeviceMessage } from '../../../contract/capture/device-protocol.ts';
import { seededRng } from '../../../core/base/rng.ts';
import { ENGINES, type EngineKind } from '../../../core/capture/simulated/engines.ts';
import type { FaultName } from './faults.ts';
import { IDLE_RPM, LOG_CHANNELS as CHANNELS, logReading, OFFSET_S, warm } from './log-readings.ts';
import { engineLike } from './which-engine.ts';
import { iso, listen, RIDER, type StandIn, type StandInOptions } from './listen.ts';

const RATE_HZ = 20;
/** Ten minutes. */
const KEEPS = 600 * RATE_HZ;
const RECONNECT_MS = 500;
/** How fast the engine falls after a pull, rpm/s. */
const FALLS = 900;

interface Heard {
  rpm: number;
  torqueNm: number;
  at: number;
}
type Reading = Extract<DeviceMessage, { type: 'sample' }>;

// eslint-disable-next-line max-lines-per-function -- one device with its buffer
export async function startLogger(
  options: StandInOptions & { engine?: EngineKind; dynoPort: number; answersAfterMs?: number },
): Promise<StandIn> {
  const { speed, seed, dynoPort } = options;
  let model = ENGINES[options.engine ?? 'na4'];
  const faults = new Set<FaultName>();
  const rng = seededRng(seed);
  const began = Date.now();
  const own = (): number => ((Date.now() - began) / 1000) * speed;
  const offset = (): number => (faults.has('clock offset') ? OFFSET_S : 0);
  const heat = { coolant: 0, oil: 0, intake: 0 };
  let pulls = 0;
  let pulling = false;
  /** When the last pull was over, ms. */ let over = 0;
  let heard: Heard | null = null;
  const stuck: { lambda: number | null } = { lambda: null };
  const buffer: Reading[] = [];
  let n = 0;

  /** After a pull the engine falls to its idle, as any does. */
  const coasting = (): number | null => {
    const rpm = (heard?.rpm ?? 0) - ((Date.now() - over) / 1000) * speed * FALLS;
    return rpm > IDLE_RPM ? rpm : null;
  };
  const values = (): (number | null)[] =>
    logReading({
      t: own(),
      rpm: pulling && heard ? heard.rpm : coasting(),
      torqueNm: pulling ? (heard?.torqueNm ?? 0) : -1,
      model,
      faults,
      heat,
      pullsBefore: pulls,
      stuck,
      rng,
    });
  function resend(from: number, to: number, say: (message: DeviceMessage) => void): void {
    for (const reading of buffer) if (reading.n >= from && reading.n <= to) say(reading);
    if (buffer.length > 0 && from < buffer[0].n) say({ type: 'lost', from, to: buffer[0].n - 1 });
    say({ type: 'resent', from });
  }
  const listening = await listen(options, faults, {
    device: 'logger',
    name: 'Stand-in engine logger',
    channels: CHANNELS,
    clock: () => Date.now() + offset() * 1000,
    now: values,
    onCommand: (command, say) => {
      if (command.type === 'car') model = ENGINES[engineLike(command)];
      if (command.type !== 'resend') return;
      const { from, to } = command;
      setTimeout(() => resend(from, to ?? Infinity, say), options.answersAfterMs ?? 0);
    },
  });

  let last = Date.now();
  const tick = setInterval(
    () => {
      const step = ((Date.now() - last) / 1000) * speed;
      last = Date.now();
      warm(heat, step, pulling);
      const reading: Reading = {
        type: 'sample',
        n: n++,
        clock: iso(Date.now() + offset() * 1000),
        values: values(),
      };
      buffer.push(reading);
      if (buffer.length > KEEPS) buffer.shift();
      listening.say(reading);
    },
    1000 / RATE_HZ / Math.min(speed, 10),
  );

  let closing = false;
  let socket: ReturnType<typeof connect> | undefined;
  function follow(): void {
    if (closing) return;
    const cut = lineCutter();
    socket = connect(dynoPort, '127.0.0.1');
    socket.setEncoding('utf8');
    socket.write(`${JSON.stringify({ type: RIDER })}\n`);
    socket.on('error', () => undefined);
    socket.on('close', () => setTimeout(follow, RECONNECT_MS).unref());
    socket.on('data', (piece) => {
      for (const line of cut(String(piece))) {
        const message = DeviceMessage.safeParse(JSON.parse(line));
        if (!message.success) continue;
        if (message.data.type === 'begin') pulling = true;
        if (message.data.type === 'sample') {
          const [, rpm, , torqueNm] = message.data.values;
          pulling = true;
          heard = { rpm: rpm ?? 0, torqueNm: torqueNm ?? 0, at: Date.now() };
        }
        if (message.data.type === 'end') {
          if (pulling) pulls += 1;
          pulling = false;
          over = Date.now();
        }
      }
    });
  }
  follow();
  return {
    port: listening.port,
    faults,
    async close() {
      closing = true;
      clearInterval(tick);
      socket?.destroy();
      await listening.close();
    },
  };
}
