import type { Request } from 'express';
import { z } from 'zod';
import { HOUSE, MANAGER, PREPARE } from '../../contract/base/roles.ts';
import {
  CheckFileQuery,
  ControlCheckRequest,
  ControlVehicleRequest,
  StrikeCheckRequest,
} from '../../contract/register/control.ts';
import { PullFileError } from '../../core/base/errors.ts';
import { MAX_PULL_FILE_BYTES } from '../../core/capture/limits.ts';
import { rawBody } from '../base/raw-body.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import { sendRaw } from '../capture/routes.ts';
import type { ControlService } from './control.ts';

const PositionParam = z.coerce.number().int().min(1).max(12);
const checkBytes = (req: Request, file: string): Promise<Buffer> =>
  rawBody(
    req,
    MAX_PULL_FILE_BYTES,
    () =>
      new PullFileError(
        'FILE_TOO_LARGE',
        `A pull file may have ${MAX_PULL_FILE_BYTES / 1048576} MB.`,
        'Export the one pull, not the whole session.',
        { file },
      ),
    () => new PullFileError('TRUNCATED_FILE', 'The upload broke off.', 'Send the file again.', { file }),
  );

export const controlRoutes = (control: ControlService): Route[] => [
  {
    method: 'get',
    path: '/dynos/:dynoId/control',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await control.ofDyno(uuidParam(req, 'dynoId')));
    },
  },
  {
    method: 'post',
    path: '/dynos/:dynoId/control',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const asked = ControlVehicleRequest.parse(req.body);
      res.status(201).json(await control.name(person, uuidParam(req, 'dynoId'), asked));
    },
  },
  {
    method: 'put',
    path: '/control/:controlId/file',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      const { name } = CheckFileQuery.parse(req.query);
      const bytes = await checkBytes(req, name);
      res.json(await control.file(person, uuidParam(req, 'controlId'), bytes));
    },
  },
  {
    method: 'post',
    path: '/control/:controlId/checks',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      const asked = ControlCheckRequest.parse(req.body);
      res.status(201).json(await control.check(person, uuidParam(req, 'controlId'), asked));
    },
  },
  {
    method: 'post',
    path: '/control-checks/:checkId/strike',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      await control.strike(person, uuidParam(req, 'checkId'), StrikeCheckRequest.parse(req.body).reason);
      res.status(204).end();
    },
  },
  {
    method: 'get',
    path: '/control-checks/:checkId/files/:position',
    access: HOUSE,
    handle: async (req, res) => {
      const position = PositionParam.parse(req.params.position);
      sendRaw(res, await control.raw(uuidParam(req, 'checkId'), position));
    },
  },
];
