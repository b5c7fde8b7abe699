import type { Engine } from '../../core/base/standards.ts';
import type { TestRow } from '../plan/repository.ts';

/** What a correction must know of the engine of a fitment. */
export const engineOfFitment = (fitment: TestRow['fitment']): Engine => ({
  ignition: fitment.ignition,
  aspiration: fitment.aspiration,
  displacementL: fitment.displacementCc / 1000,
});
