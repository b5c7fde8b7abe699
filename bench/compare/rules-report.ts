/** Which cells the study of the interval rules has, and how its tables are written (Markdown, as in docs/rules-study.md). */
import { DESIGN_NAMES, type DesignName } from './designs.ts';
import { HARD_MODELS, NOISE_MODELS, type NoiseModel } from './noise-models.ts';
import type { RuleName, RuleRates, StudyCell, StudyRates } from './rules-study.ts';

export const PULLS = [3, 4, 5] as const;

export const CELLS: readonly StudyCell[] = [
  ...DESIGN_NAMES.flatMap((design) =>
    [false, true].flatMap((remounted) =>
      NOISE_MODELS.flatMap((model) => PULLS.map((n): StudyCell => ({ design, remounted, model, n }))),
    ),
  ),
  // What is known not to hold, or to cost: in the default design alone.
  ...HARD_MODELS.flatMap((model) =>
    PULLS.map((n): StudyCell => ({ design: 'A-B-A', remounted: false, model, n })),
  ),
];
export const keyOf = (c: StudyCell): string =>
  `${c.design} ${c.n} ${c.remounted ? 're-mounted' : 'one mount'} ${c.model.key}`;

/** Three standard errors of a share in per cent: what chance alone explains. */
export const chanceError = (pct: number, tests: number): number => 3 * Math.sqrt((pct * (100 - pct)) / tests);

type Results = ReadonlyMap<string, StudyRates>;

/** The tables of the study, and what of it does not hold. */
export function report(results: Results, tests: number): string {
  const blocks = DESIGN_NAMES.flatMap((design) =>
    [false, true].map((remounted) => block(results, design, remounted, NOISE_MODELS)),
  );
  return [
    ...blocks,
    block(results, 'A-B-A', false, HARD_MODELS, 'hard cases'),
    verdict(results, tests, 'P'),
    verdict(results, tests, 'S strict'),
    verdict(results, tests, 'S usual'),
  ].join('\n\n');
}

function block(
  results: Results,
  design: DesignName,
  remounted: boolean,
  models: readonly NoiseModel[],
  extra?: string,
): string {
  const of = (model: NoiseModel, n: number): StudyRates =>
    results.get(keyOf({ design, n, remounted, model }))!;
  const cell = (model: NoiseModel, rules: readonly RuleName[], key: keyof RuleRates, digits: number) =>
    PULLS.map((n) =>
      rules.map((rule) => of(model, n)[rule][key].toFixed(digits).replace('100.0', '100')).join(' / '),
    ).join(' | ');
  const table = (title: string, rules: readonly RuleName[]): string =>
    [
      `${title}: ${rules.join(' / ')}`,
      '',
      '| noise | covers, %: n = 3 | 4 | 5 | too much, %: n = 3 | 4 | 5 | half-width, lp: n = 3 | 4 | 5 |',
      '|---|---|---|---|---|---|---|---|---|---|',
      ...models.map(
        (m) =>
          `| ${m.name} | ${cell(m, rules, 'covered', 1)} | ${cell(m, rules, 'tooMuch', 1)} | ${cell(m, rules, 'half', 2)} |`,
      ),
    ].join('\n');
  return [
    `### ${design}, ${remounted ? 're-mounted' : 'one mounting'}${extra ? `: ${extra}` : ''}`,
    table('Band and “up to”', ['P', 'O', 'B']),
    table('Band average', ['S strict', 'S usual', 'S old', 'S old history']),
  ].join('\n\n');
}

/** Lowest coverage and most claims of too much of a rule over all cells, and the cells that chance does not excuse. */
export function verdict(results: Results, tests: number, rule: RuleName): string {
  const cells = [...results].map(([key, rates]) => ({ key, ...rates[rule] }));
  const regular = cells.filter(({ key }) => !HARD_MODELS.some((m) => key.endsWith(m.key)));
  const lowest = regular.reduce((a, b) => (b.covered < a.covered ? b : a));
  const most = regular.reduce((a, b) => (b.tooMuch > a.tooMuch ? b : a));
  const missed = cells.filter(
    ({ covered, tooMuch }) =>
      covered < 95 - chanceError(95, tests) || tooMuch > 2.5 + chanceError(2.5, tests),
  );
  return [
    `Rule ${rule}: lowest coverage ${lowest.covered.toFixed(1)} % (${lowest.key}), ` +
      `most claims of too much ${most.tooMuch.toFixed(1)} % (${most.key}).`,
    missed.length === 0
      ? `Every cell holds 95 % and 2.5 % within three standard errors ` +
        `(${chanceError(95, tests).toFixed(1)} and ${chanceError(2.5, tests).toFixed(1)} points).`
      : `Beyond three standard errors (${chanceError(95, tests).toFixed(1)} and ${chanceError(2.5, tests).toFixed(1)} points): ` +
        `${missed.map((c) => `${c.key} (${c.covered.toFixed(1)} %, ${c.tooMuch.toFixed(1)} %)`).join('; ')}.`,
  ].join(' ');
}
