import {
  CoverageSchema,
  WorthSchema,
  type Coverage,
  type CoverageQuery,
} from '../../contract/publish/coverage.ts';
import type { z } from 'zod';
import { pageParams, paging } from '../base/paging.tsx';
import { read } from '../base/response.ts';
import { planApi } from '../plan/api.ts';

export type CoverageFind = Omit<CoverageQuery, 'after' | 'limit'>;
export const coverageApi = planApi.injectEndpoints({
  endpoints: (build) => ({
    coverage: build.infiniteQuery<Coverage, CoverageFind, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/coverage', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(CoverageSchema),
      providesTags: ['Coverage'],
    }),
    worth: build.infiniteQuery<z.infer<typeof WorthSchema>, CoverageFind, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({
        url: '/coverage/next',
        params: pageParams(queryArg, pageParam),
      }),
      responseSchema: read(WorthSchema),
      providesTags: ['Coverage'],
    }),
  }),
});
export const { useCoverageInfiniteQuery, useWorthInfiniteQuery } = coverageApi;
