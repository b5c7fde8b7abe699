/** Sessions of a flat engine for tests of what is judged and said. */
import { seededRng } from '../base/rng.ts';
import { analyseTest, type TestDefinition, type TestPull, type TestResult } from './analyse-test.ts';

/**
 * A session of a flat 150 N·m engine: runs in order, three warm-up and three counted pulls each; gains in per
 * cent by arm, scatter and drift in per cent.
 */
export function flatSession(
  order: readonly string[],
  gains: Readonly<Record<string, number>>,
  driftPerPull = 0,
  change: Partial<TestDefinition> = {},
  seed = 4242,
): TestResult {
  const rng = seededRng(seed);
  const files = new Map<string, Uint8Array>();
  const pulls: TestPull[] = [];
  for (const arm of order) {
    for (let k = 0; k < 6; k++) {
      const position = pulls.length + 1;
      const counted = k >= 3;
      const id = `${counted ? 'p' : 'w'}${position}`;
      if (!counted) {
        pulls.push({ id, arm, order: position, mount: 1, counted });
        continue;
      }
      const level = 0.25 * rng.normal() + driftPerPull * position;
      const phase = rng.normal();
      const rows = Array.from({ length: 240 }, (_, i) => {
        const rpm = 2000 + i * 19;
        const torque =
          150 * (1 + (gains[arm] ?? 0) / 100) * (1 + level / 100) * (1 + 0.001 * Math.sin(rpm / 500 + phase));
        return `${(i * 0.05).toFixed(2)},${rpm},${torque.toFixed(4)}`;
      });
      files.set(`${id}.csv`, new TextEncoder().encode(`Time (s),RPM,Torque (Nm)\n${rows.join('\n')}\n`));
      pulls.push({ id, arm, order: position, mount: 1, counted, file: `${id}.csv` });
    }
  }
  const arms = [...new Set(order)].map((id, i) => ({
    id,
    role: i === 0 ? ('baseline' as const) : ('part' as const),
  }));
  const definition: TestDefinition = {
    title: 'several arms',
    standard: 'none',
    engine: { ignition: 'spark', aspiration: 'natural' },
    band: { fromRpm: 2500, toRpm: 6000, stepRpm: 50 },
    arms,
    pulls,
    metric: 'bandAverage',
    repeatability: {
      curve: { variance: 0.1, df: 10 },
      bandAverage: { variance: 0.08, df: 10 },
      peak: { variance: 0.08, df: 10 },
    },
    plan: { lockedAt: '2026-11-01T08:00:00Z', firstPullAt: '2026-11-01T10:00:00Z' },
    ...change,
  };
  return analyseTest(definition, (file) => files.get(file)).result;
}
