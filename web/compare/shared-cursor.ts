import { createContext, useContext } from 'react';

/** The engine speed that every drawing of a page is read at, and the pull that is picked out of the others. */
export interface Cursor {
  /** Where it is read: by the pointer, else where it was put. */
  readonly rpm: number | null;
  /** Where it was put, by keys or a press; stands in the address. */
  readonly put: number | null;
  readonly picked: string | null;
  readonly onPoint: (rpm: number | null) => void;
  readonly onPut: (rpm: number | null) => void;
  readonly onPick: (pull: string | null) => void;
}

export const SharedCursor = createContext<Cursor | null>(null);
export const useCursor = (): Cursor | null => useContext(SharedCursor);

/** Index of the grid point nearest to an engine speed; null where it lies outside by more than a step. */
export function nearestPoint(rpm: readonly number[], at: number | null): number | null {
  if (at === null || rpm.length < 2) return null;
  const step = rpm[1] - rpm[0];
  const index = Math.round((at - rpm[0]) / step) || 0;
  return index < 0 || index > rpm.length - 1 ? null : index;
}
