/** What has been marked in a picture of a graph so far, and what comes next. */
import type { FigureOf, FigureUnit } from '../../core/publish/legacy-figures.ts';
import {
  figureLine,
  scaleOf,
  type AxisMark,
  type GraphScale,
  type Place,
} from '../../core/publish/read-off.ts';
import type { NumberTyped } from '../base/number-input.tsx';

/** The four marks, in the order they are asked for. */
export const MARKS = ['speed, low', 'speed, high', 'reading, low', 'reading, high'] as const;
export type MarkName = (typeof MARKS)[number];
export interface Mark {
  readonly place: Place | null;
  readonly value: NumberTyped;
}
export interface Point extends Place {
  readonly of: FigureOf;
}
export interface Marked {
  readonly marks: Readonly<Record<MarkName, Mark>>;
  readonly unit: FigureUnit;
  readonly of: FigureOf;
  readonly points: readonly Point[];
  /** What the next click sets. */ readonly next: MarkName | 'point';
}
const none: Mark = { place: null, value: null };
export const NOTHING_MARKED: Marked = {
  marks: { 'speed, low': none, 'speed, high': none, 'reading, low': none, 'reading, high': none },
  unit: 'hp',
  of: 'stock',
  points: [],
  next: 'speed, low',
};
/** Whether nothing has been clicked or typed that would be missed. */
export const isUnmarked = ({ marks, points }: Marked): boolean =>
  points.length === 0 && MARKS.every((name) => marks[name].place === null && marks[name].value === null);

/** A click: sets what is next, and goes on to the mark that is still missing, else to points. */
export function placed(state: Marked, place: Place): Marked {
  if (state.next === 'point') return { ...state, points: [...state.points, { ...place, of: state.of }] };
  const marks = { ...state.marks, [state.next]: { ...state.marks[state.next], place } };
  return { ...state, marks, next: MARKS.find((name) => marks[name].place === null) ?? 'point' };
}
export const valued = (state: Marked, name: MarkName, value: NumberTyped): Marked => ({
  ...state,
  marks: { ...state.marks, [name]: { ...state.marks[name], value } },
});

const whole = ({ place, value }: Mark): AxisMark | null =>
  place && typeof value === 'number' ? { ...place, value } : null;

/** The scale that the marks make; what is wrong with them; or null while one is missing. */
export function scaleIn({ marks }: Marked): GraphScale | string | null {
  const [a, b, c, d] = MARKS.map((name) => whole(marks[name]));
  return a && b && c && d ? scaleOf({ speed: [a, b], reading: [c, d] }) : null;
}
/** A per-cent axis shows gains, whatever curve was chosen before. */
export const curveOf = (unit: FigureUnit, of: FigureOf): FigureOf => (unit === '%' ? 'gain' : of);
/** The points as lines of figures, in the order they were clicked. */
export const linesIn = ({ points, unit }: Marked, { at, pixel }: GraphScale): string[] =>
  points.map((point) => figureLine(curveOf(unit, point.of), unit, at(point), pixel));
