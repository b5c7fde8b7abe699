/**
 * Figures of power and torque inside what people write in their own words (reasons, notes, answers), held against each
 * other and against the curve that was measured. Nothing is changed or refused: what does not agree is told.
 */
import { signed } from '../base/signed.ts';
import { typedNumber } from '../base/typed-number.ts';
import {
  apartFromEachOther,
  half,
  quantityOf,
  RPM,
  TO_SI,
  words,
  type FigureDoubt,
  type FigureOf,
  type FigureUnit,
  type LegacyFigure,
} from './legacy-figures.ts';

/** Limits of the gain at one speed, and what both arms read; power in kW or torque in N·m, at the wheel. */
export interface MeasuredPoint {
  readonly rpm: number;
  readonly lower: number;
  readonly upper: number;
  readonly arm: number;
  readonly against: number;
}
/** What the test read: curves in order of speed, percentages of stock power. */
export interface MeasuredCurves {
  readonly power: readonly MeasuredPoint[];
  readonly torque: readonly MeasuredPoint[];
  readonly percent: readonly Pick<MeasuredPoint, 'rpm' | 'lower' | 'upper'>[];
}

const W_PER_KW = 1000;
const FIGURE =
  /(?<![\w.,])([+\u2212\u2013-]\s?)?(\d{1,4}(?:[.,]\d{1,2})?)\s?(kW|[bw]?hp|PS|N[·.]?\s?m|lb[·.\s-]?ft|ft[·.\s-]?lbs?|%)(?![\w·])(?:\s+(more|less|lost|gained|gain))?(?:[\s,]*(?:at|@)\s*(\d{3,5}|\d{1,2}[ \u00a0\u2009\u202f'’.,]\d{3})(?!\d|\s?(?:m|km|hPa|K|°|%)))?/giu;
const UNIT: readonly (readonly [RegExp, FigureUnit])[] = [
  [/^kw$/i, 'kW'],
  [/^[bw]?hp$/i, 'hp'],
  [/^ps$/i, 'PS'],
  [/^n/i, 'N·m'],
  [/^(lb|ft)/i, 'lb·ft'],
  [/^%$/, '%'],
];
/** What was last named before a figure says whose it is. */
const OF: readonly (readonly [RegExp, FigureOf])[] = [
  [/\b(?:stock|standard|baseline|before|from)\b/giu, 'stock'],
  [/\b(?:part|after|to|now)\b/giu, 'part'],
  [/\b(?:gains?|gained|adds?|added|extra|up by|rose by)\b(?:\s+(?:of|about|some))?\s*$/giu, 'gain'],
];
const LOSS = /\b(?:loses?|lost|loss|drops?|down by|fell by)\b(?:\s+(?:of|about|some))?\s*$/iu;
/** A figure that ends a range says neither a gain nor a curve. */
const IN_RANGE = /\d\s*(?:kW|hp|PS|N·m|%)?\s*(?:[\u2013\u2212-]|\bto)\s*$/iu;
/** Between a power and a torque that share the speed after the second. */
const TOGETHER = /^\s*(?:,|and|with|\/|&|\+)\s*$/iu;

interface Found {
  readonly figure: LegacyFigure;
  readonly from: number;
  readonly to: number;
}

/** The figures of one sentence, whose they are as far as the words before say. */
export function figuresInSentence(sentence: string): LegacyFigure[] {
  const found: Found[] = [];
  for (const match of sentence.matchAll(FIGURE)) {
    const one = figureOf(match, sentence.slice(0, match.index));
    if (one) found.push({ figure: one, from: match.index, to: match.index + match[0].length });
  }
  return found.map(({ figure, to }, i) => {
    const next = found[i + 1];
    const shared =
      figure.rpm === null &&
      next &&
      quantityOf(next.figure.unit) !== quantityOf(figure.unit) &&
      TOGETHER.test(sentence.slice(to, next.from));
    return shared ? { ...figure, rpm: next.figure.rpm } : figure;
  });
}

function figureOf(match: RegExpMatchArray, before: string): LegacyFigure | null {
  const [, sign, digits, unitText, after, speed] = match;
  const unit = UNIT.find(([shape]) => shape.test(unitText))?.[1];
  const value = typedNumber(digits);
  const ends = /\d\s*$/u.test(before) && sign !== undefined;
  if (!unit || value.is !== 'number' || ends || isRange(before)) return null;
  const less = LOSS.test(before) || /^(less|lost)$/iu.test(after ?? '');
  const of = sign || after || less ? 'gain' : whoseBefore(before);
  // A percentage without a sign or a word of gain is of anything: humidity, throttle, scatter.
  if (unit === '%' && of !== 'gain') return null;
  const down = less || (sign !== undefined && !sign.startsWith('+'));
  return {
    of,
    value: down ? -value.value : value.value,
    unit,
    rpm: speedOf(speed),
    within: half(digits),
  };
}
const isRange = (before: string): boolean => IN_RANGE.test(before) && !/\bfrom\b[^.;]*$/iu.test(before);
function speedOf(text: string | undefined): number | null {
  const rpm = text && typedNumber(text.replace(/[.,](?=\d{3}\b)/, ''));
  return rpm && rpm.is === 'number' ? rpm.value : null;
}
function whoseBefore(before: string): FigureOf {
  let of: FigureOf = 'part';
  let at = -1;
  for (const [shape, which] of OF)
    for (const match of before.matchAll(shape)) if (match.index >= at) [of, at] = [which, match.index];
  return of;
}

/** Sentences end at a full stop before a blank, a semicolon or a line's end: no decimal point does. */
const sentencesOf = (text: string): string[] => text.split(/(?<=[^\d\s])\.\s|[;!?\n]|(?<=\d)\.\s(?=\p{Lu})/u);

/** In what the figures of a text contradict each other; with the curves of the test, also in what they leave them. */
export function doubtsInWords(text: string, measured?: MeasuredCurves): FigureDoubt[] {
  return sentencesOf(text).flatMap((sentence) => {
    const figures = figuresInSentence(sentence);
    const speeds = figures.flatMap(noSuchSpeed);
    const doubts =
      speeds.length > 0
        ? speeds
        : [
            ...apartFromEachOther(figures),
            ...(measured ? figures.flatMap((figure) => beside(figure, measured)) : []),
          ];
    return doubts.map((doubt) => ({ ...doubt, message: asWritten(doubt.message, sentence) }));
  });
}
/** Whose a figure is is said only where the sentence says it. */
const asWritten = (message: string, sentence: string): string =>
  sentence.search(OF[1][0]) >= 0 ? message : message.replace(/\bpart (?=\d)/g, '');
const noSuchSpeed = (figure: LegacyFigure): FigureDoubt[] =>
  figure.rpm === null || (figure.rpm >= RPM.from && figure.rpm <= RPM.to)
    ? []
    : [
        {
          code: 'NO_SUCH_SPEED',
          message: `${words(figure)}: that is no speed from ${RPM.from} to ${RPM.to} rpm. Check its digits.`,
        },
      ];

/** What is written, beside the limits of the gain or the two arms there. */
function beside(figure: LegacyFigure, measured: MeasuredCurves): FigureDoubt[] {
  if (figure.unit === '%') return gainBeside(figure, measured.percent, 1);
  const curve = measured[quantityOf(figure.unit)!];
  const perUnit = TO_SI[figure.unit] / (quantityOf(figure.unit) === 'power' ? W_PER_KW : 1);
  return figure.of === 'gain' ? gainBeside(figure, curve, perUnit) : armBeside(figure, curve, perUnit);
}
type Limits = Pick<MeasuredPoint, 'rpm' | 'lower' | 'upper'>;
const nearest = <P extends Limits>(curve: readonly P[], rpm: number): P | undefined => {
  const [from, to] = [curve[0]?.rpm, curve.at(-1)?.rpm];
  if (from === undefined || rpm < from || rpm > to!) return undefined;
  return curve.reduce((a, b) => (Math.abs(b.rpm - rpm) < Math.abs(a.rpm - rpm) ? b : a));
};
const told = (figure: LegacyFigure, rest: string): FigureDoubt[] => [
  { code: 'MEASURED_OTHERWISE', message: `${words(figure)}: ${rest}` },
];

/** What the numbers of the test are, beside which a figure stands. */
const basis = ({ unit }: LegacyFigure): string =>
  unit === '%' ? 'of the baseline’s power' : 'at the wheel and corrected as planned';

function gainBeside(figure: LegacyFigure, curve: readonly Limits[], perUnit: number): FigureDoubt[] {
  if (curve.length === 0) return [];
  const at = figure.rpm === null ? undefined : nearest(curve, figure.rpm);
  if (figure.rpm !== null && !at) return told(figure, 'the pulls of this test do not cover that speed.');
  const lower = at ? at.lower : Math.min(...curve.map((p) => p.lower));
  const upper = at ? at.upper : Math.max(...curve.map((p) => p.upper));
  const [low, high] = [lower / perUnit, upper / perUnit];
  if (figure.value >= low - figure.within && figure.value <= high + figure.within) return [];
  const where = at ? 'there' : 'at any speed';
  return told(
    figure,
    `this test supports ${signed(low, 1)} to ${signed(high, 1)} ${figure.unit} ${where}, ${basis(figure)}.`,
  );
}
/** A figure that is read off a screen is right to a hundredth. Common practice. */
const READ_OFF = 0.01;
function armBeside(figure: LegacyFigure, curve: readonly MeasuredPoint[], perUnit: number): FigureDoubt[] {
  const at = figure.rpm === null ? undefined : nearest(curve, figure.rpm);
  if (!at) return [];
  const [stock, part] = [at.against / perUnit, at.arm / perUnit];
  const near = (is: number): boolean =>
    Math.abs(figure.value - is) <= figure.within + READ_OFF * is + Math.abs(part - stock) / 2;
  if (near((stock + part) / 2)) return [];
  return told(
    figure,
    `this test read ${stock.toFixed(1)} (baseline) and ${part.toFixed(1)} ${figure.unit} there, ${basis(figure)}.`,
  );
}
