import { SIGNED_IN } from '../../contract/base/roles.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import type { JudgeService } from './service.ts';

export const judgeRoutes = (service: JudgeService): Route[] => [
  {
    method: 'get',
    path: '/tests/:testId/analysis',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await service.state(uuidParam(req, 'testId'), person));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/standards',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await service.byStandard(uuidParam(req, 'testId'), person));
    },
  },
];
