/** Stand-in for a dyno: begins a pull when told to, streams it, and holds the last ones in its buffer. */
import type { DeviceMessage } from '../../../contract/capture/device-protocol.ts';
import { seededRng } from '../../../core/base/rng.ts';
import type { EngineKind } from '../../../core/capture/simulated/engines.ts';
import { playPull, RATE_HZ } from './car.ts';
import { DYNO_CHANNELS, isDropped } from './dyno-channels.ts';
import type { FaultName } from './faults.ts';
import { engineLike } from './which-engine.ts';
import { iso, listen, type Listening, type StandIn, type StandInOptions } from './listen.ts';

const IDLE_RPM = 850;
const KEEPS = 60;
const TICK_MS = 50;
/** Where the connection breaks, sample, and how long the device stays away, ms. */
const BREAK_AT = 200;
const AWAY_MS = 1500;
const round = (value: number, digits: number): number => Number(value.toFixed(digits));

type Sample = Extract<DeviceMessage, { type: 'sample' }>;
interface Kept {
  readonly pull: string;
  readonly clock: string;
  readonly samples: (Sample | null)[];
  ended: 'complete' | 'aborted' | null;
}

// eslint-disable-next-line max-lines-per-function -- one device with its buffer
export async function startDyno(options: StandInOptions & { engine?: EngineKind }): Promise<StandIn> {
  const { speed, seed } = options;
  let engine = options.engine ?? 'na4';
  const faults = new Set<FaultName>();
  const kept: Kept[] = [];
  const rng = seededRng(seed);
  let running: { readonly of: Kept; readonly play: Generator<unknown>; stop: boolean } | null = null;
  let fitted = '';
  let sinceInstall = 0;
  let pulls = 0;
  const series = iso(Date.now()).replace(/\D/g, '').slice(2, 14);

  const end = (of: Kept): DeviceMessage => ({
    type: 'end',
    pull: of.pull,
    clock: iso(Date.now()),
    samples: of.samples.length,
    how: of.ended ?? 'complete',
  });
  function begin(configuration: string): void {
    if (running) return;
    if (configuration !== fitted) sinceInstall = 0;
    fitted = configuration;
    const of: Kept = { pull: `${series}-${pulls + 1}`, clock: iso(Date.now()), samples: [], ended: null };
    kept.push(of);
    if (kept.length > KEEPS) kept.shift();
    listening.say({ type: 'begin', pull: of.pull, clock: of.clock });
    const play = playPull(
      {
        engine,
        configuration,
        baseline: /^(stock|base)/.test(configuration),
        at: Date.now(),
        pullsBefore: pulls,
        sinceInstall,
        faults: new Set(faults),
      },
      rng,
    );
    pulls += 1;
    sinceInstall += 1;
    void run({ of, play, stop: false }, play);
  }
  async function run(own: NonNullable<typeof running>, play: ReturnType<typeof playPull>): Promise<void> {
    running = own;
    const began = Date.now();
    const { of } = own;
    const breaks = faults.has('connection lost');
    const drops = faults.has('dropped samples');
    for (;;) {
      const due = Math.floor(((Date.now() - began) / 1000) * RATE_HZ * speed);
      while (of.samples.length <= due && !own.stop) {
        const next = play.next();
        if (next.done) {
          of.ended = 'complete';
          break;
        }
        const { t, rpm, kmh, torqueNm, powerKw } = next.value;
        const n = of.samples.length;
        const sample: Sample = {
          type: 'sample',
          pull: of.pull,
          n,
          values: [round(t, 3), round(rpm, 1), round(kmh, 2), round(torqueNm, 2), round(powerKw, 3)],
        };
        of.samples.push(drops && isDropped(n) ? null : sample);
        if (!(drops && isDropped(n))) listening.say(sample);
        if (breaks && n === BREAK_AT) listening.breakFor(AWAY_MS);
      }
      if (own.stop) of.ended = 'aborted';
      if (of.ended) break;
      await new Promise((resolve) => setTimeout(resolve, TICK_MS / Math.min(speed, 5)));
    }
    running = null;
    listening.say(end(of));
  }
  function resend(
    pull: string | undefined,
    from: number,
    to: number | undefined,
    say: Listening['say'],
  ): void {
    const of = kept.find((k) => k.pull === pull);
    if (!of) {
      if (pull !== undefined) say({ type: 'lost', pull, from, to: to ?? from });
      return;
    }
    const last = Math.min(to ?? Infinity, of.samples.length - 1);
    for (let n = from; n <= last; n++) {
      const sample = of.samples[n];
      if (sample) say(sample);
      else say({ type: 'lost', pull: of.pull, from: n, to: n });
    }
    if (of.ended) say(end(of));
  }
  const listening = await listen(options, faults, {
    device: 'dyno',
    name: 'Stand-in dyno',
    channels: DYNO_CHANNELS,
    begins: true,
    clock: Date.now,
    kept: () =>
      kept.map((k) => ({ pull: k.pull, clock: k.clock, samples: k.samples.length, ended: k.ended !== null })),
    now: () => [null, running ? null : round(IDLE_RPM + 4 * rng.normal(), 0), 0, null, null],
    onCommand: (command, say) => {
      if (command.type === 'car') engine = engineLike(command);
      else if (command.type === 'begin') begin(command.configuration);
      else if (command.type === 'abort' && running) running.stop = true;
      else if (command.type === 'resend') resend(command.pull, command.from, command.to, say);
    },
  });
  return {
    port: listening.port,
    faults,
    async close() {
      if (running) running.stop = true;
      await listening.close();
    },
  };
}
