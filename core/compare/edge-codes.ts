import type { Rows } from './common-grid.ts';
import type { Residuals } from './contrast.ts';

/** Why no interval can be given. */
export type NoInterval = 'ERROR_NO_DATA' | 'NOT_ENOUGH_PULLS' | 'DUPLICATE_PULLS';

/** Fewest degrees of freedom that tell scatter from gain. */
export const LEAST_FREEDOM = 2;

/** The first reason against an interval, in the order in which they are looked for; none where there is none. */
export function noInterval(arm: readonly (0 | 1)[], residuals: () => Residuals): NoInterval | undefined {
  if (!arm.includes(0) || !arm.includes(1)) return 'ERROR_NO_DATA';
  const { rows, nu } = residuals();
  if (nu < LEAST_FREEDOM) return 'NOT_ENOUGH_PULLS';
  return hasScatter(rows) ? undefined : 'DUPLICATE_PULLS';
}

export const hasScatter = (residuals: Rows): boolean => residuals.some((row) => row.some((v) => v !== 0));
