import type { Request } from 'express';
import { ColumnsSchema } from '../../contract/base/schemas.ts';
import { CAPTURE, EXCLUDE, SIGNED_IN } from '../../contract/base/roles.ts';
import { AirRequest, ExclusionRequest, PullFileQuery } from '../../contract/capture/capture.ts';
import { PullFileError } from '../../core/base/errors.ts';
import { MAX_PULL_FILE_BYTES } from '../../core/capture/limits.ts';
import pLimit from 'p-limit';
import { rawBody } from '../base/raw-body.ts';
import { RefusalError } from '../base/refusals.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import type { CaptureService } from './service.ts';

/** Files that are held in memory at once, and that wait for it. */
const [AT_ONCE, WAITING] = [3, 24];

const BUSY = (): RefusalError =>
  new RefusalError(
    503,
    'BUSY',
    'Many files are coming in at this moment.',
    'Nothing was stored; send it again in a minute.',
  );

const pullBytes = (req: Request, file: string): Promise<Buffer> =>
  rawBody(
    req,
    MAX_PULL_FILE_BYTES,
    (size) =>
      new PullFileError(
        'FILE_TOO_LARGE',
        `The file has ${(size / 1048576).toFixed(1)} MB; a pull file may have ${MAX_PULL_FILE_BYTES / 1048576} MB.`,
        'Export the one pull, not the whole session.',
        { file },
      ),
    () => new PullFileError('TRUNCATED_FILE', 'The upload broke off.', 'Send the file again.', { file }),
  );

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const captureRoutes = (service: CaptureService, uploads = pLimit(AT_ONCE)): Route[] => [
  {
    method: 'post',
    path: '/tests/:testId/pulls/:pullId/file',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { name, columns } = PullFileQuery.parse(req.query);
      const [testId, pullId] = [uuidParam(req, 'testId'), uuidParam(req, 'pullId')];
      await service.isThere(person, testId, pullId);
      if (uploads.pendingCount >= WAITING) throw BUSY();
      const found = await uploads(async () => {
        const bytes = await pullBytes(req, name);
        return service.attach(person, testId, pullId, name, bytes, columns);
      });
      res.status(201).json(found);
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/pulls/:pullId/file',
    access: SIGNED_IN,
    handle: async (req, res, { person }) =>
      sendRaw(res, await service.rawFile(person, uuidParam(req, 'testId'), uuidParam(req, 'pullId'))),
  },
  {
    method: 'put',
    path: '/tests/:testId/pulls/:pullId/columns',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const columns = ColumnsSchema.parse(req.body);
      res.json(await service.reread(person, uuidParam(req, 'testId'), uuidParam(req, 'pullId'), columns));
    },
  },
  {
    method: 'put',
    path: '/tests/:testId/pulls/:pullId/air',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await service.setAir(
        person,
        uuidParam(req, 'testId'),
        uuidParam(req, 'pullId'),
        AirRequest.parse(req.body),
      );
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/pulls/:pullId/exclusion',
    access: EXCLUDE,
    handle: async (req, res, { person }) => {
      const { reason, note } = ExclusionRequest.parse(req.body);
      await service.exclude(person, uuidParam(req, 'testId'), uuidParam(req, 'pullId'), reason, note);
      res.status(204).end();
    },
  },
  {
    method: 'delete',
    path: '/tests/:testId/pulls/:pullId/exclusion',
    access: EXCLUDE,
    handle: async (req, res, { person }) => {
      await service.restore(person, uuidParam(req, 'testId'), uuidParam(req, 'pullId'));
      res.status(204).end();
    },
  },
];

/** Raw bytes as they came, offered for download, never shown in the page. */
export function sendRaw(
  res: import('express').Response,
  file: { name: string; sha256: string; bytes: Buffer },
): void {
  res.attachment(file.name);
  res.setHeader('Content-Type', 'application/octet-stream');
  res.setHeader('ETag', `"${file.sha256}"`);
  res.setHeader('Content-Length', String(file.bytes.length));
  res.end(file.bytes);
}
