import { readTestFile } from '../../contract/judge/test-file.ts';
import { ScenarioSchema } from '../capture/scenario.ts';
import { simulateSession } from './simulate.ts';

/** Eight pulls (A-B-B-A, two each) with about `samples` rows; the ninth column is dropped to make eight channels. */
export function eightPulls(samples: number) {
  const session = simulateSession(
    ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      seed: 77,
      title: 'bench',
      engine: 'na4',
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      arms: [
        { id: 'stock', role: 'baseline' },
        { id: 'part', role: 'part', effect: [{ kind: 'constant', percent: 3 }] },
      ],
      protocol: { order: ['stock', 'part', 'part', 'stock'], pulls: 2, warmUps: 3 },
      roller: { rateHz: samples / 16.3 },
    }),
  );
  const files = new Map(
    session.files.map((f) => [
      f.path,
      new TextEncoder().encode(
        f.text
          .split('\n')
          .map((line) => (line.startsWith('#') ? line : line.split(',').slice(0, 8).join(',')))
          .join('\n'),
      ),
    ]),
  );
  return { definition: session.test, test: readTestFile(session.test), files };
}
