/**
 * A stand-in for one device, as a process of its own:
 *   node dist/bench/stand-ins.js dyno --port 4791
 *   node dist/bench/stand-ins.js station --port 4792
 *   node dist/bench/stand-ins.js logger --port 4793 --dyno 4791
 * Prints `{"port":…}` once it listens. Speaks `evidentia-bench/1`; see docs/devices.md.
 */
import { Command, Option } from 'commander';
import { DEVICE_KINDS, type DeviceKind } from '../core/register/devices.ts';
import { ENGINES, type EngineKind } from '../core/capture/simulated/engines.ts';
import { startDyno } from './correct/stand-ins/dyno.ts';
import { startLogger } from './correct/stand-ins/logger.ts';
import { startStation } from './correct/stand-ins/station.ts';
import type { StandIn } from './correct/stand-ins/listen.ts';

interface Said {
  readonly port: string;
  readonly speed: string;
  readonly seed: string;
  readonly engine: EngineKind;
  readonly dyno: string;
}
function start(device: DeviceKind, said: Said): Promise<StandIn> {
  const options = {
    port: Number(said.port),
    speed: Number(said.speed),
    seed: Number(said.seed),
    engine: said.engine,
  };
  if (device === 'dyno') return startDyno(options);
  return device === 'station'
    ? startStation(options)
    : startLogger({ ...options, dynoPort: Number(said.dyno) });
}

const program = new Command('stand-ins')
  .description('plays a dyno, a weather station or an engine logger')
  .addArgument(new Command().createArgument('<device>').choices(DEVICE_KINDS))
  .option('--port <port>', 'port on loopback; 0 takes a free one', '0')
  .option('--speed <times>', 'how many times faster than life its time runs', '1')
  .option('--seed <n>', 'seed of its noise', '4711')
  .option('--dyno <port>', 'port of the dyno whose car the logger rides on', '4791')
  .addOption(
    new Option('--engine <kind>', 'engine on the rollers').choices(Object.keys(ENGINES)).default('na4'),
  )
  .action(async (device: DeviceKind, said: Said) => {
    const standIn = await start(device, said);
    process.stdout.write(`${JSON.stringify({ port: standIn.port })}\n`);
    const stop = (): void => void standIn.close().then(() => process.exit(0));
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, stop);
    // Whoever started it was killed.
    process.on('disconnect', stop);
  });
await program.parseAsync();
