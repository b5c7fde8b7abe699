import type { BeginRequest, EntryRequest } from '../../../contract/capture/bench.ts';
import { WatchedBenchSchema, type WatchedBench } from '../../../contract/correct/bench-watch.ts';
import { api } from '../../base/api.ts';
import { read } from '../../base/response.ts';

type OfTest<T = object> = { testId: string } & T;
const post = <B extends object>(rest: string) => ({
  query: ({ testId, ...body }: OfTest<B>) => ({
    url: `/tests/${testId}/bench/${rest}`,
    method: 'POST',
    body,
  }),
});

const benchApi = api.injectEndpoints({
  endpoints: (build) => ({
    bench: build.query<WatchedBench, string>({
      query: (testId) => `/tests/${testId}/bench`,
      responseSchema: read(WatchedBenchSchema),
      providesTags: ['Bench'],
    }),
    openSession: build.mutation<void, OfTest>({ ...post('session'), invalidatesTags: ['Bench'] }),
    closeSession: build.mutation<void, OfTest<{ note: string }>>({
      ...post('close'),
      invalidatesTags: ['Bench', 'Test', 'Tests', 'Analysis'],
    }),
    strapDown: build.mutation<void, OfTest<{ note: string }>>({
      ...post('mountings'),
      invalidatesTags: ['Bench'],
    }),
    writeEntry: build.mutation<void, OfTest<EntryRequest>>({
      ...post('entries'),
      invalidatesTags: ['Bench'],
    }),
    beginPull: build.mutation<void, OfTest<BeginRequest>>({ ...post('pull'), invalidatesTags: ['Bench'] }),
    abortPull: build.mutation<void, OfTest>({ ...post('abort'), invalidatesTags: ['Bench'] }),
    switchFault: build.mutation<void, OfTest<{ name: string; on: boolean }>>(post('fault')),
    settleRecording: build.mutation<void, OfTest<{ id: string; how: 'as-it-is' | 'given-up' }>>({
      query: ({ testId, id, how }) => ({
        url: `/tests/${testId}/bench/recordings/${id}/${how}`,
        method: 'POST',
      }),
      invalidatesTags: ['Bench', 'Test', 'Tests', 'Analysis'],
    }),
  }),
});
export const {
  useBenchQuery,
  useOpenSessionMutation,
  useCloseSessionMutation,
  useStrapDownMutation,
  useWriteEntryMutation,
  useBeginPullMutation,
  useAbortPullMutation,
  useSwitchFaultMutation,
  useSettleRecordingMutation,
} = benchApi;
