/** What files do to the reader: `mutants` counts silent misreads, `hostile` times what is made to hold it up. */
import { seededRng } from '../core/base/rng.ts';
import { timeHostile } from './capture/hostile.ts';
import { isSilent, mutate, MUTATIONS, MISREAD } from './correct/mutants.ts';
import { ScenarioSchema } from './capture/scenario.ts';
import { simulateSession } from './judge/simulate.ts';

const MUTANTS = Number(process.env.MUTANTS ?? 100_000);
const ENGINES = ['na4', 'turbo3', 'turbo5', 'diesel4', 'v8', 'v6'] as const;
const bandOf = (engine: (typeof ENGINES)[number]) =>
  engine === 'diesel4'
    ? { fromRpm: 1600, toRpm: 4000, stepRpm: 50 }
    : { fromRpm: 2500, toRpm: 6000, stepRpm: 50 };

function soundFile(engine: (typeof ENGINES)[number]): string {
  const scenario = ScenarioSchema.parse({
    format: 'evidentia-scenario/1',
    seed: 7,
    title: 'sound',
    engine,
    band: bandOf(engine),
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part' },
    ],
    protocol: { order: ['stock', 'part', 'stock'] },
  });
  return simulateSession(scenario).files.find((file) => file.path.endsWith('p1.csv'))!.text;
}

function mutants(): void {
  const rng = seededRng(5);
  const kinds = Object.keys(MUTATIONS);
  const files = ENGINES.map((engine) => ({ text: soundFile(engine), band: bandOf(engine) }));
  const table = Object.fromEntries(
    kinds.map((kind) => [kind, { mutants: 0, refused: 0, told: 0, 'read otherwise': 0, silent: 0 }]),
  );
  for (let i = 0; i < MUTANTS; i++) {
    const kind = kinds[i % kinds.length];
    const { text, band } = files[Math.floor(i / kinds.length) % files.length];
    const outcome = mutate(text, kind, rng, band.fromRpm, band.toRpm);
    const row = table[kind];
    row.mutants += 1;
    if (outcome.refused) row.refused += 1;
    else if (outcome.said.length > 0) row.told += 1;
    if (outcome.off > MISREAD) row['read otherwise'] += 1;
    if (isSilent(outcome)) row.silent += 1;
  }
  console.table(table);
}

function hostile(): void {
  console.table(
    Object.fromEntries(
      timeHostile().map(({ what, shortMs, longMs }) => [
        what,
        { '9 000': `${shortMs.toFixed(2)} ms`, '90 000': `${longMs.toFixed(2)} ms` },
      ]),
    ),
  );
}

const which = process.argv[2];
if (which === 'hostile') hostile();
else mutants();
