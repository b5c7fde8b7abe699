import type { Device } from '../../contract/register/devices.ts';
import { useMemo } from 'react';
import { OwnHistorySchema, type OwnHistoryShown } from '../../contract/register/own-history.ts';
import {
  UseProfilesSchema,
  type UseProfileRequest,
  type UseProfiles,
  type UseVersionRequest,
} from '../../contract/register/use-profiles.ts';
import { StartSlopesSchema, type StartSlopes } from '../../contract/register/start-slopes.ts';
import { z } from 'zod';
import { PoliciesSchema, type PolicyRequest } from '../../contract/base/policy.ts';
import { CarryOverSchema } from '../../contract/register/family.ts';
import {
  ImportDoneSchema,
  ImportPreviewSchema,
  type ImportKind,
  type ImportPreview,
} from '../../contract/register/import.ts';
import {
  ApplicationGridSchema,
  CalibrationSchema,
  ConfigurationSchema,
  DynoDetailSchema,
  DynoSchema,
  FitmentPageSchema,
  FitmentSchema,
  PartDetailSchema,
  PartPageSchema,
  PartSchema,
  PlanningSchema,
  RegisterSchema,
  RevisionSchema,
  VehicleDetailSchema,
  VehiclePageSchema,
  VehicleSchema,
  fitmentName,
  type ApplicationGrid,
  type Calibration,
  type CalibrationInput,
  type ConfigurationShown,
  type Dyno,
  type DynoDetail,
  type DynoInput,
  type Fitment,
  type FitmentInput,
  type LedgerRequest,
  type Part,
  type PartDetail,
  type PartInput,
  type Planning,
  type Register,
  type Revision,
  type RevisionInput,
  type SensorInput,
  type Vehicle,
  type VehicleDetail,
  type VehicleInput,
} from '../../contract/register/register.ts';
import { api, problemOf } from '../base/api.ts';
import type { Choice } from '../base/picker.tsx';
import { pageParams, paging } from '../base/paging.tsx';
import { read } from '../base/response.ts';
import { useSettled } from '../base/use-settled.ts';

const FitmentDetailSchema = z.object({
  fitment: FitmentSchema,
  vehicles: z.array(z.object({ id: z.string(), tag: z.string() })),
  groups: z.number(),
  parts: z.array(z.object({ id: z.string(), name: z.string(), sku: z.string(), category: z.string() })),
  family: z.array(CarryOverSchema.extend({ id: z.string(), name: z.string() })),
});
export type FitmentDetail = z.infer<typeof FitmentDetailSchema>;
export interface Find {
  q: string;
  family?: string | undefined;
  category?: string | undefined;
  fitmentId?: string | undefined;
}
interface Versioned<T> {
  id: string;
  version: number;
  record: T;
}
type FitmentPage = z.infer<typeof FitmentPageSchema>;
type VehiclePage = z.infer<typeof VehiclePageSchema>;
type PartPage = z.infer<typeof PartPageSchema>;

/** Every page holds what it says; the next one begins where it ended. */
const changes = {
  invalidatesTags: (_r: unknown, error: unknown) =>
    // Refused because somebody else was first: what they wrote is read at once, to be told.
    error && problemOf(error).code !== 'CHANGED_MEANWHILE'
      ? []
      : (['Register', 'Tests', 'Test', 'Coverage', 'Schedule'] as const),
};

type Policies = z.infer<typeof PoliciesSchema>;

export const registerApi = api.injectEndpoints({
  // eslint-disable-next-line max-lines-per-function -- a table of endpoints, a few lines each
  endpoints: (build) => ({
    policies: build.query<Policies, void>({
      query: () => '/policies',
      responseSchema: read(PoliciesSchema),
      providesTags: ['Register'],
    }),
    enterPolicy: build.mutation<void, PolicyRequest>({
      query: (body) => ({ url: '/policies', method: 'POST', body }),
      invalidatesTags: (_r, error) =>
        error ? [] : ['Register', 'Tests', 'Test', 'Analysis', 'Claims', 'Claim', 'Catalogue', 'Coverage'],
    }),
    useProfiles: build.query<UseProfiles, void>({
      query: () => '/use-profiles',
      responseSchema: read(UseProfilesSchema),
      providesTags: ['Register'],
    }),
    addUseProfile: build.mutation<void, UseProfileRequest>({
      query: (body) => ({ url: '/use-profiles', method: 'POST', body }),
      invalidatesTags: (_r, error) => (error ? [] : ['Register', 'Test']),
    }),
    changeUseProfile: build.mutation<void, UseVersionRequest & { id: string }>({
      query: ({ id, ...body }) => ({ url: `/use-profiles/${id}/versions`, method: 'POST', body }),
      // Refused because somebody else was first: what they wrote is read at once.
      invalidatesTags: ['Register', 'Test'],
    }),
    register: build.query<Register, void>({
      query: () => '/register',
      responseSchema: read(RegisterSchema),
      providesTags: ['Register'],
    }),
    fitments: build.infiniteQuery<FitmentPage, Find, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/fitments', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(FitmentPageSchema),
      providesTags: ['Register'],
    }),
    fitment: build.query<FitmentDetail, string>({
      query: (id) => `/fitments/${id}`,
      responseSchema: read(FitmentDetailSchema),
      providesTags: ['Register'],
    }),
    addFitment: build.mutation<Fitment, FitmentInput>({
      query: (body) => ({ url: '/fitments', method: 'POST', body }),
      responseSchema: read(FitmentSchema),
      ...changes,
    }),
    changeFitment: build.mutation<Fitment, Versioned<FitmentInput>>({
      query: ({ id, ...body }) => ({ url: `/fitments/${id}`, method: 'PUT', body }),
      responseSchema: read(FitmentSchema),
      ...changes,
    }),
    vehicles: build.infiniteQuery<VehiclePage, Find, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/vehicles', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(VehiclePageSchema),
      providesTags: ['Register'],
    }),
    vehicle: build.query<VehicleDetail, string>({
      query: (id) => `/vehicles/${id}`,
      responseSchema: read(VehicleDetailSchema),
      providesTags: ['Register'],
    }),
    configuration: build.query<ConfigurationShown, { id: string; on: string }>({
      query: ({ id, on }) => ({ url: `/vehicles/${id}/configuration`, params: { on } }),
      responseSchema: read(ConfigurationSchema),
      providesTags: ['Register'],
    }),
    planning: build.query<Planning, string>({
      query: (id) => `/vehicles/${id}/planning`,
      responseSchema: read(PlanningSchema),
      providesTags: ['Register'],
    }),
    addVehicle: build.mutation<Vehicle, VehicleInput>({
      query: (body) => ({ url: '/vehicles', method: 'POST', body }),
      responseSchema: read(VehicleSchema),
      ...changes,
    }),
    changeVehicle: build.mutation<Vehicle, Versioned<VehicleInput>>({
      query: ({ id, ...body }) => ({ url: `/vehicles/${id}`, method: 'PUT', body }),
      responseSchema: read(VehicleSchema),
      ...changes,
    }),
    enterLedger: build.mutation<void, { id: string; entry: LedgerRequest }>({
      query: ({ id, entry }) => ({ url: `/vehicles/${id}/ledger`, method: 'POST', body: entry }),
      ...changes,
    }),
    parts: build.infiniteQuery<PartPage, Find, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/parts', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(PartPageSchema),
      providesTags: ['Register'],
    }),
    part: build.query<PartDetail, string>({
      query: (id) => `/parts/${id}`,
      responseSchema: read(PartDetailSchema),
      providesTags: ['Register'],
    }),
    addPart: build.mutation<Part, { part: PartInput; revision: RevisionInput; fitmentIds: string[] }>({
      query: (body) => ({ url: '/parts', method: 'POST', body }),
      responseSchema: read(PartSchema),
      ...changes,
    }),
    changePart: build.mutation<Part, Versioned<PartInput>>({
      query: ({ id, ...body }) => ({ url: `/parts/${id}`, method: 'PUT', body }),
      responseSchema: read(PartSchema),
      ...changes,
    }),
    revisePart: build.mutation<Revision, { id: string; revision: RevisionInput }>({
      query: ({ id, revision }) => ({ url: `/parts/${id}/revisions`, method: 'POST', body: revision }),
      responseSchema: read(RevisionSchema),
      ...changes,
    }),
    applications: build.infiniteQuery<ApplicationGrid, Find & { part?: string }, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/applications', params: pageParams(queryArg, pageParam) }),
      responseSchema: read(ApplicationGridSchema),
      providesTags: ['Register'],
    }),
    apply: build.mutation<void, { partId: string; fitmentIds: string[]; fits: boolean }>({
      query: (body) => ({ url: '/applications', method: 'PUT', body }),
      ...changes,
    }),
    addCalibration: build.mutation<Calibration, CalibrationInput>({
      query: (body) => ({ url: '/calibrations', method: 'POST', body }),
      responseSchema: read(CalibrationSchema),
      ...changes,
    }),
    ownHistory: build.query<OwnHistoryShown, string>({
      query: (dynoId) => `/dynos/${dynoId}/history`,
      responseSchema: read(OwnHistorySchema),
      providesTags: ['Test'],
    }),
    startSlopes: build.query<StartSlopes, { dynoId: string; vehicleId?: string }>({
      query: ({ dynoId, vehicleId }) => ({
        url: `/dynos/${dynoId}/start-slopes`,
        params: vehicleId ? { vehicleId } : {},
      }),
      responseSchema: read(StartSlopesSchema),
      providesTags: ['Test'],
    }),
    dyno: build.query<DynoDetail, string>({
      query: (id) => `/dynos/${id}`,
      responseSchema: read(DynoDetailSchema),
      providesTags: ['Register'],
    }),
    addDyno: build.mutation<Dyno, DynoInput>({
      query: (body) => ({ url: '/dynos', method: 'POST', body }),
      responseSchema: read(DynoSchema),
      ...changes,
    }),
    changeDyno: build.mutation<Dyno, Versioned<DynoInput>>({
      query: ({ id, ...body }) => ({ url: `/dynos/${id}`, method: 'PUT', body }),
      responseSchema: read(DynoSchema),
      ...changes,
    }),
    addSensor: build.mutation<void, { dynoId: string; sensor: SensorInput }>({
      query: ({ dynoId, sensor }) => ({ url: `/dynos/${dynoId}/sensors`, method: 'POST', body: sensor }),
      ...changes,
    }),
    setDevices: build.mutation<void, { dynoId: string; devices: readonly Device[] }>({
      query: ({ dynoId, ...body }) => ({ url: `/dynos/${dynoId}/devices`, method: 'PUT', body }),
      ...changes,
    }),
    removeSensor: build.mutation<void, { dynoId: string; id: string }>({
      query: ({ dynoId, id }) => ({ url: `/dynos/${dynoId}/sensors/${id}`, method: 'DELETE' }),
      ...changes,
    }),
    previewImport: build.mutation<ImportPreview, { kind: ImportKind; text: string }>({
      query: ({ kind, text }) => ({
        url: `/register/import/${kind}/preview`,
        method: 'POST',
        body: text,
        headers: { 'content-type': 'text/csv' },
      }),
      responseSchema: read(ImportPreviewSchema),
    }),
    applyImport: build.mutation<
      z.infer<typeof ImportDoneSchema>,
      { kind: ImportKind; text: string; digest: string }
    >({
      query: ({ kind, text, digest }) => ({
        url: `/register/import/${kind}`,
        method: 'POST',
        body: text,
        params: { digest },
        headers: { 'content-type': 'text/csv' },
      }),
      responseSchema: read(ImportDoneSchema),
      ...changes,
    }),
  }),
});
export const {
  usePoliciesQuery,
  useUseProfilesQuery,
  useAddUseProfileMutation,
  useChangeUseProfileMutation,
  useEnterPolicyMutation,
  useRegisterQuery,
  useFitmentsInfiniteQuery,
  useFitmentQuery,
  useAddFitmentMutation,
  useChangeFitmentMutation,
  useVehiclesInfiniteQuery,
  useVehicleQuery,
  useConfigurationQuery,
  usePlanningQuery,
  useAddVehicleMutation,
  useChangeVehicleMutation,
  useEnterLedgerMutation,
  usePartsInfiniteQuery,
  usePartQuery,
  useApplicationsInfiniteQuery,
  useAddPartMutation,
  useChangePartMutation,
  useRevisePartMutation,
  useApplyMutation,
  useAddCalibrationMutation,
  useDynoQuery,
  useStartSlopesQuery,
  useOwnHistoryQuery,
  useAddDynoMutation,
  useChangeDynoMutation,
  useAddSensorMutation,
  useRemoveSensorMutation,
  useSetDevicesMutation,
  usePreviewImportMutation,
  useApplyImportMutation,
} = registerApi;

interface Found {
  choices: readonly Choice[];
  busy: boolean;
}
/** Fitments by a phrase, for a picker. */
export function useFindFitments(phrase: string): Found {
  const q = useSettled(phrase);
  const { data, isFetching } = useFitmentsInfiniteQuery({ q });
  const choices = useMemo(
    () =>
      data?.pages[0]?.items.map((f): Choice => ({
        id: f.id,
        name: fitmentName(f),
        note: `${f.yearFrom} to ${f.yearTo ?? 'today'} · ${f.engineCode} · ${f.transmission} · ${f.market}`,
      })) ?? [],
    [data],
  );
  return { choices, busy: isFetching || q !== phrase };
}
/** Vehicles by a phrase, for a picker. */
export function useFindVehicles(phrase: string): Found {
  const q = useSettled(phrase);
  const { data, isFetching } = useVehiclesInfiniteQuery({ q });
  const choices = useMemo(
    () => data?.pages[0]?.items.map((v): Choice => ({ id: v.id, name: v.tag, note: v.fitment })) ?? [],
    [data],
  );
  return { choices, busy: isFetching || q !== phrase };
}
/** Parts by a phrase, for a picker. */
export function useFindParts(phrase: string): Found {
  const q = useSettled(phrase);
  const { data, isFetching } = usePartsInfiniteQuery({ q });
  const choices = useMemo(
    () =>
      data?.pages[0]?.items.map((p): Choice => ({
        id: p.id,
        name: p.name,
        note: `${p.sku} · ${p.maker} · ${p.category}`,
      })) ?? [],
    [data],
  );
  return { choices, busy: isFetching || q !== phrase };
}
