import {
  CheckFileSchema,
  ControlShown,
  type ControlCheckRequest,
  type ControlVehicleRequest,
} from '../../contract/register/control.ts';
import { api } from '../base/api.ts';
import { read } from '../base/response.ts';

const controlApi = api.injectEndpoints({
  endpoints: (build) => ({
    control: build.query<ControlShown, string>({
      query: (dynoId) => `/dynos/${dynoId}/control`,
      responseSchema: read(ControlShown),
      providesTags: ['Register'],
    }),
    nameControl: build.mutation<{ id: string }, { dynoId: string; body: ControlVehicleRequest }>({
      query: ({ dynoId, body }) => ({ url: `/dynos/${dynoId}/control`, method: 'POST', body }),
      invalidatesTags: ['Register'],
    }),
    sendCheckFile: build.mutation<{ sha256: string }, { controlId: string; file: File }>({
      query: ({ controlId, file }) => ({
        url: `/control/${controlId}/file`,
        params: { name: file.name },
        method: 'PUT',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
      responseSchema: read(CheckFileSchema),
    }),
    // What a control vehicle says reaches tests and claims.
    enterCheck: build.mutation<{ id: string }, { controlId: string; body: ControlCheckRequest }>({
      query: ({ controlId, body }) => ({ url: `/control/${controlId}/checks`, method: 'POST', body }),
      invalidatesTags: ['Register', 'Test', 'Claim'],
    }),
    strikeCheck: build.mutation<void, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ url: `/control-checks/${id}/strike`, method: 'POST', body: { reason } }),
      invalidatesTags: ['Register', 'Test', 'Claim'],
    }),
  }),
});
export const {
  useControlQuery,
  useNameControlMutation,
  useSendCheckFileMutation,
  useEnterCheckMutation,
  useStrikeCheckMutation,
} = controlApi;
