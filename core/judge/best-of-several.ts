/**
 * Best of several: the setting of a sweep that came out best was picked by its result. Its limits pay for the number of
 * settings, but what was picked and then said has not been looked for: it asks for a test of its own.
 */
import { isRefused } from '../compare/result.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import type { TestResult } from './analyse-test.ts';

/** Settings from which on a sweep picks; of two each is told for itself. */
const SEVERAL = 3;

/**
 * Of how many settings of one product an arm came out best, by its average gain.
 * @returns null where the arm is no setting of a sweep, or another one came out better
 */
export function bestOfSeveral(
  { contrasts }: Pick<TestResult, 'contrasts'>,
  arms: TestDefinition['arms'],
  arm: string,
): number | null {
  const own = arms.find(({ id }) => id === arm);
  if (own?.setting === undefined || own.product === undefined) return null;
  const settings = arms.filter((a) => a.setting !== undefined && a.product === own.product);
  if (settings.length < SEVERAL) return null;
  const gainOf = (id: string): number => {
    const contrast = contrasts.find((c) => c.arm === id);
    return contrast && !isRefused(contrast) ? contrast.relative.bandAverage.gain : -Infinity;
  };
  const best = Math.max(...settings.map(({ id }) => gainOf(id)));
  return Number.isFinite(best) && gainOf(arm) === best ? settings.length : null;
}
