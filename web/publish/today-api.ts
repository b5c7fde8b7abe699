import type { z } from 'zod';
import { TodaySchema, type Today, type TodayQuery } from '../../contract/publish/today.ts';
import { api } from '../base/api.ts';
import { read } from '../base/response.ts';

/** What only the page of the day asks for. */
export const todayApi = api.injectEndpoints({
  endpoints: (build) => ({
    today: build.query<Today, z.input<typeof TodayQuery>>({
      query: (params) => ({ url: '/today', params }),
      responseSchema: read(TodaySchema),
      providesTags: ['Test', 'Analysis', 'Claim', 'Register'],
    }),
  }),
});
export const { useTodayQuery } = todayApi;
