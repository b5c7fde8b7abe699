import { TogetherSchema, type TogetherShown } from '../../contract/compare/together.ts';
import { GainsByUseSchema, type GainsByUse } from '../../contract/register/use-profiles.ts';
import { api } from '../base/api.ts';
import { read } from '../base/response.ts';

/** What only the page of a comparison asks for: the public pages do not carry it. */
export const compareApi = api.injectEndpoints({
  endpoints: (build) => ({
    together: build.query<TogetherShown, { testId: string; arm: string }>({
      query: ({ testId, ...params }) => ({ url: `/tests/${testId}/together`, params }),
      responseSchema: read(TogetherSchema),
      providesTags: ['Test', 'Analysis'],
    }),
    gainsByUse: build.query<GainsByUse, string>({
      query: (id) => `/tests/${id}/uses`,
      responseSchema: read(GainsByUseSchema),
      providesTags: ['Test', 'Analysis', 'Register'],
    }),
  }),
});
export const { useTogetherQuery, useGainsByUseQuery } = compareApi;
