/**
 * Reads a pull file: delimited text, one row a sample, as data loggers and spreadsheets write it.
 * Finds out encoding, delimiter, decimal mark, header, units and columns by itself and says what it
 * found; a caller may set any of the columns instead. Throws `PullFileError`; never returns half a file.
 */
import { PullFileError } from '../base/errors.ts';
import { MAX_PULL_FILE_BYTES } from './limits.ts';
import { decodeText, withPlainLineEnds } from '../base/text.ts';
import { lineStart, plainTable } from './plain-table.ts';
import { findLayout, lineEndOf, parseRows } from './pull-layout.ts';
import type { PullFile, PullFileOptions } from './pull-file-types.ts';
import { resolveColumns } from './pull-columns.ts';
import { readSamples } from './pull-samples.ts';
import { refuseCells, refuseLines } from './shape.ts';

export function readPullFile(bytes: Uint8Array, options: PullFileOptions = {}): PullFile {
  return readBy(bytes, options, 'as it is');
}
/** The same without the short way that most files allow: what that way is held against. */
export const readCellByCell = (bytes: Uint8Array, options: PullFileOptions = {}): PullFile =>
  readBy(bytes, options, 'cell by cell');

function readBy(bytes: Uint8Array, options: PullFileOptions, way: Way): PullFile {
  try {
    return read(bytes, options, way);
  } catch (error) {
    if (error instanceof PullFileError && options.file) throw error.at({ file: options.file });
    throw error;
  }
}

type Way = 'as it is' | 'cell by cell';
function read(bytes: Uint8Array, options: PullFileOptions, way: Way): PullFile {
  const limit = options.maxBytes ?? MAX_PULL_FILE_BYTES;
  if (bytes.length > limit) {
    throw new PullFileError(
      'FILE_TOO_LARGE',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; a pull file may have ${Math.floor(limit / 1048576)} MB.`,
      'Export the one pull, not the whole session.',
    );
  }
  const decoded = decodeText(bytes);
  const { encoding } = decoded;
  const text = withPlainLineEnds(decoded.text);
  refuseLines(text);
  const layout = findLayout(text);
  refuseCells(text, layout.delimiter);
  const lineEnd = lineEndOf(decoded.text);
  const plain = way === 'as it is' ? plainTable(text, layout) : undefined;
  // Of a plain table the first row alone is looked at as it is written.
  const written = plain ? text.slice(0, lineStart(text, layout.dataRow + 1)) : text;
  const rows = parseRows(written, layout.delimiter);
  const columns = resolveColumns(layout, rows, options, plain);
  return { ...readSamples(text, encoding, layout, rows, columns, options, plain), lineEnd };
}
