import { PullFileError } from './errors.ts';

export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'latin-1';
export interface DecodedText {
  readonly text: string;
  readonly encoding: Encoding;
  readonly byteOrderMark: boolean;
}

/** Files that are not text but often sent by mistake, by their first bytes. */
const KNOWN_BINARIES: readonly (readonly [string, readonly number[], string])[] = [
  [
    'a ZIP archive (a spreadsheet workbook is one)',
    [0x50, 0x4b, 0x03, 0x04],
    'Export the sheet as CSV and send that.',
  ],
  ['a PDF', [0x25, 0x50, 0x44, 0x46], 'Send the data file the report was made from.'],
  ['a PNG picture', [0x89, 0x50, 0x4e, 0x47], 'Send the data file, not a picture of the graph.'],
  ['a JPEG picture', [0xff, 0xd8, 0xff], 'Send the data file, not a picture of the graph.'],
  ['a gzip archive', [0x1f, 0x8b], 'Unpack it first.'],
  ['an old binary spreadsheet', [0xd0, 0xcf, 0x11, 0xe0], 'Export the sheet as CSV and send that.'],
];

/**
 * Text of a file: UTF-8 with or without byte order mark, UTF-16 either way (with or without mark),
 * else Latin-1. Throws `PullFileError` EMPTY_FILE or NOT_TEXT.
 */
export function decodeText(bytes: Uint8Array): DecodedText {
  if (bytes.length === 0)
    throw new PullFileError('EMPTY_FILE', 'The file is empty.', 'Copy it from the logger again.');
  for (const [what, magic, action] of KNOWN_BINARIES) {
    if (magic.every((byte, i) => bytes[i] === byte))
      throw new PullFileError('NOT_TEXT', `The file is ${what}, not delimited text.`, action);
  }
  const decode = (encoding: string, from: number, fatal = false): string =>
    new TextDecoder(encoding, { fatal, ignoreBOM: true }).decode(bytes.subarray(from));
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf)
    return checked({ text: decode('utf-8', 3), encoding: 'utf-8', byteOrderMark: true });
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return checked({ text: decode('utf-16le', 2), encoding: 'utf-16le', byteOrderMark: true });
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return checked({ text: decode('utf-16be', 2), encoding: 'utf-16be', byteOrderMark: true });
  const unmarked = utf16WithoutMark(bytes);
  if (unmarked) return checked({ text: decode(unmarked, 0), encoding: unmarked, byteOrderMark: false });
  try {
    return checked({ text: decode('utf-8', 0, true), encoding: 'utf-8', byteOrderMark: false });
  } catch (error) {
    if (error instanceof PullFileError) throw error;
    return checked({ text: decode('latin1', 0), encoding: 'latin-1', byteOrderMark: false });
  }
}

/** ASCII text in UTF-16 has a zero in every other byte. */
function utf16WithoutMark(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | undefined {
  const n = Math.min(bytes.length & ~1, 2000);
  if (n < 8) return undefined;
  let even = 0,
    odd = 0;
  for (let i = 0; i < n; i += 2) {
    if (bytes[i] === 0) even += 1;
    if (bytes[i + 1] === 0) odd += 1;
  }
  if (odd > (0.4 * n) / 2 && even < (0.05 * n) / 2) return 'utf-16le';
  if (even > (0.4 * n) / 2 && odd < (0.05 * n) / 2) return 'utf-16be';
  return undefined;
}

/** Line ends of any kind as LF: a preamble written by one program above rows written by another has both. */
export const withPlainLineEnds = (text: string): string =>
  text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text;

function checked(decoded: DecodedText): DecodedText {
  const head = decoded.text.slice(0, 4000);
  if (decoded.text.trim() === '')
    throw new PullFileError(
      'EMPTY_FILE',
      'The file holds nothing but blank lines.',
      'Copy it from the logger again.',
    );
  let control = 0;
  for (let i = 0; i < head.length; i++) {
    const code = head.charCodeAt(i);
    if (code < 9 || (code > 13 && code < 32)) control += 1;
  }
  if (control > head.length * 0.01)
    throw new PullFileError(
      'NOT_TEXT',
      'The file is not text: it is full of control characters.',
      'Export the pull as CSV or delimited text.',
    );
  return decoded;
}
