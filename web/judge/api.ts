import { BesideSchema, type Beside } from '../../contract/judge/beside.ts';
import { api } from '../base/api.ts';
import { read } from '../base/response.ts';

/** What only the page of the gates asks for. */
export const judgeApi = api.injectEndpoints({
  endpoints: (build) => ({
    beside: build.query<Beside, { testId: string; arm: string }>({
      query: ({ testId, ...params }) => ({ url: `/tests/${testId}/beside`, params }),
      responseSchema: read(BesideSchema),
      providesTags: ['Test', 'Analysis', 'Register'],
    }),
  }),
});
export const { useBesideQuery } = judgeApi;
