import {
  CoverageSchema,
  WorthSchema,
  type Coverage,
  type CoverageQuery,
} from '../../contract/publish/coverage.ts';
import type { z } from 'zod';
import { read } from '../base/response.ts';
import { planApi } from '../plan/api.ts';

export type CoverageFind = Omit<CoverageQuery, 'after' | 'limit'>;
const paging = {
  initialPageParam: '',
  getNextPageParam: (last: { next: string | null }) => last.next ?? undefined,
};
const params = (find: object, after: string): Record<string, string> =>
  Object.fromEntries(
    Object.entries({ ...find, after }).filter((entry): entry is [string, string] => Boolean(entry[1])),
  );

export const coverageApi = planApi.injectEndpoints({
  endpoints: (build) => ({
    coverage: build.infiniteQuery<Coverage, CoverageFind, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/coverage', params: params(queryArg, pageParam) }),
      responseSchema: read(CoverageSchema),
      providesTags: ['Coverage'],
    }),
    worth: build.infiniteQuery<z.infer<typeof WorthSchema>, CoverageFind, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/coverage/next', params: params(queryArg, pageParam) }),
      responseSchema: read(WorthSchema),
      providesTags: ['Coverage'],
    }),
  }),
});
export const { useCoverageInfiniteQuery, useWorthInfiniteQuery } = coverageApi;
