import type { ReadingOptions } from './reading-options.ts';

/** Moves when the same bytes are read to other numbers; what was derived by an older one is derived anew. */
export const READING_VERSION = 3;

/** By what a file was read: the version, and what the register told the reader. */
export const readingKey = ({ fuel, rollerRadiusM, rpmPerKmh }: ReadingOptions): string =>
  `${READING_VERSION} fuel=${fuel ?? ''} radius=${rollerRadiusM ?? ''} gearing=${rpmPerKmh ?? ''}`;
