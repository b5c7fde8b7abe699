/**
 * Days on which everything goes wrong at once: re-mounted at every change of runs with a mounting scatter that is 1.5
 * times the registered one, pulls that scatter 1.5 times as much as the dyno's history, a drift within the bound the
 * rules assume, and an engine that is still adapting when the counted pulls begin. What is asked: how often more is
 * claimed than there is. Half the sessions drift upwards, half downwards.
 */
import { NOISE_MODELS } from './noise-models.ts';
import type { DesignName } from './designs.ts';
import { study, type HardDay, type RuleRates, type StudyRates } from './rules-study.ts';

const NOISIER = NOISE_MODELS.find((model) => model.key === 'car15')!;
const DRIFT = 0.2;
const ADAPTING = { adaptation: -1.5, halfAfter: 1 } as const;
const DESIGNS: readonly DesignName[] = ['A-B', 'A-B-A', 'A-B-B-A', 'A-B-A-B'];
const ASKED = ['P', 'S strict'] as const;

const days = (mount: number): HardDay[] => [-DRIFT, DRIFT].map((drift) => ({ ...ADAPTING, drift, mount }));

/** @param mount the mount's standard deviation over what is registered */
export function hardDay(
  design: DesignName,
  n: number,
  mount: number,
  sessions: number,
  seed: number,
): Pick<StudyRates, (typeof ASKED)[number]> {
  const each = days(mount).map((day, k) =>
    study({ design, n, remounted: true, model: NOISIER, day }, Math.ceil(sessions / 2), seed + k, ASKED),
  );
  const mean = (of: (rates: StudyRates) => number): number =>
    each.reduce((sum, rates) => sum + of(rates), 0) / each.length;
  const ratesOf = (rule: (typeof ASKED)[number]): RuleRates => ({
    covered: mean((r) => r[rule].covered),
    tooMuch: mean((r) => r[rule].tooMuch),
    found: mean((r) => r[rule].found),
    half: mean((r) => r[rule].half),
  });
  return { P: ratesOf('P'), 'S strict': ratesOf('S strict') };
}

export function hardDaysReport(sessions: number, seed = 20267): string {
  const shown = ({ covered, tooMuch, half }: RuleRates): string =>
    `${tooMuch.toFixed(1)} / ${covered.toFixed(1)} / ${half.toFixed(2)}`;
  const rows = DESIGNS.flatMap((design, d) =>
    [3, 4, 5].map((n) => {
      const cells = [1, 1.5].map((mount, k) =>
        hardDay(design, n, mount, sessions, seed + 100 * d + 10 * n + 2 * k),
      );
      return `| ${design}, ${n} a run | ${cells.flatMap((c) => ASKED.map((rule) => shown(c[rule]))).join(' | ')} |`;
    }),
  );
  return [
    '| design | P, mount as registered | S strict | P, mount 1.5 times | S strict |',
    '|---|---|---|---|---|',
    ...rows,
  ].join('\n');
}
