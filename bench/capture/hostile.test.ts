import { expect, it } from 'vitest';
import { HOSTILE } from './hostile.ts';

/** Long enough that a reader that takes the square of it would not come to an end within the time of a test. */
const LONG = 100_000;

it.each(Object.entries(HOSTILE))('%s: comes to an end', (_what, read) => {
  expect(() => read(LONG)).not.toThrow();
});
