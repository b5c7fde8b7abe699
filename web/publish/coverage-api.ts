import {
  CoverageSchema,
  WorthSchema,
  type Coverage,
  type CoverageQuery,
} from '../../contract/publish/coverage.ts';
import { UpgradesSchema, type Upgrades } from '../../contract/publish/upgrades.ts';
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
    upgrades: build.query<Upgrades, string>({
      query: (id) => `/fitments/${id}/upgrades`,
      responseSchema: read(UpgradesSchema),
      providesTags: ['Coverage', 'Tests'],
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
export const { useCoverageInfiniteQuery, useUpgradesQuery, useWorthInfiniteQuery } = coverageApi;
