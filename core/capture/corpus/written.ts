/** Tables of numbers written the way loggers and spreadsheets of several countries write them. */
export type Encoding = 'utf-8' | 'utf-8 with mark' | 'utf-16le' | 'utf-16be' | 'latin-1';

export interface Style {
  readonly name: string;
  readonly delimiter: ',' | ';' | '\t' | '|';
  readonly decimal: '.' | ',';
  readonly thousands?: '.' | ',' | ' ' | "'";
  readonly encoding: Encoding;
  readonly lineEnd: '\n' | '\r\n';
  /** Where the unit stands. */
  readonly units: 'round' | 'square' | 'row' | 'comma' | 'blank' | 'underscore' | 'slash';
  readonly quoted?: boolean;
  readonly preamble?: readonly string[];
  readonly trailing?: boolean;
  readonly blankLines?: boolean;
}
export interface Column {
  readonly name: string;
  readonly unit: string;
  readonly digits: number;
  /** Numbers in the unit of the column, or texts as they stand. */
  readonly values: readonly (number | string)[];
}

const number = (value: number, digits: number, { decimal, thousands }: Style): string => {
  const [whole, rest] = Math.abs(value).toFixed(digits).split('.');
  const grouped = thousands ? whole.replace(/\B(?=(\d{3})+$)/g, thousands) : whole;
  return `${value < 0 ? '-' : ''}${grouped}${rest ? decimal + rest : ''}`;
};
const heading = ({ name, unit }: Column, units: Style['units']): string => {
  if (unit === '') return name;
  const forms: Record<Style['units'], string> = {
    round: `${name} (${unit})`,
    square: `${name} [${unit}]`,
    row: name,
    comma: `${name}, ${unit}`,
    blank: `${name} ${unit}`,
    underscore: `${name}_${unit}`,
    slash: `${name} / ${unit}`,
  };
  return forms[units];
};

/** The text of a table in a style. */
export function tableText(columns: readonly Column[], style: Style): string {
  const quote = (cell: string): string => (style.quoted ? `"${cell}"` : cell);
  const row = (cells: readonly string[]): string =>
    cells.map(quote).join(style.delimiter) + (style.trailing ? style.delimiter : '');
  const body = Array.from({ length: columns[0].values.length }, (_, i) =>
    row(
      columns.map(({ values, digits }) => {
        const value = values[i];
        return typeof value === 'number' ? number(value, digits, style) : value;
      }),
    ),
  );
  const lines = [
    ...(style.preamble ?? []),
    row(columns.map((c) => heading(c, style.units))),
    ...(style.units === 'row' ? [row(columns.map((c) => c.unit))] : []),
    ...body,
  ];
  return lines.join(style.blankLines ? style.lineEnd + style.lineEnd : style.lineEnd) + style.lineEnd;
}

/** Bytes of a text; throws where Latin-1 has no such letter, so that no case tests something else than it says. */
export function encoded(text: string, encoding: Encoding): Uint8Array {
  if (encoding === 'utf-8') return new TextEncoder().encode(text);
  if (encoding === 'utf-8 with mark') return new TextEncoder().encode('\ufeff' + text);
  if (encoding === 'latin-1')
    return Uint8Array.from(text, (c) => {
      if (c.charCodeAt(0) > 255) throw new Error(`“${c}” is not in Latin-1`);
      return c.charCodeAt(0);
    });
  const bytes = new Uint8Array(2 * text.length + 2);
  const view = new DataView(bytes.buffer);
  [...('\ufeff' + text)].forEach((c, i) => view.setUint16(2 * i, c.charCodeAt(0), encoding === 'utf-16le'));
  return bytes;
}
