/** Largest pull file accepted, bytes. */
export const MAX_PULL_FILE_BYTES = 50 * 1024 * 1024;
/** Fewest samples with engine speed and torque or power. */
export const MIN_SAMPLES = 20;
/** Most lines of a pull file: a quarter of an hour at a thousand samples a second is below it. */
export const MAX_LINES = 1_000_000;
/** Most cells of a pull file: what a minute at a thousand samples a second in fifty channels has. */
export const MAX_CELLS = 3_000_000;
/** Longest line, characters. */
export const MAX_LINE_CHARS = 100_000;
/** What of the name of a column is looked at, characters. */
export const MAX_HEADER_CHARS = 200;
/** What of a line above the table is looked at, characters. */
export const MAX_PREAMBLE_CHARS = 400;
/** No number is written longer, characters; nor a time stamp. */
export const MAX_NUMBER_CHARS = 64;
/** No engine of a road vehicle turns faster, rpm. */
export const MAX_RPM = 30_000;
