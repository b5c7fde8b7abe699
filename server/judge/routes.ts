import { HOUSE, OVERSEE, SIGNED_IN } from '../../contract/base/roles.ts';
import { AnswerRequest } from '../../contract/judge/answer.ts';
import { TogetherQuery } from '../../contract/compare/together.ts';
import { WindowQuery } from '../../contract/compare/in-window.ts';
import { StartSlopesQuery } from '../../contract/register/start-slopes.ts';
import { UnderWayQuery } from '../../contract/base/under-way.ts';
import type { UnderWays } from '../base/under-way.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import type { AnswerService } from './answers.ts';
import type { JudgeService } from './service.ts';

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const judgeRoutes = (
  service: JudgeService,
  answers: AnswerService,
  { known, waitedFor }: UnderWays,
): Route[] => [
  {
    method: 'get',
    path: '/tests/:testId/analysis',
    access: SIGNED_IN,
    handle: (req, res, { person }) =>
      waitedFor(req, res, person, () => service.state(uuidParam(req, 'testId'), person)),
  },
  {
    method: 'get',
    path: '/dynos/:dynoId/history',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await service.ownHistory(uuidParam(req, 'dynoId')));
    },
  },
  {
    method: 'get',
    path: '/dynos/:dynoId/start-slopes',
    access: HOUSE,
    handle: async (req, res) => {
      const { vehicleId } = StartSlopesQuery.parse(req.query);
      res.json(await service.startSlopes(uuidParam(req, 'dynoId'), vehicleId));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/standards',
    access: SIGNED_IN,
    handle: (req, res, { person }) =>
      waitedFor(req, res, person, () => service.byStandard(uuidParam(req, 'testId'), person)),
  },
  {
    method: 'get',
    path: '/tests/:testId/baselines',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await service.otherBaselines(uuidParam(req, 'testId'), person));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/window',
    access: SIGNED_IN,
    handle: (req, res, { person }) =>
      waitedFor(req, res, person, () =>
        service.inWindow(uuidParam(req, 'testId'), person, WindowQuery.parse(req.query)),
      ),
  },
  {
    method: 'get',
    path: '/tests/:testId/together',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const { arm } = TogetherQuery.parse(req.query);
      res.json(await service.together(uuidParam(req, 'testId'), arm, person));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/beside',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const { arm } = TogetherQuery.parse(req.query);
      res.json(await service.beside(uuidParam(req, 'testId'), arm, person));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/uses',
    access: SIGNED_IN,
    handle: (req, res, { person }) =>
      waitedFor(req, res, person, () => service.byUse(uuidParam(req, 'testId'), person)),
  },
  {
    method: 'get',
    path: '/under-way',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await known(person, UnderWayQuery.parse(req.query).path));
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/answers',
    access: OVERSEE,
    handle: async (req, res, { person }) => {
      await answers.answer(person, uuidParam(req, 'testId'), AnswerRequest.parse(req.body));
      res.status(204).end();
    },
  },
];
