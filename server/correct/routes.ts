import type { Request } from 'express';
import pLimit from 'p-limit';
import { CAPTURE, SIGNED_IN } from '../../contract/base/roles.ts';
import { AirFileQuery, TakeAirRequest } from '../../contract/capture/air-file.ts';
import { AirError } from '../../core/base/errors.ts';
import { MAX_AIR_FILE_BYTES } from '../../core/capture/air-file.ts';
import { rawBody } from '../base/raw-body.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import type { ChannelsService } from './channels.ts';
import type { AirFiles } from './air-files.ts';

/** Files that are held in memory at once. */
const AT_ONCE = 3;

const airBytes = (req: Request, file: string): Promise<Buffer> =>
  rawBody(
    req,
    MAX_AIR_FILE_BYTES,
    () =>
      new AirError(
        'AIR_FILE_UNREADABLE',
        'The file of a station may have 5 MB.',
        'Export the day of the session only.',
        { file },
      ),
    () => new AirError('AIR_FILE_UNREADABLE', 'The upload broke off.', 'Send the file again.', { file }),
  );

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const correctRoutes = (
  service: AirFiles,
  channels: ChannelsService,
  uploads = pLimit(AT_ONCE),
): Route[] => [
  {
    method: 'get',
    path: '/tests/:testId/channels',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await channels.ofTest(person, uuidParam(req, 'testId')));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/pulls/:pullId/channels',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await channels.ofPull(person, uuidParam(req, 'testId'), uuidParam(req, 'pullId')));
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/air-files',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { name, ...said } = AirFileQuery.parse(req.query);
      const testId = uuidParam(req, 'testId');
      await service.isThere(person, testId);
      const shown = await uploads(async () =>
        service.send(person, testId, name, await airBytes(req, name), said),
      );
      res.status(201).json(shown);
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/air-files',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json({ items: await service.list(person, uuidParam(req, 'testId')) });
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/air-files/:fileId',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await service.get(person, uuidParam(req, 'testId'), uuidParam(req, 'fileId')));
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/air-files/:fileId/air',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { pullIds } = TakeAirRequest.parse(req.body);
      await service.take(person, uuidParam(req, 'testId'), uuidParam(req, 'fileId'), pullIds);
      res.status(204).end();
    },
  },
];
