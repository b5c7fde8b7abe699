import type { RefusedContrast } from '../../core/compare/contrast-analysis.ts';
import type { TestResult } from '../../core/judge/analyse-test.ts';

export type ShownContrast = Exclude<TestResult['contrasts'][number], RefusedContrast>;
export const isRefusedResult = (contrast: TestResult['contrasts'][number]): contrast is RefusedContrast => 'code' in contrast;
