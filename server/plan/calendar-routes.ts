import { HOUSE, PREPARE, SIGNED_IN } from '../../contract/base/roles.ts';
import {
  ClosureRequest,
  FreeQuery,
  PlaceManyRequest,
  ScheduleQuery,
  SuggestRequest,
} from '../../contract/plan/schedule.ts';
import type { Needs } from '../base/needs.ts';
import { sendText, uuidParam, type Reading, type Route } from '../base/routing.ts';
import { calendarFile } from './calendar-file.ts';
import { titleOf } from './repository.ts';
import type { ScheduleService } from './schedule.ts';

const CALENDAR = 'text/calendar; charset=utf-8';

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const calendarRoutes = (service: ScheduleService, { now }: Needs): Route[] => [
  {
    method: 'get',
    path: '/schedule',
    access: HOUSE,
    handle: async (req, res) => {
      const { from, days } = ScheduleQuery.parse(req.query);
      res.json(await service.read(from, days));
    },
  },
  {
    method: 'post',
    path: '/schedule/suggestion',
    access: PREPARE,
    handle: async (req, res) => {
      const { from, days } = SuggestRequest.parse(req.body);
      res.json(await service.suggest(from, days));
    },
  },
  {
    method: 'get',
    path: '/schedule/free/:testId',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      res.json(await service.free(person, uuidParam(req, 'testId'), FreeQuery.parse(req.query).from));
    },
  },
  {
    method: 'post',
    path: '/schedule/bookings',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await service.place(person, PlaceManyRequest.parse(req.body).placements);
      res.status(204).end();
    },
  },
  {
    method: 'delete',
    path: '/schedule/bookings/:testId',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await service.remove(person, uuidParam(req, 'testId'));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/schedule/closures',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await service.close(person, ClosureRequest.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'delete',
    path: '/schedule/closures/:closureId',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await service.reopen(person, uuidParam(req, 'closureId'));
      res.status(204).end();
    },
  },
  {
    method: 'get',
    path: '/schedule.ics',
    access: SIGNED_IN,
    handle: async (_req, res, { person, reading }) => {
      const sessions = await service.upcoming(person, now().toISOString().slice(0, 10));
      await sendText(res, 'dyno-sessions.ics', CALENDAR, await calendarOf(sessions, now(), reading));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/session.ics',
    access: SIGNED_IN,
    handle: async (req, res, { person, reading }) => {
      const sessions = await service.upcoming(person, '', uuidParam(req, 'testId'));
      await sendText(res, 'dyno-session.ics', CALENDAR, await calendarOf(sessions, now(), reading));
    },
  },
];

/** A calendar with the names this person reads: resolved before its long lines are folded. */
async function calendarOf(
  sessions: Awaited<ReturnType<ScheduleService['upcoming']>>,
  now: Date,
  reading: Reading,
): Promise<string> {
  const texts = sessions.map(({ row }) => `${titleOf(row)}\n${row.test.question}`).join('\n');
  return calendarFile(sessions, now, await reading.over(texts));
}
