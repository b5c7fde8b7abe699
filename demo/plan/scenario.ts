import { ScenarioSchema, type Scenario } from '../../bench/capture/scenario.ts';
import { protocolOf } from '../../core/plan/protocols.ts';
import type { DemoTest } from './tests.ts';

/** Scatter of the demo's own cell: a little quieter than the dyno assumed in docs/method.md. */
const CELL_NOISE = { level: 0.45, slow: 0.3, quick: 0.25, white: 0.1, remountStep: 0.9 };

export const scenarioOf = (test: DemoTest): Scenario =>
  ScenarioSchema.parse({
    format: 'evidentia-scenario/1',
    seed: test.seed,
    title: test.question,
    engine: test.engine,
    band: test.band,
    metric: test.metric,
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part', effect: test.effect },
    ],
    protocol: {
      order: [...protocolOf(test.protocol).order('stock', ['part'])],
      pulls: 3,
      warmUps: 3,
      remount: test.remount,
    },
    noise: CELL_NOISE,
    drift: test.drift ?? 0,
    roller: {
      startRpm: test.startRpm,
      kind: test.dyno === 'fell-road' ? 'inertia' : 'loaded',
      ...(test.dyno === 'fell-road' ? { inertiaKgM2: 9 } : {}),
    },
    air: {
      temperatureC: 20.5,
      pressureHpa: test.pressureHpa ?? 1006,
      humidityPct: 52,
      temperaturePerPull: 0.04,
    },
    ...(test.backPressure ? { backPressure: test.backPressure } : {}),
    faults: test.faults ?? [],
  });
