/** The first rows of a file and what its columns look like, for a person who is asked which is which. */
import type { Quantity } from '../base/quantities.ts';
import { decodeText, withPlainLineEnds, type Encoding } from '../base/text.ts';
import { readHeader } from './columns.ts';
import { findLayout, isBlank, parseRows } from './pull-layout.ts';

/** How much of a file is looked at: enough for a long preamble, nothing to wait for. */
export const PREVIEW_BYTES = 256 * 1024;
const ROWS = 3;

export interface PreviewColumn {
  readonly header: string;
  /** What it looks like by itself; the server may still ask where two look alike. */
  readonly quantity: Quantity | null;
  readonly unit: string | null;
  /** The first cells under it. */
  readonly cells: readonly string[];
}
export interface ColumnPreview {
  readonly encoding: Encoding;
  readonly delimiter: string;
  readonly headerLine: number;
  readonly columns: readonly PreviewColumn[];
}

/**
 * A preview of the beginning of a file.
 *
 * @param bytes the first `PREVIEW_BYTES` of it, or all of it
 * Throws `PullFileError` where there is no table of numbers.
 */
export function previewColumns(bytes: Uint8Array): ColumnPreview {
  const { text, encoding } = decodeText(bytes.subarray(0, PREVIEW_BYTES));
  const plain = withPlainLineEnds(text);
  const layout = findLayout(plain);
  const end = plain.lastIndexOf('\n');
  const rows = parseRows(end > 0 ? plain.slice(0, end) : plain, layout.delimiter);
  const first = rows
    .slice(layout.dataRow)
    .filter((row) => !isBlank(row))
    .slice(0, ROWS);
  return {
    encoding,
    delimiter: layout.delimiter,
    headerLine: layout.headerRow + 1,
    columns: layout.header.flatMap((cell, i) => {
      const { header, quantity, unit } = readHeader(cell, layout.units[i] ?? '');
      return header === ''
        ? []
        : [
            {
              header,
              quantity: quantity ?? null,
              unit: unit?.id ?? null,
              cells: first.map((row) => (row[i] ?? '').trim()),
            },
          ];
    }),
  };
}
