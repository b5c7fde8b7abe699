import type { Refusal } from '../../contract/base/http.ts';
import { EvidentiaError, type Where } from '../../core/base/errors.ts';

/** An answer that is no success: HTTP status and the parts a person and a program need. */
export class RefusalError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly action?: string,
    readonly where?: Where,
    readonly details?: Readonly<Record<string, unknown>>,
  ) {
    super(action ? `${message} ${action}` : message);
  }
}

export const notFound = (what: string): RefusalError =>
  new RefusalError(
    404,
    'NOT_FOUND',
    `There is no such ${what}.`,
    'It may have been removed, or the address is mistyped.',
  );
export const conflict = (
  code: string,
  message: string,
  action: string,
  details?: Record<string, unknown>,
): RefusalError => new RefusalError(409, code, message, action, undefined, details);
export const forbidden = (message: string): RefusalError =>
  new RefusalError(403, 'FORBIDDEN', message, 'Ask a person whose role allows it.');

/** The body of a refusal, from whatever was thrown; undefined for what nobody foresaw. */
export function refusalOf(error: unknown): { status: number; body: Refusal } | undefined {
  if (error instanceof RefusalError)
    return {
      status: error.status,
      body: bodyOf(error.code, error.message, error.action, error.where, error.details),
    };
  if (error instanceof EvidentiaError)
    return {
      status: error.code === 'FILE_TOO_LARGE' ? 413 : 422,
      body: bodyOf(String(error.code), error.message, error.action, error.where, error.details),
    };
  return undefined;
}

const bodyOf = (
  code: string,
  message: string,
  action?: string,
  where?: Where,
  details?: Readonly<Record<string, unknown>>,
): Refusal => ({
  error: {
    code,
    message,
    ...(action ? { action } : {}),
    ...(where ? { where } : {}),
    ...(details ? { details: { ...details } } : {}),
  },
});
