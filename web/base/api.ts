import { createApi } from '@reduxjs/toolkit/query/react';
import type { DemoPeople, Session } from '../../contract/base/http.ts';
import { refusalOf } from '../../contract/base/refusal.ts';
import { handChecked } from './hand-checked.ts';
import type { ChoiceName, Choices, Chosen } from '../../contract/base/choices.ts';
import { askServer } from './base-query.ts';

/** What is read of the records, by name: all of it is read anew when somebody signs in again. */
export const RECORDS = [
  'Tests',
  'Test',
  'Analysis',
  'Claims',
  'Claim',
  'Catalogue',
  'Register',
  'Coverage',
  'Schedule',
  'Bench',
  'Photo',
] as const;

const isSession = handChecked<Session>({ person: 'maybe', demo: 'boolean' });
const isChosen = handChecked<Chosen>({});

/** One connection to the server; each stage adds its endpoints. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: askServer,
  tagTypes: ['Session', 'Choices', ...RECORDS],
  endpoints: (build) => ({
    session: build.query<Session, void>({
      query: () => '/session',
      responseSchema: isSession,
      providesTags: ['Session'],
    }),
    demoPeople: build.query<DemoPeople, void>({
      query: () => '/demo/people',
    }),
    signIn: build.mutation<Session, { email: string; password: string }>({
      query: (body) => ({ url: '/session', method: 'POST', body }),
      responseSchema: isSession,
    }),
    demoSignIn: build.mutation<Session, { personId: string }>({
      query: (body) => ({ url: '/demo/session', method: 'POST', body }),
      responseSchema: isSession,
    }),
    choices: build.query<Chosen, void>({
      query: () => '/session/choices',
      responseSchema: isChosen,
      providesTags: ['Choices'],
    }),
    choose: build.mutation<Chosen, { [N in ChoiceName]: { name: N; value: Choices[N] } }[ChoiceName]>({
      query: ({ name, value }) => ({ url: `/session/choices/${name}`, method: 'PUT', body: { value } }),
      // The answer is what is chosen now: no second reading is needed.
      onQueryStarted: async (_said, { dispatch, queryFulfilled }) => {
        try {
          const { data } = await queryFulfilled;
          dispatch(api.util.updateQueryData('choices', undefined, () => data));
        } catch {
          // Told where it was chosen.
        }
      },
    }),
    changePassword: build.mutation<void, { present: string; next: string }>({
      query: (body) => ({ url: '/session/password', method: 'PUT', body }),
    }),
    signOut: build.mutation<void, void>({ query: () => ({ url: '/session', method: 'DELETE' }) }),
  }),
});
export const {
  useSessionQuery,
  useDemoPeopleQuery,
  useSignInMutation,
  useDemoSignInMutation,
  useSignOutMutation,
  useChoicesQuery,
  useChooseMutation,
  useChangePasswordMutation,
} = api;

export interface Problem {
  readonly code: string;
  readonly message: string;
  readonly details: Readonly<Record<string, unknown>>;
}

/** What went wrong, as a sentence for a person, from whatever a request was answered with. */
export function problemOf(error: unknown): Problem {
  if (typeof error === 'object' && error !== null) {
    if ('data' in error) {
      const refusal = refusalOf(error.data);
      if (refusal) return { code: refusal.code, message: refusal.message, details: refusal.details ?? {} };
    }
    if ('name' in error && error.name === 'AbortError')
      return {
        code: 'STOPPED',
        message: 'Stopped before it was computed. Try again when it is needed.',
        details: {},
      };
    if ('status' in error && error.status === 'FETCH_ERROR')
      return {
        code: 'NO_CONNECTION',
        message: 'The server cannot be reached. Check that it runs and try again.',
        details: {},
      };
  }
  return { code: 'UNFORESEEN', message: 'Something went wrong; reload the page and try again.', details: {} };
}

/** Why the server would not have it; null where nobody answered, or a session must be begun first: it may be sent again. */
export function refusedWith(error: unknown): string | null {
  const status = (error as { status?: unknown } | undefined)?.status;
  const isAnswered = typeof status === 'number' && status >= 400 && status < 500 && status !== 401;
  return isAnswered ? problemOf(error).message : null;
}
