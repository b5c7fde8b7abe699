import type { Request, Response } from 'express';
import { CAPTURE, SIGNED_IN } from '../../contract/base/roles.ts';
import {
  BeginRequest,
  CloseRequest,
  EntryRequest,
  FaultRequest,
  MountingRequest,
} from '../../contract/capture/bench.ts';
import type { Hub } from '../base/hub.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import type { BenchService } from '../capture/bench.ts';
import type { BenchWatch } from './bench-watch.ts';
import type { FinishService } from './finish-recording.ts';

/** A line that says nothing, so that nobody in between takes the connection for dead, ms. */
const BEAT_MS = 15_000;

/** Server-sent events: what is said of a test, as it is said, in whichever process. Numbers and ids only, no names. */
function follow(hub: Hub, testId: string, req: Request, res: Response): void {
  res.writeHead(200, {
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store, no-transform',
    'X-Accel-Buffering': 'no',
  });
  res.write('retry: 1000\n\n');
  const say = (news: unknown): void => {
    res.write(`data: ${JSON.stringify(news)}\n\n`);
  };
  const stop = hub.listen((news) => {
    if (news === 'missed') say({ type: 'changed' });
    else if (news.test === testId) say(news.news);
  });
  const beat = setInterval(() => res.write(': still there\n\n'), BEAT_MS);
  req.on('close', () => {
    clearInterval(beat);
    stop();
  });
}

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const benchRoutes = (
  bench: BenchService,
  watch: BenchWatch,
  finish: FinishService,
  hub: Hub,
): Route[] => [
  {
    method: 'get',
    path: '/tests/:testId/bench',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await watch.shown(person, uuidParam(req, 'testId')));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/bench/news',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const testId = uuidParam(req, 'testId');
      await bench.isTheirs(person, testId);
      follow(hub, testId, req, res);
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/session',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await bench.open(person, uuidParam(req, 'testId'));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/close',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await bench.close(person, uuidParam(req, 'testId'), CloseRequest.parse(req.body).note);
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/mountings',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await bench.mount(person, uuidParam(req, 'testId'), MountingRequest.parse(req.body).note);
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/entries',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await bench.enter(person, uuidParam(req, 'testId'), EntryRequest.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/pull',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await bench.begin(person, uuidParam(req, 'testId'), BeginRequest.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/abort',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await bench.abort(person, uuidParam(req, 'testId'));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/recordings/:recordingId/as-it-is',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const row = await bench.incomplete(person, uuidParam(req, 'testId'), uuidParam(req, 'recordingId'));
      await finish.finish(row.id);
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/recordings/:recordingId/given-up',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      await bench.giveUp(person, uuidParam(req, 'testId'), uuidParam(req, 'recordingId'));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/bench/fault',
    access: CAPTURE,
    handle: async (req, res, { person }) => {
      const { name, on } = FaultRequest.parse(req.body);
      await bench.fault(person, uuidParam(req, 'testId'), name, on);
      res.status(204).end();
    },
  },
];
