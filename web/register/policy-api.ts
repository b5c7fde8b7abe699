import type { PolicyRequest } from '../../contract/base/policy.ts';
import { PolicyPreviewSchema, type PolicyPreview } from '../../contract/base/policy-preview.ts';
import { api } from '../base/api.ts';
import { read } from '../base/response.ts';

/** What only the page of the policy asks for. */
export const policyApi = api.injectEndpoints({
  endpoints: (build) => ({
    tryPolicy: build.mutation<{ id: string }, PolicyRequest>({
      query: (body) => ({ url: '/policy-previews', method: 'POST', body }),
    }),
    policyPreview: build.query<PolicyPreview, string>({
      query: (id) => `/policy-previews/${id}`,
      responseSchema: read(PolicyPreviewSchema),
    }),
    cancelPreview: build.mutation<void, string>({
      query: (id) => ({ url: `/policy-previews/${id}/cancel`, method: 'POST' }),
    }),
  }),
});
export const { useTryPolicyMutation, usePolicyPreviewQuery, useCancelPreviewMutation } = policyApi;
