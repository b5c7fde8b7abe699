/**
 * Answers that are read before anybody has signed in are checked by hand: the contracts’ own checks weigh more than the
 * pages. Whatever is read in the house is checked by its contract.
 */
import type { StandardSchemaV1 } from '@standard-schema/spec';

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What a field of an answer has to be for a page to be drawn from it. */
export type Shape = 'text' | 'number' | 'boolean' | 'list' | 'record' | 'maybe';
const FITS: Readonly<Record<Shape, (value: unknown) => boolean>> = {
  text: (v) => typeof v === 'string',
  number: (v) => typeof v === 'number',
  boolean: (v) => typeof v === 'boolean',
  list: Array.isArray,
  record: isRecord,
  /** A record, or none. */ maybe: (v) => v === null || isRecord(v),
};
/** The fields an answer lacks, or has as something else. */
export const wrongIn = (answer: unknown, shapes: Readonly<Record<string, Shape>>): string[] =>
  isRecord(answer)
    ? Object.entries(shapes).flatMap(([name, shape]) => (FITS[shape](answer[name]) ? [] : [name]))
    : ['the whole'];

export const handChecked = <T>(shapes: Readonly<Record<string, Shape>>): StandardSchemaV1<T, T> => ({
  '~standard': {
    version: 1,
    vendor: 'evidentia',
    validate: (value) => {
      const wrong = wrongIn(value, shapes);
      return wrong.length === 0
        ? { value: value as T }
        : { issues: wrong.map((name) => ({ message: `${name} is missing or of another kind` })) };
    },
  },
});
