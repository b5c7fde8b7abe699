import { HOUSE } from '../../contract/base/roles.ts';
import type { Route } from '../base/routing.ts';
import type { RegisterService } from './service.ts';

export const registerRoutes = (service: RegisterService): Route[] => [
  { method: 'get', path: '/register', access: HOUSE, handle: async (_req, res) => { res.json(await service.read()); } },
];
