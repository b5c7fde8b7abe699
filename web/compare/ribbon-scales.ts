/** Scales of the gain ribbon in large. */
import { extent } from 'd3-array';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import type { RibbonPoint } from './ribbon-drawing.ts';

export interface RibbonScales {
  readonly x: ScaleLinear<number, number>;
  readonly y: ScaleLinear<number, number>;
}
/** Edges of the drawing inside its margins, px. */
export interface Frame {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}
/** The band and zero fill the frame with a little room below and above. */
export function ribbonScales(curve: readonly RibbonPoint[], frame: Frame): RibbonScales {
  const [low = 0, high = 0] = extent([0, ...curve.flatMap((p) => [p.lower, p.upper])]);
  const span = high - low;
  return {
    x: scaleLinear([curve[0].rpm, curve.at(-1)!.rpm], [frame.left, frame.right]),
    y: scaleLinear([low - span * 0.1, high + span * 0.06], [frame.bottom, frame.top]),
  };
}
