import { problemOf } from '../base/api.ts';
import type { AmendRequest, PlanRequest } from '../../contract/plan/test.ts';
import {
  ScheduleSchema,
  SuggestionSchema,
  type PlaceRequest,
  type ScheduleShown,
  type Suggestion,
  FreeSchema,
} from '../../contract/plan/schedule.ts';
import type { z } from 'zod';
import { read } from '../base/response.ts';
import { registerApi } from '../register/api.ts';

const planned = {
  invalidatesTags: (_r: unknown, error: unknown) =>
    // Refused because somebody else was first: what they wrote is read at once, to be told.
    error && problemOf(error).code !== 'PLAN_CHANGED'
      ? []
      : (['Tests', 'Test', 'Analysis', 'Claims', 'Claim', 'Catalogue', 'Coverage', 'Schedule'] as const),
};
const placed = {
  invalidatesTags: (_r: unknown, error: unknown) => (error ? [] : (['Schedule', 'Test'] as const)),
};

export const planApi = registerApi.injectEndpoints({
  endpoints: (build) => ({
    createTest: build.mutation<{ id: string; ids: string[] }, PlanRequest>({
      query: (body) => ({ url: '/tests', method: 'POST', body }),
      ...planned,
    }),
    replacePlan: build.mutation<void, { id: string; plan: PlanRequest; basedOn: string }>({
      query: ({ id, plan, basedOn }) => ({
        url: `/tests/${id}/plan`,
        method: 'PUT',
        body: { ...plan, basedOn },
      }),
      ...planned,
    }),
    assignTest: build.mutation<void, { id: string; partnerId: string | null }>({
      query: ({ id, partnerId }) => ({ url: `/tests/${id}/partner`, method: 'PUT', body: { partnerId } }),
      ...planned,
    }),
    lockPlan: build.mutation<void, { id: string; basedOn: string }>({
      query: ({ id, basedOn }) => ({ url: `/tests/${id}/lock`, method: 'POST', body: { basedOn } }),
      ...planned,
    }),
    amendPlan: build.mutation<void, { id: string; request: AmendRequest }>({
      query: ({ id, request }) => ({ url: `/tests/${id}/amendments`, method: 'POST', body: request }),
      ...planned,
    }),
    schedule: build.query<ScheduleShown, { from: string; days: number }>({
      query: (params) => ({ url: '/schedule', params }),
      responseSchema: read(ScheduleSchema),
      providesTags: ['Schedule'],
    }),
    suggest: build.mutation<Suggestion, { from: string; days: number }>({
      query: (body) => ({ url: '/schedule/suggestion', method: 'POST', body }),
      responseSchema: read(SuggestionSchema),
    }),
    free: build.query<z.infer<typeof FreeSchema>, { testId: string; from: string }>({
      query: ({ testId, from }) => ({ url: `/schedule/free/${testId}`, params: { from } }),
      responseSchema: FreeSchema,
      providesTags: ['Schedule'],
    }),
    place: build.mutation<void, PlaceRequest[]>({
      query: (placements) => ({ url: '/schedule/bookings', method: 'POST', body: { placements } }),
      ...placed,
    }),
    unplace: build.mutation<void, string>({
      query: (testId) => ({ url: `/schedule/bookings/${testId}`, method: 'DELETE' }),
      ...placed,
    }),
    closeDyno: build.mutation<void, { dynoId: string; start: string; end: string; reason: string }>({
      query: (body) => ({ url: '/schedule/closures', method: 'POST', body }),
      ...placed,
    }),
    reopenDyno: build.mutation<void, string>({
      query: (id) => ({ url: `/schedule/closures/${id}`, method: 'DELETE' }),
      ...placed,
    }),
  }),
});
export const {
  useCreateTestMutation,
  useReplacePlanMutation,
  useFreeQuery,
  useLockPlanMutation,
  useAssignTestMutation,
  useAmendPlanMutation,
  useScheduleQuery,
  useSuggestMutation,
  usePlaceMutation,
  useUnplaceMutation,
  useCloseDynoMutation,
  useReopenDynoMutation,
} = planApi;
