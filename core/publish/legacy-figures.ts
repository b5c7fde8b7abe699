/**
 * Figures of evidence from before: read as a person types what is printed, and held against each other, against the
 * engine's rated output and against what has been measured since. They are never corrected and never claimed.
 */
import { typedNumber } from '../base/typed-number.ts';
import { NM_PER_LBFT, powerW, WATTS_PER_HP, WATTS_PER_PS } from '../base/units.ts';
import { readUnit } from '../capture/unit-spellings.ts';

export const LEGACY_KINDS = ['printed graph', 'number on a page', 'archive file'] as const;
export type LegacyKind = (typeof LEGACY_KINDS)[number];
export const FIGURE_OF = ['stock', 'part', 'gain'] as const;
export type FigureOf = (typeof FIGURE_OF)[number];
/** Units a figure may be printed in. */
export const FIGURE_UNITS = ['kW', 'hp', 'PS', 'N·m', 'lb·ft', '%'] as const;
export type FigureUnit = (typeof FIGURE_UNITS)[number];
export const MOST_FIGURES = 400;

/** One printed figure, in the unit it is printed in. */
export interface LegacyFigure {
  readonly of: FigureOf;
  readonly value: number;
  readonly unit: FigureUnit;
  /** Engine speed it is printed for; null where none is. */ readonly rpm: number | null;
  /** Half of the last printed digit, in `unit`. */ readonly within: number;
}
export interface FiguresRead {
  readonly figures: readonly LegacyFigure[];
  /** Lines that are no figure. `line` counts from 1. */
  readonly wrong: readonly { readonly line: number; readonly why: string }[];
}

const LINE = /^(stock|part|gain)\b[\s:]*([+−–-]?\s?\d[\d.,'’ ]*)\s*(.*?)$/i;
const AT = /^(.*?)\s*(?:\bat\b|@)\s*(\d[\d.,'’ ]*)\s*(?:rpm|1\/min|\/min)?\.?$/i;
const SHAPE = 'Write a line as “stock 131 hp at 5600”, “part 210 N·m at 4000” or “gain 7 hp”.';
/** Engine speeds that a printed graph of a road car can show. */
export const RPM = { from: 300, to: 20_000 } as const;

/** Reads figures, one a line; blank lines say nothing. Errors are told by line, and nothing of such a line is taken. */
export function readFigures(text: string): FiguresRead {
  const figures: LegacyFigure[] = [];
  const wrong: { line: number; why: string }[] = [];
  text.split(/\r?\n|;/).forEach((line, i) => {
    if (line.trim() === '') return;
    const read = readFigure(line.trim());
    if (typeof read === 'string') wrong.push({ line: i + 1, why: read });
    else figures.push(read);
  });
  return { figures, wrong };
}

function readFigure(line: string): LegacyFigure | string {
  const parts = LINE.exec(line);
  if (!parts) return SHAPE;
  const [, of, digits, rest] = parts;
  const at = AT.exec(rest);
  const unit = unitOf(at ? at[1] : rest);
  if (!unit) return `“${(at ? at[1] : rest).trim() || line}” is no unit of power or torque. ${SHAPE}`;
  const value = typedNumber(digits);
  if (value.is !== 'number') return value.is === 'wrong' ? value.why : SHAPE;
  // Engine speeds are whole: a mark before three digits parts thousands.
  const rpm = at ? typedNumber(at[2].replace(/[.,](?=\d{3}\b)/, '')) : null;
  if (rpm && (rpm.is !== 'number' || rpm.value < RPM.from || rpm.value > RPM.to))
    return `“${at![2].trim()}” is no engine speed from ${RPM.from} to ${RPM.to} rpm.`;
  const which = of.toLowerCase() as FigureOf;
  if (unit === '%' && which !== 'gain') return 'Only a gain is told in %.';
  if (which !== 'gain' && value.value <= 0) return 'A power or torque is above zero.';
  return {
    of: which,
    value: value.value,
    unit,
    rpm: rpm?.is === 'number' ? rpm.value : null,
    within: half(digits),
  };
}

function unitOf(text: string): FigureUnit | null {
  const id = readUnit(text.trim())?.unit.id;
  return FIGURE_UNITS.find((unit) => unit === id) ?? null;
}
/** Half of the last digit that is printed: “131” lies within 0.5, “131.4” within 0.05. */
export function half(digits: string): number {
  const decimals = /[.,](\d{1,2}|\d{4,})\s*$/.exec(digits.trim())?.[1].length ?? 0;
  return 0.5 * 10 ** -decimals;
}

export const TO_SI: Readonly<Record<Exclude<FigureUnit, '%'>, number>> = {
  kW: 1000,
  hp: WATTS_PER_HP,
  PS: WATTS_PER_PS,
  'N·m': 1,
  'lb·ft': NM_PER_LBFT,
};
type Quantity = 'power' | 'torque';
export const quantityOf = (unit: FigureUnit): Quantity | null =>
  unit === '%' ? null : unit === 'N·m' || unit === 'lb·ft' ? 'torque' : 'power';
/** Watts or newton metres. */
const si = ({ unit }: LegacyFigure, amount: number): number =>
  unit === '%' ? Number.NaN : amount * TO_SI[unit];

export interface Rated {
  readonly powerKw: number;
  readonly torqueNm: number;
}
/** A gain that was measured here, average over its band, per cent. */
export interface MeasuredGain {
  readonly test: number;
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
}
export type DoubtCode =
  'POWER_IS_NOT_TORQUE' | 'NOT_THE_DIFFERENCE' | 'BEYOND_RATED' | 'MEASURED_OTHERWISE' | 'NO_SUCH_SPEED';
export interface FigureDoubt {
  readonly code: DoubtCode;
  readonly message: string;
}

/** A curve read off a picture is read to about one part in a hundred. Common practice. */
const READ_OFF = 0.01;
/** Losses between crank and wheels run from a tenth to a third; a wheel figure above the rated one is rare. Common practice. */
const OF_RATED = { least: 0.5, most: 1.15 } as const;

/** In what figures contradict each other by themselves: P = T·ω at one speed, and gain against difference. */
export const apartFromEachOther = (figures: readonly LegacyFigure[]): FigureDoubt[] => [
  ...powerAgainstTorque(figures),
  ...gainAgainstDifference(figures),
];

/** Everything in which figures contradict each other or what is known. Empty: nothing was found, not that they are true. */
export function figureDoubts(
  figures: readonly LegacyFigure[],
  rated: Rated,
  measured: readonly MeasuredGain[],
): FigureDoubt[] {
  return [
    ...apartFromEachOther(figures),
    ...figures.flatMap((figure) => beyondRated(figure, rated)),
    ...againstMeasured(figures, measured),
  ];
}

export const words = ({ of, value, unit, rpm }: LegacyFigure): string =>
  `${of} ${of === 'gain' && value > 0 ? '+' : ''}${String(value).replace('-', '−')} ${unit}${rpm === null ? '' : ` at ${rpm} rpm`}`;
const same = (a: number, b: number, within: number): boolean => Math.abs(a - b) <= within;

/** P = T·ω at one engine speed, for each arm. */
function powerAgainstTorque(figures: readonly LegacyFigure[]): FigureDoubt[] {
  const at = figures.filter((f) => f.rpm !== null && f.of !== 'gain');
  return at.flatMap((power) =>
    quantityOf(power.unit) !== 'power'
      ? []
      : at.flatMap((torque) => {
          if (quantityOf(torque.unit) !== 'torque' || torque.of !== power.of || torque.rpm !== power.rpm)
            return [];
          const watts = powerW(si(torque, torque.value), torque.rpm!);
          const within =
            si(power, power.within) + powerW(si(torque, torque.within), torque.rpm!) + READ_OFF * watts;
          if (same(si(power, power.value), watts, within)) return [];
          const should = (watts / TO_SI[power.unit as 'kW']).toFixed(1);
          return [
            {
              code: 'POWER_IS_NOT_TORQUE' as const,
              message:
                `${words(power)} and ${words(torque)} do not belong together: ` +
                `that torque makes ${should} ${power.unit}.${unitHint(power, torque)}`,
            },
          ];
        }),
  );
}
/** Which other unit of either would make them fit: a column under the wrong head. */
function unitHint(power: LegacyFigure, torque: LegacyFigure): string {
  const fits = (p: LegacyFigure, t: LegacyFigure): boolean =>
    Math.abs(si(p, p.value) / powerW(si(t, t.value), t.rpm!) - 1) < 0.012;
  const others = (figure: LegacyFigure): LegacyFigure[] =>
    FIGURE_UNITS.filter((unit) => unit !== figure.unit && quantityOf(unit) === quantityOf(figure.unit)).map(
      (unit) => ({ ...figure, unit }),
    );
  const found = [
    ...others(power).flatMap((p) => (fits(p, torque) ? [`the power in ${p.unit}`] : [])),
    ...others(torque).flatMap((t) => (fits(power, t) ? [`the torque in ${t.unit}`] : [])),
  ];
  return found.length === 0 ? '' : ` It would fit were ${found.join(', or ')}.`;
}

/** A gain that is printed beside both arms is their difference. */
function gainAgainstDifference(figures: readonly LegacyFigure[]): FigureDoubt[] {
  const arm = (of: FigureOf, gain: LegacyFigure, quantity: Quantity): LegacyFigure | undefined =>
    figures.find((f) => f.of === of && quantityOf(f.unit) === quantity && f.rpm === gain.rpm);
  return figures.flatMap((gain) => {
    if (gain.of !== 'gain') return [];
    return (['power', 'torque'] as const).flatMap((quantity) => {
      if (gain.unit !== '%' && quantityOf(gain.unit) !== quantity) return [];
      const [stock, part] = [arm('stock', gain, quantity), arm('part', gain, quantity)];
      if (!stock || !part) return [];
      const [s, p] = [si(stock, stock.value), si(part, part.value)];
      const spread = si(stock, stock.within) + si(part, part.within);
      const [said, is, within] =
        gain.unit === '%'
          ? [gain.value, (100 * (p - s)) / s, gain.within + (100 * spread) / s]
          : [si(gain, gain.value), p - s, si(gain, gain.within) + spread];
      if (same(said, is, within)) return [];
      const shown = gain.unit === '%' ? is : is / TO_SI[gain.unit];
      return [
        {
          code: 'NOT_THE_DIFFERENCE' as const,
          message: `${words(gain)} is not the difference of ${words(stock)} and ${words(part)}, which is ${shown.toFixed(1)} ${gain.unit}.`,
        },
      ];
    });
  });
}

function beyondRated(figure: LegacyFigure, rated: Rated): FigureDoubt[] {
  const quantity = quantityOf(figure.unit);
  if (figure.of !== 'stock' || quantity === null) return [];
  const most = quantity === 'power' ? rated.powerKw * 1000 : rated.torqueNm;
  const share = si(figure, figure.value) / most;
  // A curve has low points; only its top can be too low, and only where no speed says that it is a point of one.
  if (share <= OF_RATED.most && (share >= OF_RATED.least || figure.rpm !== null)) return [];
  return [
    {
      code: 'BEYOND_RATED',
      message: `${words(figure)} is ${(100 * share).toFixed(0)} % of the rated ${quantity} of this fitment.`,
    },
  ];
}

/** The largest gain that is printed, per cent of the stock figure it stands beside. */
function statedPercent(figures: readonly LegacyFigure[]): { figure: LegacyFigure; percent: number } | null {
  const all = figures.flatMap((gain) => {
    if (gain.of !== 'gain') return [];
    if (gain.unit === '%') return [{ figure: gain, percent: gain.value }];
    const stock = figures.find((f) => f.of === 'stock' && quantityOf(f.unit) === quantityOf(gain.unit));
    return stock ? [{ figure: gain, percent: (100 * si(gain, gain.value)) / si(stock, stock.value) }] : [];
  });
  return all.length === 0 ? null : all.reduce((a, b) => (b.percent > a.percent ? b : a));
}
/** Peak gains lie above averages: only one below the lower limit or above twice the upper contradicts. Own choice. */
function againstMeasured(figures: readonly LegacyFigure[], measured: readonly MeasuredGain[]): FigureDoubt[] {
  const stated = statedPercent(figures);
  if (!stated) return [];
  return measured
    .filter(({ lower, upper }) => stated.percent < lower || stated.percent > Math.max(0, 2 * upper))
    .map(({ test, gain, lower, upper }) => ({
      code: 'MEASURED_OTHERWISE' as const,
      message:
        `${words(stated.figure)} is ${stated.percent.toFixed(1)} % of stock; ` +
        `test ${test} measured ${gain.toFixed(1)} % on average over its range ` +
        `(limits ${lower.toFixed(1)} to ${upper.toFixed(1)} %).`,
    }));
}
