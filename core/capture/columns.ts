/** What a column holds, told from its name and unit. */
import { UNITS, type Dimension, type Unit } from '../base/units.ts';
import { mayBeReading, meaningOf } from './header-words.ts';
import { MAX_HEADER_CHARS } from './limits.ts';
import { DIMENSION_OF, type Quantity } from '../base/quantities.ts';
import { readUnit, type WrittenUnit } from './unit-spellings.ts';

/** Units that a name brings with it. */
const UNIT_IN_NAME: readonly (readonly [RegExp, string])[] = [
  [/^krpm$/, 'krpm'],
  [/\brpm\b|^revs?$/, 'rpm'],
  [/^(afr|a\/f|air ?(\/ ?)?fuel)/, 'AFR'],
  [/^(lambda|λ)/, 'λ'],
  [/\b(whp|bhp|hp)\b/, 'hp'],
  [/\bkw\b/, 'kW'],
  [/\bps\b/, 'PS'],
];

/** How a column was told: by its name, by that of a thing that stands in for it, by a unit nothing else has. */
export const TOLD_BY = ['name', 'stand-in', 'unit'] as const;
type By = (typeof TOLD_BY)[number];
export interface ColumnGuess {
  readonly header: string;
  readonly name: string;
  readonly quantity?: Quantity;
  readonly by?: By;
  readonly unit?: Unit;
  readonly gauge?: boolean;
  readonly unitText?: string;
  /** A unit that the name cannot have: the name is believed, the unit is not. */ readonly stray?: Unit;
}

// Header cells are scanned from their ends: a pattern with two hungry parts would take the square of their length.
/** A header without the marks around it, and no longer than a name can be. */
function cleaned(header: string): string {
  const around = '#" \t\r\n\u00a0\u202f';
  let [from, to] = [0, header.length];
  while (from < to && around.includes(header[from])) from += 1;
  while (to > from && around.slice(1).includes(header[to - 1])) to -= 1;
  return header.slice(from, Math.min(to, from + MAX_HEADER_CHARS)).trim();
}
const OPEN = '[({',
  CLOSE = '])}';
/** "Torque [N·m]": the name, and what stands in the last brackets at its end. */
function inBrackets(clean: string): { name: string; inside: string } | undefined {
  if (!CLOSE.includes(clean.at(-1) ?? ' ')) return undefined;
  let from = clean.length - 2;
  while (from >= 0 && !CLOSE.includes(clean[from]) && !OPEN.includes(clean[from])) from -= 1;
  if (from < 0 || !OPEN.includes(clean[from])) return undefined;
  // "Power ((kW": the outermost of brackets that follow each other opens.
  while (from > 0 && OPEN.includes(clean[from - 1])) from -= 1;
  let to = from;
  while (to > 0 && ' \t_'.includes(clean[to - 1])) to -= 1;
  return {
    name: clean.slice(0, to),
    inside: clean
      .slice(from + 1, -1)
      .replace(/[[({]/g, '')
      .trim(),
  };
}
const BETWEEN = ' \t_,/:-';
/** Units that only one quantity of a pull has: they say what a column of an unknown name holds. */
const DECIDES: Partial<Record<Dimension, Quantity>> = {
  rotation: 'engineSpeed',
  torque: 'torque',
  power: 'power',
  force: 'rollerForce',
  lambda: 'lambda',
};
const has = (quantity: Quantity, unit: Unit): boolean =>
  DIMENSION_OF[quantity].includes(unit.dimension) || (quantity === 'humidity' && unit.id === '%');

interface Meaning {
  readonly quantity: Quantity;
  readonly by: By;
}
/** What a name with its unit holds; a unit that fits one of several meanings decides between them. */
function meaning(name: string, unit: Unit | undefined): Meaning | undefined {
  const known = meaningOf(name);
  const fitting = unit && known?.quantities.find((quantity) => has(quantity, unit));
  const by = known?.standsIn ? 'stand-in' : 'name';
  if (fitting) return { quantity: fitting, by };
  if (known?.sure) return { quantity: known.quantities[0], by };
  const decided = unit && DECIDES[unit.dimension];
  return decided && mayBeReading(name, unit.dimension === 'rotation' ? 'rotation' : 'other')
    ? { quantity: decided, by: 'unit' }
    : undefined;
}

/** "Torque Nm", "power_kW", "speed km/h": a unit behind a name that makes sense with it, from the longest such unit on. */
function lastWord(clean: string): { name: string; word: string; unit: WrittenUnit } | undefined {
  for (let from = 1; from < clean.length; from++) {
    if (!BETWEEN.includes(clean[from - 1]) || BETWEEN.includes(clean[from])) continue;
    const word = clean.slice(from);
    if (/[\s_,]/.test(word)) continue;
    const unit = readUnit(word);
    if (!unit) continue;
    let to = from;
    while (to > 0 && BETWEEN.includes(clean[to - 1])) to -= 1;
    const name = clean.slice(0, to);
    const found = to > 0 ? meaning(name, unit.unit) : undefined;
    // A single letter behind a name nobody knows is more likely a part of the name than a unit.
    if (found && (found.by !== 'unit' || word.length > 1)) return { name, word, unit };
  }
  return undefined;
}

/** What a header cell (and the unit below it, if any) says. */
export function readHeader(header: string, unitBelow = ''): ColumnGuess {
  const clean = cleaned(header);
  const bracket = inBrackets(clean);
  let nameText = bracket ? bracket.name : clean;
  let unitText = unitBelow.trim().slice(0, MAX_HEADER_CHARS) || (bracket ? bracket.inside : '');
  let written = unitText ? readUnit(unitText) : undefined;
  if (!bracket && !unitBelow.trim()) {
    // "Torque Nm", "Power_kW", "Engine speed, rpm": the last word may be the unit.
    const tail = lastWord(clean);
    if (tail) {
      nameText = tail.name;
      unitText = tail.word;
      written = tail.unit;
    }
  }
  const name = normalised(nameText);
  if (!written) {
    const implied = UNIT_IN_NAME.find(([pattern]) => pattern.test(name));
    if (implied) written = { unit: UNITS[implied[1]] };
    // "N·m", "U/min", "tr/min": the unit is the name.
    else written = unitAlone(clean);
  }
  const found =
    meaning(nameText, written?.unit) ?? meaning(clean, written?.unit) ?? unitAsName(clean, written);
  // A unit of another dimension belongs to a name that was read wrongly; the name stands, the unit is asked for.
  const fits = written && (!found || has(found.quantity, written.unit));
  const gauge =
    written?.gauge ?? (found?.quantity === 'manifoldPressure' && /^boost/.test(name) ? true : undefined);
  return {
    header: clean,
    name,
    ...found,
    ...(written && fits ? { unit: written.unit } : {}),
    ...(written && !fits ? { stray: written.unit } : {}),
    ...(gauge === undefined ? {} : { gauge }),
    ...(unitText ? { unitText } : {}),
  };
}
/** A column headed by nothing but a unit that only one quantity has. */
const unitAlone = (clean: string): WrittenUnit | undefined => {
  const written = clean.length > 1 ? readUnit(clean) : undefined;
  return written && ofUnit(written.unit) ? written : undefined;
};
const ofUnit = ({ dimension }: Unit): Quantity | undefined =>
  dimension === 'speed' ? 'vehicleSpeed' : DECIDES[dimension];
function unitAsName(clean: string, written: WrittenUnit | undefined): Meaning | undefined {
  const quantity = written && unitAlone(clean)?.unit === written.unit ? ofUnit(written.unit) : undefined;
  return quantity ? { quantity, by: 'unit' } : undefined;
}

const normalised = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[_\-.:]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
