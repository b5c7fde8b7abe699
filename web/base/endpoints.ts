import { OtherBaselinesSchema, type OtherBaselines } from '../../contract/compare/baselines.ts';
import { InWindowSchema, type InWindowShown } from '../../contract/compare/in-window.ts';
import { UnderWaySchema, type UnderWay } from '../../contract/base/under-way.ts';
import { api } from './api.ts';
import { AnalysisStateSchema, type AnalysisState } from '../../contract/judge/analysis.ts';
import { PhotosSchema, type Photos } from '../../contract/capture/photograph.ts';
import { PullLogSchema, type PullLogShown } from '../../contract/capture/pull-log.ts';
import type { AnswerRequest } from '../../contract/judge/answer.ts';
import { ChannelsSchema, type TestChannels } from '../../contract/capture/channels.ts';
import type { AirFileSaid, AirFileShown } from '../../contract/capture/air-file.ts';
import { ByStandardSchema, type ByStandard } from '../../contract/correct/by-standard.ts';
import {
  LongLogSchema,
  PlacedSchema,
  type LongLog,
  type Placed,
  type PlacePieces,
} from '../../contract/capture/long-log.ts';
import type { AirRequest, PullFound } from '../../contract/capture/capture.ts';
import {
  ClaimDetailSchema,
  ClaimPageSchema,
  type Claim,
  type ClaimDetail,
  type ClaimPage,
  type ClaimsQuery,
  type DraftClaimRequest,
} from '../../contract/publish/claim.ts';
import {
  TestDetailSchema,
  FoundSchema,
  TestPageSchema,
  type TestDetail,
  type Found,
  type TestPage,
  type TestsQuery,
} from '../../contract/overview.ts';
import { ShelfSchema, type Shelf } from '../../contract/publish/shelf.ts';
import { TrailPageSchema, type TrailPage, type TrailQuery } from '../../contract/publish/trail.ts';
import { pageParams, paging } from './paging.tsx';
import { read } from './response.ts';

interface OfPull {
  testId: string;
  pullId: string;
}
/** After a change to a test everything that stands on it is read again. */
const touches = [
  'Tests',
  'Test',
  'Analysis',
  'Claims',
  'Claim',
  'Catalogue',
  'Coverage',
  'Schedule',
] as const;

export const testsApi = api.injectEndpoints({
  // eslint-disable-next-line max-lines-per-function -- a table of endpoints, a few lines each
  endpoints: (build) => ({
    tests: build.infiniteQuery<TestPage, Omit<TestsQuery, 'after' | 'limit'>, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/tests', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(TestPageSchema),
      providesTags: ['Tests'],
    }),
    shelf: build.query<Shelf, void>({
      query: () => '/shelf',
      responseSchema: ShelfSchema,
      providesTags: ['Claims'],
    }),
    takeOver: build.mutation<void, number>({
      query: (eventId) => ({ url: `/shelf/${eventId}/taken-over`, method: 'POST' }),
      invalidatesTags: ['Claims'],
    }),
    find: build.query<Found, string>({
      query: (q) => ({ url: '/find', params: { q } }),
      responseSchema: FoundSchema,
      providesTags: ['Tests', 'Claims', 'Register'],
    }),
    test: build.query<TestDetail, string>({
      query: (id) => `/tests/${id}`,
      responseSchema: read(TestDetailSchema),
      providesTags: ['Test'],
    }),
    analysis: build.query<AnalysisState, string>({
      query: (id) => `/tests/${id}/analysis`,
      responseSchema: AnalysisStateSchema,
      providesTags: ['Analysis'],
    }),
    underWay: build.query<UnderWay, string>({
      query: (path) => ({ url: '/under-way', params: { path } }),
      responseSchema: read(UnderWaySchema),
      keepUnusedDataFor: 0,
    }),
    attachFile: build.mutation<PullFound, OfPull & { file: File; columns?: object; sha256?: string }>({
      query: ({ testId, pullId, file, columns, sha256 }) => ({
        url: `/tests/${testId}/pulls/${pullId}/file`,
        method: 'POST',
        body: file,
        headers: { 'content-type': 'application/octet-stream' },
        params: {
          name: file.name,
          ...(columns ? { columns: JSON.stringify(columns) } : {}),
          ...(sha256 ? { sha256 } : {}),
        },
      }),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    rereadFile: build.mutation<PullFound, OfPull & { columns: object }>({
      query: ({ testId, pullId, columns }) => ({
        url: `/tests/${testId}/pulls/${pullId}/columns`,
        method: 'PUT',
        body: columns,
      }),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    inWindow: build.query<InWindowShown, { testId: string; fromRpm: number; toRpm: number }>({
      query: ({ testId, ...params }) => ({ url: `/tests/${testId}/window`, params }),
      responseSchema: read(InWindowSchema),
      providesTags: ['Test'],
    }),
    otherBaselines: build.query<OtherBaselines, string>({
      query: (id) => `/tests/${id}/baselines`,
      responseSchema: read(OtherBaselinesSchema),
      providesTags: ['Test', 'Analysis'],
    }),
    byStandard: build.query<ByStandard, string>({
      query: (id) => `/tests/${id}/standards`,
      responseSchema: read(ByStandardSchema),
      providesTags: ['Analysis'],
    }),
    channels: build.query<TestChannels, string>({
      query: (id) => `/tests/${id}/channels`,
      responseSchema: read(ChannelsSchema),
      providesTags: ['Test'],
    }),
    sendAirFile: build.mutation<AirFileShown, { testId: string; file: File; said: AirFileSaid }>({
      query: ({ testId, file, said }) => ({
        url: `/tests/${testId}/air-files`,
        method: 'POST',
        body: file,
        headers: { 'content-type': 'application/octet-stream' },
        params: { name: file.name, ...said },
      }),
    }),
    takeAir: build.mutation<void, { testId: string; fileId: string; pullIds: readonly string[] }>({
      query: ({ testId, fileId, pullIds }) => ({
        url: `/tests/${testId}/air-files/${fileId}/air`,
        method: 'POST',
        body: { pullIds },
      }),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    sendLongLog: build.mutation<LongLog, { testId: string; file: File }>({
      query: ({ testId, file }) => ({
        url: `/tests/${testId}/long-logs`,
        method: 'POST',
        body: file,
        headers: { 'content-type': 'application/octet-stream' },
        params: { name: file.name },
      }),
      responseSchema: read(LongLogSchema),
    }),
    placePieces: build.mutation<Placed, { testId: string; logId: string } & PlacePieces>({
      query: ({ testId, logId, ...body }) => ({
        url: `/tests/${testId}/long-logs/${logId}/places`,
        method: 'POST',
        body,
      }),
      responseSchema: read(PlacedSchema),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    setAir: build.mutation<void, OfPull & { air: AirRequest }>({
      query: ({ testId, pullId, air }) => ({
        url: `/tests/${testId}/pulls/${pullId}/air`,
        method: 'PUT',
        body: air,
      }),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    excludePull: build.mutation<void, OfPull & { reason: string; note: string }>({
      query: ({ testId, pullId, ...body }) => ({
        url: `/tests/${testId}/pulls/${pullId}/exclusion`,
        method: 'POST',
        body,
      }),
      invalidatesTags: [...touches],
    }),
    restorePull: build.mutation<void, OfPull>({
      query: ({ testId, pullId }) => ({
        url: `/tests/${testId}/pulls/${pullId}/exclusion`,
        method: 'DELETE',
      }),
      invalidatesTags: [...touches],
    }),
    photographs: build.query<Photos, string>({
      query: (testId) => `/tests/${testId}/photographs`,
      responseSchema: read(PhotosSchema),
      providesTags: ['Photo'],
    }),
    addPhotograph: build.mutation<void, { testId: string; file: File; caption: string; arm: string }>({
      query: ({ testId, file, caption, arm }) => ({
        url: `/tests/${testId}/photographs`,
        params: { name: file.name, caption, ...(arm ? { arm } : {}) },
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
      invalidatesTags: (_r, error) => (error ? [] : ['Photo']),
    }),
    pullLog: build.query<PullLogShown, OfPull>({
      query: ({ testId, pullId }) => `/tests/${testId}/pulls/${pullId}/log`,
      responseSchema: read(PullLogSchema),
      providesTags: ['Test'],
    }),
    joinLog: build.mutation<PullLogShown, OfPull & { file: File }>({
      query: ({ testId, pullId, file }) => ({
        url: `/tests/${testId}/pulls/${pullId}/log?name=${encodeURIComponent(file.name)}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    shiftLog: build.mutation<void, OfPull & { offsetS: number }>({
      query: ({ testId, pullId, offsetS }) => ({
        url: `/tests/${testId}/pulls/${pullId}/log`,
        method: 'PUT',
        body: { offsetS },
      }),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    takeLogOff: build.mutation<void, OfPull>({
      query: ({ testId, pullId }) => ({ url: `/tests/${testId}/pulls/${pullId}/log`, method: 'DELETE' }),
      invalidatesTags: (_r, error) => (error ? [] : [...touches]),
    }),
    answerFinding: build.mutation<void, { testId: string } & AnswerRequest>({
      query: ({ testId, ...body }) => ({ url: `/tests/${testId}/answers`, method: 'POST', body }),
      invalidatesTags: [...touches],
    }),
    claims: build.infiniteQuery<ClaimPage, Omit<ClaimsQuery, 'after' | 'limit'>, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/claims', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(ClaimPageSchema),
      providesTags: ['Claims'],
    }),
    trail: build.infiniteQuery<TrailPage, Omit<TrailQuery, 'after' | 'limit'>, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/audit', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(TrailPageSchema),
      // Everything done anywhere adds to it: read when it is looked at.
      keepUnusedDataFor: 0,
    }),
    claimsOfTest: build.query<ClaimPage, string>({
      query: (testId) => ({ url: '/claims', params: { testId, limit: 200 } }),
      responseSchema: read(ClaimPageSchema),
      providesTags: ['Claims'],
    }),
    claim: build.query<ClaimDetail, string>({
      query: (id) => `/claims/${id}`,
      responseSchema: ClaimDetailSchema,
      providesTags: ['Claim'],
    }),
    draftClaim: build.mutation<Claim, DraftClaimRequest & { testId: string }>({
      query: ({ testId, ...body }) => ({ url: `/tests/${testId}/claims`, method: 'POST', body }),
      invalidatesTags: [...touches],
    }),
    answerChange: build.mutation<void, { id: string; changeId: number; reason: string; evidence?: string }>({
      query: ({ id, ...body }) => ({ url: `/claims/${id}/answers`, method: 'POST', body }),
      invalidatesTags: [...touches],
    }),
    moveClaim: build.mutation<
      void,
      { id: string; step: 'submit' | 'approve' | 'return' | 'withdraw'; reason?: string; wrong?: boolean }
    >({
      query: ({ id, step, ...said }) => ({
        url: `/claims/${id}/${step}`,
        method: 'POST',
        ...(said.reason ? { body: said } : {}),
      }),
      invalidatesTags: [...touches],
    }),
  }),
});
export const {
  useTestsInfiniteQuery,
  useFindQuery,
  useShelfQuery,
  useTakeOverMutation,
  useTestQuery,
  useAnalysisQuery,
  useUnderWayQuery,
  useAttachFileMutation,
  useRereadFileMutation,
  useByStandardQuery,
  useInWindowQuery,
  useOtherBaselinesQuery,
  useAnswerFindingMutation,
  useAddPhotographMutation,
  usePhotographsQuery,
  useJoinLogMutation,
  usePullLogQuery,
  useShiftLogMutation,
  useTakeLogOffMutation,
  useChannelsQuery,
  useSendAirFileMutation,
  useSendLongLogMutation,
  usePlacePiecesMutation,
  useSetAirMutation,
  useTakeAirMutation,
  useExcludePullMutation,
  useRestorePullMutation,
  useClaimsInfiniteQuery,
  useTrailInfiniteQuery,
  useClaimsOfTestQuery,
  useClaimQuery,
  useDraftClaimMutation,
  useAnswerChangeMutation,
  useMoveClaimMutation,
} = testsApi;
