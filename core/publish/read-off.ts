/**
 * Points read off a picture of a graph: two marks on each axis, whose values are printed there, say where any other
 * place of the picture lies. A scan that is turned, stretched or slanted is read as it lies; one that is bent is not.
 */
import type { FigureOf, FigureUnit } from './legacy-figures.ts';

/** A place in the picture, pixels from its upper left corner. */
export interface Place {
  readonly x: number;
  readonly y: number;
}
/** A mark on an axis and the value printed at it: rpm, or what the other axis shows. */
export interface AxisMark extends Place {
  readonly value: number;
}
export interface GraphAxes {
  readonly speed: readonly [AxisMark, AxisMark];
  readonly reading: readonly [AxisMark, AxisMark];
}
export interface ReadOff {
  readonly rpm: number;
  readonly value: number;
}
export interface GraphScale {
  readonly at: (place: Place) => ReadOff;
  /** What one pixel is worth, rpm and units of the other axis. */
  readonly pixel: ReadOff;
}

/** Marks of one axis nearer than this, pixels, read worse than a graph is worth. Own choice. */
const LEAST_APART = 20;
/** Sine of the least angle between the axes; printed graphs have them square. Own choice. */
const LEAST_ANGLE = 0.5;

interface Step {
  readonly dx: number;
  readonly dy: number;
}
const apart = (a: Place, b: Place): number => Math.hypot(b.x - a.x, b.y - a.y);
/** Pixels that one unit of an axis goes. */
const stepOf = ([a, b]: readonly [AxisMark, AxisMark]): Step => ({
  dx: (b.x - a.x) / (b.value - a.value),
  dy: (b.y - a.y) / (b.value - a.value),
});
const cross = (a: Step, b: Step): number => a.dx * b.dy - a.dy * b.dx;

/** The scale of a graph, or in words why its marks make none. */
export function scaleOf({ speed, reading }: GraphAxes): GraphScale | string {
  for (const [name, [a, b]] of [
    ['engine speed', speed],
    ['other', reading],
  ] as const) {
    if (a.value === b.value) return `Both marks of the ${name} axis have the same value.`;
    if (apart(a, b) < LEAST_APART)
      return `The marks of the ${name} axis lie nearer than ${LEAST_APART} pixels: set them farther apart.`;
  }
  const [along, up] = [stepOf(speed), stepOf(reading)];
  const area = cross(along, up);
  const sine = Math.abs(area) / (Math.hypot(along.dx, along.dy) * Math.hypot(up.dx, up.dy));
  if (sine < LEAST_ANGLE) return 'The four marks lie along one line: two belong to each axis.';
  const parts = (from: Place, to: Place): ReadOff => {
    const way = { dx: to.x - from.x, dy: to.y - from.y };
    return { rpm: cross(way, up) / area, value: cross(along, way) / area };
  };
  // Where the first mark of the speed axis lies on the other axis.
  const base = reading[0].value - parts(speed[0], reading[0]).value;
  return {
    at: (place: Place) => {
      const { rpm, value } = parts(speed[0], place);
      return { rpm: speed[0].value + rpm, value: base + value };
    },
    pixel: { rpm: 1 / Math.hypot(along.dx, along.dy), value: 1 / Math.hypot(up.dx, up.dy) },
  };
}

const MOST_DECIMALS = 2;

/**
 * A point as a line of figures: the value with as many digits as a pixel can tell, the speed in tens where a pixel is
 * worth more than one.
 */
export function figureLine(of: FigureOf, unit: FigureUnit, read: ReadOff, pixel: ReadOff): string {
  const decimals = Math.min(MOST_DECIMALS, Math.max(0, Math.floor(-Math.log10(2 * pixel.value))));
  const step = pixel.rpm > 1 ? 10 : 1;
  const sign = of === 'gain' && read.value > 0 ? '+' : '';
  return `${of} ${sign}${read.value.toFixed(decimals)} ${unit} at ${Math.round(read.rpm / step) * step}`;
}
