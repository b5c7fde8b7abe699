import { createApi } from '@reduxjs/toolkit/query/react';
import { DemoPeopleSchema, RefusalSchema, SessionSchema, type Session } from '../../contract/base/http.ts';
import { ChosenSchema, type ChoiceName, type Choices, type Chosen } from '../../contract/base/choices.ts';
import type { z } from 'zod';
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
] as const;

/** One connection to the server; each stage adds its endpoints. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: askServer,
  tagTypes: ['Session', 'Choices', ...RECORDS],
  endpoints: (build) => ({
    session: build.query<Session, void>({
      query: () => '/session',
      responseSchema: SessionSchema,
      providesTags: ['Session'],
    }),
    demoPeople: build.query<z.infer<typeof DemoPeopleSchema>, void>({
      query: () => '/demo/people',
      responseSchema: DemoPeopleSchema,
    }),
    signIn: build.mutation<Session, { email: string; password: string }>({
      query: (body) => ({ url: '/session', method: 'POST', body }),
      responseSchema: SessionSchema,
    }),
    demoSignIn: build.mutation<Session, { personId: string }>({
      query: (body) => ({ url: '/demo/session', method: 'POST', body }),
      responseSchema: SessionSchema,
    }),
    choices: build.query<Chosen, void>({
      query: () => '/session/choices',
      responseSchema: ChosenSchema,
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
      const refusal = RefusalSchema.safeParse(error.data);
      if (refusal.success)
        return {
          code: refusal.data.error.code,
          message: refusal.data.error.message,
          details: refusal.data.error.details ?? {},
        };
    }
    if ('status' in error && error.status === 'FETCH_ERROR')
      return {
        code: 'NO_CONNECTION',
        message: 'The server cannot be reached. Check that it runs and try again.',
        details: {},
      };
  }
  return { code: 'UNFORESEEN', message: 'Something went wrong; reload the page and try again.', details: {} };
}
