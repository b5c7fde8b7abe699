/** The trend over the setting of a sweep, from the pulls of a test as they were analysed. */
import type { TestDefinition } from '../capture/test-definition.ts';
import type { PullResult } from '../compare/pull-results.ts';
import { settingTrend, type SettingPull, type SettingTrend } from '../compare/setting-trend.ts';
import { runsOf } from '../plan/design.ts';
import type { Repeatability } from '../register/repeatability.ts';

export function trendOf(
  { arms, pulls }: Pick<TestDefinition, 'arms' | 'pulls'>,
  results: readonly PullResult[],
  { mount }: Repeatability,
  error: { readonly alpha: number; readonly driftBound: number },
): SettingTrend | undefined {
  const settings = new Map(arms.flatMap(({ id, setting }) => (setting ? [[id, setting] as const] : [])));
  const averages = new Map(results.map(({ id, averageLp }) => [id, averageLp]));
  const standing = runsOf(pulls.filter(({ excluded }) => !excluded));
  const swept = standing.flatMap((run, number) =>
    run.counted.flatMap(({ id, arm, order, mount: on }): SettingPull[] => {
      const [setting, average] = [settings.get(arm), averages.get(id)];
      return setting && average !== undefined ? [{ setting, average, run: number, mount: on, order }] : [];
    }),
  );
  return swept.length > 0 ? settingTrend(swept, { ...error, mount }) : undefined;
}
