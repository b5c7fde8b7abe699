import { dayTime } from '../base/shown-dates.ts';

/** Details of an entry of the trail as people read them: one line a fact, changes as from and to. */
export interface Fact {
  readonly what: string;
  readonly value: string;
  /** The value in full, where it is shown shortened. */ readonly whole?: string | undefined;
}
const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
/** `driftBound` as “drift bound”. */
const spaced = (key: string): string =>
  key.replace(/([a-z0-9])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);

function plain(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return String(value).replace('-', '−');
  if (typeof value === 'string') return INSTANT.test(value) ? dayTime(value) : value;
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map(plain).join(', ');
  return Object.entries(value)
    .map(([key, each]) => `${spaced(key)} ${plain(each)}`)
    .join('; ');
}
const INSTANT = /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?Z$/;
const HASH = /^[0-9a-f]{64}$/;
const LONG = 160;
/** Hashes and long texts by their beginning. */
function shortened(what: string, value: string): Fact {
  if (HASH.test(value)) return { what, value: `${value.slice(0, 12)}…`, whole: value };
  return value.length > LONG ? { what, value: `${value.slice(0, LONG)}…`, whole: value } : { what, value };
}
interface Change {
  readonly from: unknown;
  readonly to: unknown;
  readonly field?: unknown;
  readonly what?: unknown;
}
const isChange = (value: unknown): value is Change => isRecord(value) && 'from' in value && 'to' in value;
const change = ({ from, to }: Change): string => `${plain(from)} → ${plain(to)}`;

export const factsOf = (detail: Readonly<Record<string, unknown>>): Fact[] =>
  pairsOf(detail).map(({ what, value }) => shortened(what, value));

function pairsOf(detail: Readonly<Record<string, unknown>>): Fact[] {
  return Object.entries(detail).flatMap(([key, value]) => {
    if (key === 'changes' && isRecord(value))
      return Object.entries(value).map(([field, each]) => ({
        what: spaced(field),
        value: isChange(each) ? change(each) : plain(each),
      }));
    if (key === 'changes' && Array.isArray(value))
      return value.map((each: unknown) =>
        isChange(each)
          ? { what: plain(each.field ?? each.what), value: change(each) }
          : { what: 'changed', value: plain(each) },
      );
    return [{ what: spaced(key), value: isChange(value) ? change(value) : plain(value) }];
  });
}
