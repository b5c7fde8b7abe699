import { OVERSEE, SIGNED_IN } from '../../contract/base/roles.ts';
import { AnswerRequest } from '../../contract/judge/answer.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import type { AnswerService } from './answers.ts';
import type { JudgeService } from './service.ts';

export const judgeRoutes = (service: JudgeService, answers: AnswerService): Route[] => [
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
