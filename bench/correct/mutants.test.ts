import { expect, it } from 'vitest';
import { seededRng } from '../../core/base/rng.ts';
import { simulateSession } from '../judge/simulate.ts';
import { isSilent, MISREAD, mutate, MUTATIONS, readingOf, type Outcome } from './mutants.ts';
import { ScenarioSchema } from '../capture/scenario.ts';

const BAND = { fromRpm: 2500, toRpm: 6000, stepRpm: 50 };
const session = simulateSession(
  ScenarioSchema.parse({
    format: 'evidentia-scenario/1',
    seed: 11,
    title: 'A sound session',
    engine: 'na4',
    band: BAND,
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part' },
    ],
    protocol: { order: ['stock', 'part', 'stock'] },
  }),
);
const whole = session.files.find((file) => file.path.endsWith('p1.csv'))!.text;
/** Every third sample: a file that is read three times as fast is mutated three times as often. */
const sound = whole
  .split('\n')
  .filter((row, i) => row === '' || !/^[\d.]/.test(row) || i % 3 === 0)
  .join('\n');
/** Nothing in a file says that another unit once stood in its header. */
const WITHOUT_TELL_TALE = new Set(['unit of the header changed']);
/** Of every kind: some five thousand in all. */
const EACH = Math.ceil(5000 / Object.keys(MUTATIONS).length);

it('no mutant is read to another result without a word', () => {
  const rng = seededRng(20_261_125);
  const silent: Outcome[] = [];
  let changed = 0;
  for (const kind of Object.keys(MUTATIONS))
    for (let i = 0; i < EACH; i++) {
      const outcome = mutate(sound, kind, rng, BAND.fromRpm, BAND.toRpm);
      if (outcome.off > MISREAD) changed += 1;
      if (isSilent(outcome) && !WITHOUT_TELL_TALE.has(kind)) silent.push(outcome);
    }
  expect(silent).toEqual([]);
  // The mutants bite: some are read to another result, and say so.
  expect(changed).toBeGreaterThan(3);
});
it('says nothing of sound files', () => {
  for (const file of session.files.filter(({ path }) => /p\d+\.csv$/.test(path)))
    expect(readingOf(new TextEncoder().encode(file.text), BAND.fromRpm, BAND.toRpm).said).toEqual([]);
});
