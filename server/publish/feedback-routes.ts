import { MANAGER } from '../../contract/base/roles.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import { sendRaw } from '../capture/routes.ts';
import type { FeedbackService } from './feedback.ts';

export const feedbackRoutes = (feedback: FeedbackService): Route[] => [
  {
    method: 'get',
    path: '/parts/:partId/feedback.zip',
    access: MANAGER,
    handle: async (req, res, { person }) =>
      sendRaw(res, await feedback.pack(person, uuidParam(req, 'partId'))),
  },
];
