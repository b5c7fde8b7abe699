/** What the maker of a part is told of it: how it fitted, and what its tests showed. Facts in, words out. */
import { grouped } from '../base/grouped.ts';
import { confidencePct, signedGain, signedUpper } from '../base/rounding.ts';
import { contrastsOf } from './claim.ts';
import type { TestResult } from '../judge/analyse-test.ts';

/** What the operator wrote down while the part went on the car. */
export interface FittingFact {
  /** Minutes it took; null where nobody said. */ readonly minutes: number | null;
  readonly difficulty: string | null;
  readonly tools: string;
  readonly broke: string;
  readonly renewed: string;
}
/** Fitting in lines, against the hours the maker gives. */
export function fittingLines(facts: readonly FittingFact[], installHours: number): string[] {
  const timed = facts.flatMap(({ minutes }) => (minutes === null ? [] : [minutes]));
  const told = (words: string, of: (fact: FittingFact) => string | null): string[] => {
    const said = [...new Set(facts.map((f) => of(f) ?? '').filter((text) => text !== ''))];
    return said.length > 0 ? [`${words}: ${said.join('; ')}.`] : [];
  };
  return [
    ...(timed.length > 0
      ? [
          `Fitted in ${timed.map((m) => `${m} min`).join(', ')}; given as ${Math.round(60 * installHours)} min.`,
        ]
      : []),
    ...told('Found', (f) => f.difficulty),
    ...told('Tools that were needed', (f) => f.tools),
    ...told('Broke or had to be replaced', (f) => f.broke),
    ...told('Renewed with it', (f) => f.renewed),
  ];
}

/** The average of an arm in words, with excluded pulls as what says less; and losses by their own sentences. */
export function resultLine(result: TestResult, arm: string): string {
  const contrasts = contrastsOf(result, arm);
  if (contrasts.length === 0) return 'It could not be compared.';
  const least = contrasts.reduce((a, b) =>
    b.relative.bandAverage.lower < a.relative.bandAverage.lower ? b : a,
  );
  const { gain, lower, upper } = least.relative.bandAverage;
  const { curve } = least.relative;
  return (
    `Power at the wheel on average from ${grouped(curve[0].rpm)} to ${grouped(curve.at(-1)!.rpm)} rpm ${signedGain(gain)} % ` +
    `(${signedGain(lower)} to ${signedUpper(upper)} %, ${confidencePct(result.confidence)} % limits), ` +
    `${least.design}, ${least.pulls.arm} and ${least.pulls.against} pulls counted.`
  );
}
