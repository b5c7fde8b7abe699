/**
 * Words of every check that has none of its own: what was found and what is wanted, never the library's. Loaded with
 * the contracts, so that forms and the server say the same.
 */
import { z } from 'zod';
import { typedNumber } from '../../core/base/typed-number.ts';

type Issue = Parameters<NonNullable<NonNullable<Parameters<typeof z.config>[0]>['customError']>>[0];

const isMissing = (input: unknown): boolean =>
  input === undefined || input === null || input === '' || Number.isNaN(input);
const quoted = (input: unknown): string =>
  typeof input === 'string'
    ? `“${input.length > 40 ? `${input.slice(0, 40)}…` : input}”`
    : typeof input === 'number' || typeof input === 'boolean'
      ? `“${String(input).replace('-', '−')}”`
      : 'this';

/** A thing that is not of the kind wanted. */
const KINDS: Readonly<Record<string, string>> = {
  number: 'a number',
  int: 'a whole number',
  string: 'a text',
  boolean: 'yes or no',
  array: 'a list',
  object: 'a record',
  date: 'a date',
};
function ofAnotherKind({ input, expected }: Issue & { expected?: unknown }): string {
  if (isMissing(input)) return 'This is needed.';
  if ((expected === 'number' || expected === 'int') && typeof input === 'string') {
    const read = typedNumber(input);
    if (read.is === 'wrong') return read.why;
  }
  return `${quoted(input)} is not ${KINDS[String(expected)] ?? 'what belongs here'}.`;
}

/** What there must be at least or at most, by what it is counted in. */
function tooMuchOrLittle(
  issue: Issue & { origin?: string; minimum?: unknown; maximum?: unknown; inclusive?: boolean },
) {
  const { input, origin, minimum, maximum, inclusive } = issue;
  const most = maximum !== undefined;
  const limit = String(most ? maximum : minimum).replace('-', '−');
  if (origin === 'string') {
    if (!most && (isMissing(input) || limit === '1')) return 'This is needed.';
    return most ? `Write ${limit} characters at the most.` : `Write ${limit} characters or more.`;
  }
  if (origin === 'array' || origin === 'set')
    return most ? `Choose ${limit} at the most.` : limit === '1' ? 'Choose one.' : `Choose ${limit} or more.`;
  const wanted =
    inclusive === false
      ? most
        ? `less than ${limit}`
        : `more than ${limit}`
      : most
        ? `${limit} at the most`
        : `${limit} or more`;
  return `${quoted(input)} does not fit: ${wanted}.`;
}

const FORMATS: Readonly<Record<string, string>> = {
  email: 'Write the whole address, as name@house.example.',
  uuid: 'Choose one from the list.',
  datetime: 'Write date and time.',
  date: 'Write the date, as 24 Nov 2026.',
  url: 'Write the whole address, with https://.',
};

function words(issue: Issue): string | undefined {
  const { code, input } = issue;
  switch (code) {
    case 'invalid_type':
      return ofAnotherKind(issue);
    case 'too_small':
    case 'too_big':
      return tooMuchOrLittle(issue);
    case 'not_multiple_of':
      return `${quoted(input)} does not fit: a multiple of ${String((issue as { divisor?: unknown }).divisor)}.`;
    case 'invalid_format':
      return (
        FORMATS[String((issue as { format?: unknown }).format)] ??
        (isMissing(input) ? 'This is needed.' : `${quoted(input)} is not written as it should be.`)
      );
    case 'invalid_value':
      return isMissing(input) ? 'Choose one.' : `${quoted(input)} is none of the choices.`;
    case 'unrecognized_keys':
      return `Nothing is known by the name of ${((issue as { keys?: string[] }).keys ?? []).join(', ')}.`;
    case 'invalid_union':
    case 'invalid_key':
    case 'invalid_element':
      return isMissing(input) ? 'This is needed.' : `${quoted(input)} does not belong here.`;
    default:
      return undefined;
  }
}

z.config({ customError: words });
