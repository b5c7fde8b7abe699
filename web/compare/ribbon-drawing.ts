/** How the gain ribbon is drawn, in large and in small: the paths of band and line. */
import { area, line } from 'd3-shape';

export interface RibbonPoint {
  readonly rpm: number;
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
}
/** Where a number lies on the drawing, px. */
export interface Placing {
  readonly x: (rpm: number) => number;
  readonly y: (value: number) => number;
}
/** From one range straight into another. */
export const straight =
  ([a, b]: readonly [number, number], [from, to]: readonly [number, number]) =>
  (value: number): number =>
    from + ((value - a) / (b - a || 1)) * (to - from);

const DIGITS = 1;
export const bandPath = (curve: readonly RibbonPoint[], { x, y }: Placing): string =>
  area<RibbonPoint>()
    .x((p) => x(p.rpm))
    .y0((p) => y(p.lower))
    .y1((p) => y(p.upper))
    .digits(DIGITS)(curve as RibbonPoint[]) ?? '';
export const gainPath = (curve: readonly RibbonPoint[], { x, y }: Placing): string =>
  line<RibbonPoint>()
    .x((p) => x(p.rpm))
    .y((p) => y(p.gain))
    .digits(DIGITS)(curve as RibbonPoint[]) ?? '';
