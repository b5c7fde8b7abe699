/** What a refusal is, told apart by hand: everybody needs it, and the contracts’ own checks are heavy for a telephone. */
import type { Refusal } from './http.ts';

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The refusal in an answer; undefined where it is none. Says the same as `RefusalSchema`. */
export function refusalOf(answer: unknown): Refusal['error'] | undefined {
  if (!isRecord(answer) || !isRecord(answer.error)) return undefined;
  const { code, message, details } = answer.error;
  if (typeof code !== 'string' || typeof message !== 'string') return undefined;
  if (details !== undefined && !isRecord(details)) return undefined;
  return { code, message, ...(details ? { details } : {}) };
}
