import { WordingSchema, type WordingQuery, type WordingShown } from '../../contract/publish/claim.ts';
import { api } from '../base/api.ts';
import { read } from '../base/response.ts';

/** What only the page that drafts a claim asks for. */
export const draftApi = api.injectEndpoints({
  endpoints: (build) => ({
    wording: build.query<WordingShown, WordingQuery & { testId: string }>({
      query: ({ testId, ...params }) => ({ url: `/tests/${testId}/wording`, params }),
      responseSchema: read(WordingSchema),
      providesTags: ['Test', 'Analysis', 'Claim'],
    }),
  }),
});
export const { useWordingQuery } = draftApi;
