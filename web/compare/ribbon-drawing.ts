/** How the gain ribbon is laid out, in large and in small: scales, and the paths of band and line. */
import { extent } from 'd3-array';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';

export interface RibbonPoint {
  readonly rpm: number;
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
}
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

const DIGITS = 1;
export const bandPath = (curve: readonly RibbonPoint[], { x, y }: RibbonScales): string =>
  area<RibbonPoint>()
    .x((p) => x(p.rpm))
    .y0((p) => y(p.lower))
    .y1((p) => y(p.upper))
    .digits(DIGITS)(curve as RibbonPoint[]) ?? '';
export const gainPath = (curve: readonly RibbonPoint[], { x, y }: RibbonScales): string =>
  line<RibbonPoint>()
    .x((p) => x(p.rpm))
    .y((p) => y(p.gain))
    .digits(DIGITS)(curve as RibbonPoint[]) ?? '';
