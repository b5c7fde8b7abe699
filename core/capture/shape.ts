/** What a file may be made of, looked at once before anything is made of it: its lines and its cells. */
import { PullFileError } from '../base/errors.ts';
import { MAX_CELLS, MAX_LINE_CHARS, MAX_LINES } from './limits.ts';

const FEED = 10;
const EXPORT = 'Export the one pull with the channels that are needed, as plain delimited text.';

/** Throws `PullFileError` TOO_MANY_LINES or LINE_TOO_LONG. `text` has plain line ends. */
export function refuseLines(text: string): void {
  let line = 1;
  for (let from = 0; from < text.length; line++) {
    const end = text.indexOf('\n', from);
    const length = (end < 0 ? text.length : end) - from;
    if (length > MAX_LINE_CHARS)
      throw new PullFileError(
        'LINE_TOO_LONG',
        `Line ${line} has ${length} characters; a line may have ${MAX_LINE_CHARS}.`,
        EXPORT,
        { line },
      );
    if (line > MAX_LINES)
      throw new PullFileError('TOO_MANY_LINES', `The file has more than ${MAX_LINES} lines.`, EXPORT, {
        line,
      });
    if (end < 0) return;
    from = end + 1;
  }
}

/** Throws `PullFileError` TOO_MANY_CELLS: every delimiter and every line end counts. */
export function refuseCells(text: string, delimiter: string): void {
  // A cell takes a character at least.
  if (text.length < MAX_CELLS) return;
  const mark = delimiter.charCodeAt(0);
  let cells = 1;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === mark || code === FEED) cells += 1;
  }
  if (cells > MAX_CELLS)
    throw new PullFileError(
      'TOO_MANY_CELLS',
      `The file has ${cells} cells; it may have ${MAX_CELLS}.`,
      EXPORT,
    );
}
