import { nanoid } from '@reduxjs/toolkit';
import { fetchBaseQuery, type BaseQueryFn, type FetchArgs } from '@reduxjs/toolkit/query/react';
import { refusalOf } from '../../contract/base/refusal.ts';
import type { sentInParts } from './send-in-parts.ts';
import { createDeedKeys, deedOf } from './deed-keys.ts';
import { ended } from './session-ended.ts';

const fetched = fetchBaseQuery({ baseUrl: '/api', credentials: 'same-origin' });
/** Asks, and tells the page when the answer is that the session has ended. */
const ask: typeof fetched = async (asked, context, options) => {
  const answer = await fetched(asked, context, options);
  const refusal = answer.error?.status === 401 ? refusalOf(answer.error.data) : undefined;
  if (refusal?.code === 'SIGNED_OUT') context.dispatch(ended());
  return answer;
};
const NO_STORE = { getItem: () => null, setItem: () => undefined };
/** Of the tab; a browser may be told to give none. */
function tabStore(): Pick<Storage, 'getItem' | 'setItem'> {
  try {
    return globalThis.sessionStorage ?? NO_STORE;
  } catch {
    return NO_STORE;
  }
}
/** A large file goes in parts; who sends none does not load how, and without a network it waits like the file itself. */
const largeFile: typeof sentInParts = async (asked, each, context) => {
  if (!(asked.body instanceof File)) return undefined;
  try {
    const { sentInParts: send } = await import('./send-in-parts.ts');
    return await send(asked, each, context);
  } catch (error) {
    return { error: { status: 'FETCH_ERROR', error: String(error) } };
  }
};
const keys = createDeedKeys(tabStore(), () => Date.now(), nanoid);

/** Asks the server; what changes something is sent under a key, so that a second try does not do it twice. */
export const askServer: BaseQueryFn<
  string | FetchArgs,
  unknown,
  Awaited<ReturnType<typeof ask>>['error'] & object
> = async (asked, context, options) => {
  if (typeof asked === 'string' || !asked.method || asked.method === 'GET')
    return ask(asked, context, options);
  const inParts = await largeFile(asked, (part) => ask(part, context, options), context);
  if (inParts) return inParts.error ? { error: inParts.error } : askServer(inParts.rest, context, options);
  const deed = deedOf(asked.method, `${asked.url}?${JSON.stringify(asked.params ?? {})}`, asked.body);
  const headers = { ...(asked.headers as Record<string, string>), 'Idempotency-Key': keys.begin(deed) };
  const answer = await ask({ ...asked, headers }, context, options);
  const { error } = answer;
  // A proxy that gives up, like a connection that breaks, leaves open what became of it.
  keys.end(deed, !error || (typeof error.status === 'number' && error.status < 500));
  return answer;
};
