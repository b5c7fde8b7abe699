import type { Request } from 'express';
import { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import { ColumnsSchema } from '../../contract/base/schemas.ts';
import { CAPTURE, EXCLUDE, SIGNED_IN } from '../../contract/base/roles.ts';
import { AirRequest, ExclusionRequest, PullFileQuery } from '../../contract/capture/capture.ts';
import { PullFileError } from '../../core/base/errors.ts';
import { MAX_PULL_FILE_BYTES } from '../../core/capture/limits.ts';
import pLimit, { type LimitFunction } from 'p-limit';
import { rawBody } from '../base/raw-body.ts';
import { sha256Of } from '../base/sha256.ts';
import { RefusalError } from '../base/refusals.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import { LongLogQuery, PlacePieces } from '../../contract/capture/long-log.ts';
import type { LongLogs } from './long-logs.ts';
import { PullLogQuery, ShiftRequest } from '../../contract/capture/pull-log.ts';
import { MAX_PHOTO_BYTES, PhotoQuery } from '../../contract/capture/photograph.ts';
import type { Photographs } from './photographs.ts';
import type { PullLogs } from './pull-logs.ts';
import { MAX_PART_BYTES } from '../../contract/capture/upload.ts';
import type { UploadParts } from './upload-parts.ts';
import type { CaptureService } from './service.ts';

/** Files that are held in memory at once, and that wait for it. */
const [AT_ONCE, WAITING] = [3, 24];

const OTHER_BYTES = (file: string): PullFileError =>
  new PullFileError(
    'TRUNCATED_FILE',
    'Other bytes arrived than were sent.',
    'Send the file again; nothing was stored.',
    { file },
  );
const BUSY = (): RefusalError =>
  new RefusalError(
    503,
    'BUSY',
    'Many files are coming in at this moment.',
    'Nothing was stored; send it again in a minute.',
  );

const Sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'A SHA-256 is 64 hexadecimal digits.');
const PartQuery = z.object({ start: z.coerce.number().int().min(0).max(MAX_PULL_FILE_BYTES) });
const partBytes = (req: Request): Promise<Buffer> =>
  rawBody(
    req,
    MAX_PART_BYTES,
    () =>
      new RefusalError(
        413,
        'PART_TOO_LARGE',
        `A part of a file may have ${MAX_PART_BYTES / 1048576} MB.`,
        'Send it in smaller parts.',
      ),
  );

const ofPull = (req: Request): [string, string] => [uuidParam(req, 'testId'), uuidParam(req, 'pullId')];
/** Work that holds a file in memory, in its turn; refused where too many wait. */
function inItsTurn<T>(uploads: LimitFunction, work: () => Promise<T>): Promise<T> {
  if (uploads.pendingCount >= WAITING) throw BUSY();
  return uploads(work);
}

/** A kind of file: how large it may be, and what is said of one that is larger or did not arrive. */
interface FileKind {
  readonly most: number;
  readonly tooLarge: (size: number) => Error;
  readonly brokeOff?: () => Error;
}
const pullFile = (file: string): FileKind => ({
  most: MAX_PULL_FILE_BYTES,
  tooLarge: (size) =>
    new PullFileError(
      'FILE_TOO_LARGE',
      `The file has ${(size / 1048576).toFixed(1)} MB; a pull file may have ${MAX_PULL_FILE_BYTES / 1048576} MB.`,
      'Export the one pull, not the whole session.',
      { file },
    ),
  brokeOff: () =>
    new PullFileError('TRUNCATED_FILE', 'The upload broke off.', 'Send the file again.', { file }),
});
const PHOTOGRAPH: FileKind = {
  most: MAX_PHOTO_BYTES,
  tooLarge: (size) =>
    new RefusalError(
      413,
      'PHOTOGRAPH_TOO_LARGE',
      `The picture has ${(size / 1048576).toFixed(1)} MB; a photograph may have ${MAX_PHOTO_BYTES / 1048576} MB.`,
      'Take it at a lower resolution; nothing was stored.',
    ),
};

/** Files that are sent in parts: how much of one is here, and the next part of it. */
export const partRoutes = (parts: UploadParts): Route[] => [
  {
    method: 'get',
    path: '/uploads/:sha256',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      res.json({ received: await parts.received(person, Sha256.parse(req.params.sha256)) });
    },
  },
  {
    method: 'put',
    path: '/uploads/:sha256',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const sha256 = Sha256.parse(req.params.sha256);
      const { start } = PartQuery.parse(req.query);
      res.json({ received: await parts.put(person, sha256, start, await partBytes(req)) });
    },
  },
];

/**
 * Does something with the bytes of a file: those of the body, or those that were sent in parts before, which are let
 * go once it is done.
 */
async function withBytes<T>(
  req: Request,
  { person, parts }: { person: Person; parts: UploadParts },
  { most, tooLarge, brokeOff }: FileKind,
  work: (bytes: Buffer) => Promise<T>,
): Promise<T> {
  const uploaded = Sha256.optional().parse(req.query.uploaded);
  if (uploaded === undefined) return work(await rawBody(req, most, tooLarge, brokeOff));
  const answer = await work(await parts.whole(person, uploaded, { most, tooLarge }));
  await parts.letGo(person, uploaded);
  return answer;
}

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const captureRoutes = (
  service: CaptureService,
  longLogs: LongLogs,
  logs: PullLogs,
  parts: UploadParts,
  uploads = pLimit(AT_ONCE),
): Route[] => [
  {
    method: 'post',
    path: '/tests/:testId/long-logs',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { name } = LongLogQuery.parse(req.query);
      const testId = uuidParam(req, 'testId');
      await service.isTheirs(person, testId);
      const log = await inItsTurn(uploads, async () =>
        withBytes(req, { person, parts }, pullFile(name), (bytes) =>
          longLogs.send(person, testId, name, bytes),
        ),
      );
      res.status(201).json(log);
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/long-logs/:logId/places',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const places = PlacePieces.parse(req.body);
      res.json(await longLogs.place(person, uuidParam(req, 'testId'), uuidParam(req, 'logId'), places));
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/pulls/:pullId/file',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { name, columns, sha256 } = PullFileQuery.parse(req.query);
      const [testId, pullId] = ofPull(req);
      await service.isThere(person, testId, pullId);
      const found = await inItsTurn(uploads, () =>
        withBytes(req, { person, parts }, pullFile(name), async (bytes) => {
          if (sha256 !== undefined && (await sha256Of(bytes)) !== sha256) throw OTHER_BYTES(name);
          return service.attach(person, testId, pullId, name, bytes, columns);
        }),
      );
      res.status(201).json(found);
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/pulls/:pullId/file',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => sendRaw(res, await service.rawFile(person, ...ofPull(req))),
  },
  {
    method: 'post',
    path: '/tests/:testId/pulls/:pullId/log',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { name } = PullLogQuery.parse(req.query);
      const [testId, pullId] = ofPull(req);
      await service.isThere(person, testId, pullId);
      await inItsTurn(uploads, () =>
        withBytes(req, { person, parts }, pullFile(name), (bytes) =>
          logs.join(person, testId, pullId, name, bytes),
        ),
      );
      res.status(201).json(await logs.shown(person, testId, pullId));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/pulls/:pullId/log',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await logs.shown(person, ...ofPull(req)));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/pulls/:pullId/log/file',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => sendRaw(res, await logs.rawLog(person, ...ofPull(req))),
  },
  {
    method: 'put',
    path: '/tests/:testId/pulls/:pullId/log',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { offsetS } = ShiftRequest.parse(req.body);
      await logs.shift(person, ...ofPull(req), offsetS);
      res.status(204).end();
    },
  },
  {
    method: 'delete',
    path: '/tests/:testId/pulls/:pullId/log',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await logs.takeOff(person, ...ofPull(req));
      res.status(204).end();
    },
  },
  {
    method: 'put',
    path: '/tests/:testId/pulls/:pullId/columns',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const columns = ColumnsSchema.parse(req.body);
      res.json(await service.reread(person, ...ofPull(req), columns));
    },
  },
  {
    method: 'put',
    path: '/tests/:testId/pulls/:pullId/air',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await service.setAir(person, ...ofPull(req), AirRequest.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/pulls/:pullId/exclusion',
    access: EXCLUDE,
    handle: async (req, res, { person }) => {
      const { reason, note } = ExclusionRequest.parse(req.body);
      await service.exclude(person, ...ofPull(req), reason, note);
      res.status(204).end();
    },
  },
  {
    method: 'delete',
    path: '/tests/:testId/pulls/:pullId/exclusion',
    access: EXCLUDE,
    handle: async (req, res, { person }) => {
      await service.restore(person, ...ofPull(req));
      res.status(204).end();
    },
  },
];

/** Photographs of a test. */
export const photoRoutes = (photos: Photographs, parts: UploadParts, uploads = pLimit(AT_ONCE)): Route[] => [
  {
    method: 'get',
    path: '/tests/:testId/photographs',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await photos.list(person, uuidParam(req, 'testId')));
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/photographs',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const query = PhotoQuery.parse(req.query);
      const testId = uuidParam(req, 'testId');
      await photos.isTheirs(person, testId);
      await inItsTurn(uploads, () =>
        withBytes(req, { person, parts }, PHOTOGRAPH, (bytes) => photos.add(person, testId, query, bytes)),
      );
      res.status(204).end();
    },
  },
  ...(['thumb', 'view'] as const).map((size): Route => ({
    method: 'get',
    path: `/tests/:testId/photographs/:photoId/${size}`,
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const copy = await photos.copy(person, uuidParam(req, 'testId'), uuidParam(req, 'photoId'), size);
      res.setHeader('Content-Type', 'image/jpeg');
      res.setHeader('Cache-Control', 'private, max-age=3600');
      res.send(copy);
    },
  })),
  {
    method: 'get',
    path: '/tests/:testId/photographs/:photoId/file',
    access: SIGNED_IN,
    handle: async (req, res, { person }) =>
      sendRaw(res, await photos.raw(person, uuidParam(req, 'testId'), uuidParam(req, 'photoId'))),
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
