/** The control vehicle of Cell 1: two mountings a week from August on, nothing changed on the car. */
import { ScenarioSchema } from '../../bench/capture/scenario.ts';
import { simulateSession } from '../../bench/judge/simulate.ts';

export const DEMO_CONTROL = {
  standard: 'sae-j1349',
  fromRpm: 3000,
  toRpm: 6000,
  gear: '4th',
} as const;

export interface DemoCheck {
  /** Day and time at the site. */ readonly day: string;
  readonly time: string;
  readonly pulls: readonly {
    readonly name: string;
    readonly text: string;
    readonly air: { temperatureC: number; pressureHpa: number; humidityPct: number };
  }[];
}

/** How far the days and the mountings of the story lie from the centre, %. */
const DAYS = [0.5, -0.6, 0.2, 0.6, -0.4, -0.5, 0.6, 0.1, -0.4, 0.3, -0.2, 0.1];
const MOUNTS = [0.4, -0.5, 0.2, -0.3, 0.6, -0.1, -0.6, 0.3, 0.1, -0.4, 0.5, -0.2];
const FIRST_DAY = Date.parse('2026-08-10T00:00:00Z');
const WEEK_MS = 7 * 86_400_000;

export const DEMO_CHECKS: readonly DemoCheck[] = DAYS.flatMap((ofDay, week) =>
  [0, 1].map((k) => {
    const off = ofDay + MOUNTS[(2 * week + k) % MOUNTS.length];
    const day = new Date(FIRST_DAY + week * WEEK_MS).toISOString().slice(0, 10);
    return checkOn(day, k === 0 ? '08:30' : '14:30', off, 7100 + 2 * week + k);
  }),
);

function checkOn(day: string, time: string, off: number, seed: number): DemoCheck {
  const session = simulateSession(
    ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      seed,
      title: 'control vehicle',
      engine: 'na4',
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      noise: { level: 0.4, slow: 0.2, quick: 0.1 },
      arms: [
        { id: 'centre', role: 'baseline' },
        { id: 'check', role: 'part', effect: [{ kind: 'constant', percent: off }] },
      ],
      protocol: { order: ['centre', 'check'] },
    }),
  );
  return {
    day,
    time,
    pulls: ['p4', 'p5', 'p6'].map((label, i) => {
      const pull = session.test.pulls.find((p) => p.id === label)!;
      const { text } = session.files.find((f) => f.path === pull.file)!;
      const air = pull.air!;
      return {
        name: `control-${day}-${time.replace(':', '')}-${i + 1}.csv`,
        text: `# Recorded: ${day} ${time.slice(0, 3)}${String(Number(time.slice(3)) + 8 * i).padStart(2, '0')}:00\n${text}`,
        air: { temperatureC: air.temperatureC, pressureHpa: air.pressureHpa, humidityPct: air.humidityPct! },
      };
    }),
  };
}
