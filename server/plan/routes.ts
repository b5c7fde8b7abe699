import { MANAGER } from '../../contract/base/roles.ts';
import { CreateTestRequest } from '../../contract/plan/test.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import type { PlanService } from './service.ts';

export const planRoutes = (service: PlanService): Route[] => [
  { method: 'post', path: '/tests', access: MANAGER, handle: async (req, res, { person }) => { res.status(201).json({ id: await service.create(person, CreateTestRequest.parse(req.body)) }); } },
  { method: 'post', path: '/tests/:testId/lock', access: MANAGER, handle: async (req, res, { person }) => { await service.lock(person, uuidParam(req, 'testId')); res.status(204).end(); } },
];
