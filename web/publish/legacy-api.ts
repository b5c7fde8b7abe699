import {
  LegacyPageSchema,
  type LegacyPage,
  type LegacyQuery,
  type LegacyRequest,
} from '../../contract/publish/legacy.ts';
import { api } from '../base/api.ts';
import { pageParams, paging } from '../base/paging.tsx';
import { read } from '../base/response.ts';

/** Evidence from before, as the register of it reads and writes it. */
const legacyApi = api.injectEndpoints({
  endpoints: (build) => ({
    legacy: build.infiniteQuery<LegacyPage, Omit<LegacyQuery, 'after' | 'limit'>, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/legacy', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(LegacyPageSchema),
      providesTags: ['Coverage'],
    }),
    addLegacy: build.mutation<{ id: string }, LegacyRequest>({
      query: (body) => ({ url: '/legacy', method: 'POST', body }),
      invalidatesTags: ['Coverage'],
    }),
    attachLegacy: build.mutation<void, { id: string; file: File }>({
      query: ({ id, file }) => ({
        url: `/legacy/${id}/file`,
        params: { name: file.name },
        method: 'PUT',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
      invalidatesTags: ['Coverage'],
    }),
    strikeLegacy: build.mutation<void, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ url: `/legacy/${id}/strike`, method: 'POST', body: { reason } }),
      invalidatesTags: ['Coverage'],
    }),
  }),
});
export const {
  useLegacyInfiniteQuery,
  useAddLegacyMutation,
  useAttachLegacyMutation,
  useStrikeLegacyMutation,
} = legacyApi;
