import { HOUSE, LEGACY } from '../../contract/base/roles.ts';
import {
  LegacyFileQuery,
  LegacyQuery,
  LegacyRequest,
  MAX_LEGACY_BYTES,
  StrikeRequest,
} from '../../contract/publish/legacy.ts';
import { rawBody } from '../base/raw-body.ts';
import { RefusalError } from '../base/refusals.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import { sendRaw } from '../capture/routes.ts';
import type { LegacyService } from './legacy.ts';

const tooLarge = (): Error =>
  new RefusalError(
    413,
    'FILE_TOO_LARGE',
    `A file of legacy evidence has at most ${MAX_LEGACY_BYTES / 1024 / 1024} MiB.`,
    'Send a smaller picture of it.',
  );

export const legacyRoutes = (legacy: LegacyService): Route[] => [
  {
    method: 'get',
    path: '/legacy',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await legacy.list(person, LegacyQuery.parse(req.query)));
    },
  },
  {
    method: 'post',
    path: '/legacy',
    access: LEGACY,
    handle: async (req, res, { person }) => {
      res.status(201).json(await legacy.add(person, LegacyRequest.parse(req.body)));
    },
  },
  {
    method: 'put',
    path: '/legacy/:legacyId/file',
    access: LEGACY,
    handle: async (req, res, { person }) => {
      const { name } = LegacyFileQuery.parse(req.query);
      const bytes = await rawBody(req, MAX_LEGACY_BYTES, tooLarge);
      if (bytes.length === 0)
        throw new RefusalError(422, 'FILE_IS_EMPTY', 'The file is empty.', 'Choose the file again.');
      await legacy.attach(person, uuidParam(req, 'legacyId'), name, bytes);
      res.status(204).end();
    },
  },
  {
    method: 'get',
    path: '/legacy/:legacyId/file',
    access: HOUSE,
    handle: async (req, res, { person }) =>
      sendRaw(res, await legacy.file(person, uuidParam(req, 'legacyId'))),
  },
  {
    method: 'post',
    path: '/legacy/:legacyId/strike',
    access: LEGACY,
    handle: async (req, res, { person }) => {
      await legacy.strike(person, uuidParam(req, 'legacyId'), StrikeRequest.parse(req.body).reason);
      res.status(204).end();
    },
  },
];
