import { medianOf, resolutionOf } from '../../base/robust.ts';

/** How a channel is written, worked out once for all that asks. */
export interface Written {
  /** Its median. */ readonly middle: number;
  /** Its smallest step; infinity where it does not change. */ readonly fine: number;
}
export function writtenAs(values: Float64Array): Written {
  const sorted = Float64Array.from(values).sort();
  return { middle: medianOf(sorted), fine: resolutionOf(sorted) };
}
