import { z } from 'zod';
import { api } from './api.ts';
import { AnalysisStateSchema, type AnalysisState } from '../../contract/judge/analysis.ts';
import type { AirRequest, PullFound } from '../../contract/capture/capture.ts';
import {
  CatalogueEntrySchema,
  CatalogueFitmentSchema,
  ClaimDetailSchema,
  ClaimSchema,
  EvidenceSchema,
  type CatalogueFitment,
  type Claim,
  type ClaimDetail,
  type DraftClaimRequest,
  type Evidence,
} from '../../contract/publish/claim.ts';
import {
  TestDetailSchema,
  TestSummarySchema,
  type TestDetail,
  type TestSummary,
} from '../../contract/overview.ts';
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
  endpoints: (build) => ({
    tests: build.query<TestSummary[], void>({
      query: () => '/tests',
      responseSchema: z.array(TestSummarySchema),
      providesTags: ['Tests'],
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
    attachFile: build.mutation<PullFound, OfPull & { file: File; columns?: object }>({
      query: ({ testId, pullId, file, columns }) => ({
        url: `/tests/${testId}/pulls/${pullId}/file`,
        method: 'POST',
        body: file,
        headers: { 'content-type': 'application/octet-stream' },
        params: { name: file.name, ...(columns ? { columns: JSON.stringify(columns) } : {}) },
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
    claims: build.query<Claim[], void>({
      query: () => '/claims',
      responseSchema: z.array(ClaimSchema),
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
    answerChange: build.mutation<void, { id: string; changeId: number; reason: string }>({
      query: ({ id, ...body }) => ({ url: `/claims/${id}/answers`, method: 'POST', body }),
      invalidatesTags: [...touches],
    }),
    moveClaim: build.mutation<
      void,
      { id: string; step: 'submit' | 'approve' | 'return' | 'withdraw'; reason?: string }
    >({
      query: ({ id, step, reason }) => ({
        url: `/claims/${id}/${step}`,
        method: 'POST',
        ...(reason ? { body: { reason } } : {}),
      }),
      invalidatesTags: [...touches],
    }),
    catalogue: build.query<z.infer<typeof CatalogueEntrySchema>[], void>({
      query: () => '/catalogue',
      responseSchema: z.array(CatalogueEntrySchema),
      providesTags: ['Catalogue'],
    }),
    catalogueFitment: build.query<CatalogueFitment, string>({
      query: (slug) => `/catalogue/${slug}`,
      responseSchema: CatalogueFitmentSchema,
      providesTags: ['Catalogue'],
    }),
    evidence: build.query<Evidence, string>({
      query: (code) => `/evidence/${code}`,
      responseSchema: EvidenceSchema,
      providesTags: ['Catalogue'],
    }),
  }),
});
export const {
  useTestsQuery,
  useTestQuery,
  useAnalysisQuery,
  useAttachFileMutation,
  useRereadFileMutation,
  useSetAirMutation,
  useExcludePullMutation,
  useRestorePullMutation,
  useClaimsQuery,
  useClaimQuery,
  useDraftClaimMutation,
  useAnswerChangeMutation,
  useMoveClaimMutation,
  useCatalogueQuery,
  useCatalogueFitmentQuery,
  useEvidenceQuery,
} = testsApi;
