import { drawnEvidence } from './drawn-evidence.ts';
import {
  DRAFT,
  HOUSE,
  MANAGER,
  OVERSEE,
  REVIEW,
  SHELF,
  SHELF_READ,
  SIGNED_IN,
} from '../../contract/base/roles.ts';
import { FindQuery, TestsQuery } from '../../contract/overview.ts';
import {
  AnswerRequest,
  CatalogueQuery,
  ClaimsQuery,
  DraftClaimRequest,
  ReasonRequest,
  WithdrawRequest,
  WordingQuery,
} from '../../contract/publish/claim.ts';
import { CorrectionsQuery } from '../../contract/publish/corrections.ts';
import { CoverageQuery, NextQuery } from '../../contract/publish/coverage.ts';
import { PolicyRequest } from '../../contract/base/policy.ts';
import { ShelfEvent } from '../../contract/publish/shelf.ts';
import { TodayQuery } from '../../contract/publish/today.ts';
import { TrailQuery } from '../../contract/publish/trail.ts';
import type { Needs } from '../base/needs.ts';
import { notFound } from '../base/refusals.ts';
import { uuidParam, type Route } from '../base/routing.ts';
import { sendRaw } from '../capture/routes.ts';
import type { CoverageService } from './coverage.ts';
import { find } from './finder.ts';
import type { createOverview } from './overview.ts';
import type { PolicyPreviews } from './policy-previews.ts';
import type { PublishService } from './service.ts';
import { shelf, takeOver } from './shelf.ts';
import { todayOf } from './today.ts';
import { trailPage } from './trail.ts';
import { upgradesOf } from './upgrades.ts';

const word = (value: unknown): string => {
  if (typeof value !== 'string' || !/^[\w-]{1,120}$/.test(value)) throw notFound('page');
  return value;
};

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const publishRoutes = (
  service: PublishService,
  overview: ReturnType<typeof createOverview>,
  coverage: CoverageService,
  needs: Needs,
  previews: PolicyPreviews,
): Route[] => [
  {
    method: 'post',
    path: '/policy-previews',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      res.status(201).json(await previews.ask(person, PolicyRequest.parse(req.body)));
    },
  },
  {
    method: 'get',
    path: '/policy-previews/:previewId',
    access: MANAGER,
    handle: async (req, res) => {
      res.json(await previews.shown(uuidParam(req, 'previewId')));
    },
  },
  {
    method: 'post',
    path: '/policy-previews/:previewId/cancel',
    access: MANAGER,
    handle: async (req, res) => {
      await previews.cancel(uuidParam(req, 'previewId'));
      res.status(204).end();
    },
  },
  {
    method: 'get',
    path: '/today',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await todayOf(needs, person, TodayQuery.parse(req.query).all));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/wording',
    access: DRAFT,
    handle: async (req, res, { person }) => {
      const asked = WordingQuery.parse(req.query);
      res.json(await service.wording(person, uuidParam(req, 'testId'), asked));
    },
  },
  {
    method: 'get',
    path: '/coverage',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await coverage.grid(person, CoverageQuery.parse(req.query)));
    },
  },
  {
    method: 'get',
    path: '/fitments/:fitmentId/upgrades',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await upgradesOf(needs.db, uuidParam(req, 'fitmentId'), person, needs.now()));
    },
  },
  {
    method: 'get',
    path: '/coverage/next',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await coverage.next(person, NextQuery.parse(req.query)));
    },
  },
  {
    method: 'get',
    path: '/tests',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await overview.list(person, TestsQuery.parse(req.query)));
    },
  },
  {
    method: 'get',
    path: '/find',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await find(needs, person, FindQuery.parse(req.query).q));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.json(await overview.detail(person, uuidParam(req, 'testId')));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/test.json',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      res.attachment('test.json').json(await service.testFile(person, uuidParam(req, 'testId')));
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/claims',
    access: DRAFT,
    handle: async (req, res, { person }) => {
      res
        .status(201)
        .json(await service.draft(person, uuidParam(req, 'testId'), DraftClaimRequest.parse(req.body)));
    },
  },
  {
    method: 'get',
    path: '/claims',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await service.list(person, ClaimsQuery.parse(req.query)));
    },
  },
  {
    method: 'get',
    path: '/claims/:claimId',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await service.detail(uuidParam(req, 'claimId')));
    },
  },
  {
    method: 'post',
    path: '/claims/:claimId/submit',
    access: DRAFT,
    handle: async (req, res, { person }) => {
      await service.submit(person, uuidParam(req, 'claimId'));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/claims/:claimId/approve',
    access: REVIEW,
    handle: async (req, res, { person }) => {
      await service.approve(person, uuidParam(req, 'claimId'));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/claims/:claimId/answers',
    access: REVIEW,
    handle: async (req, res, { person }) => {
      await service.answerChange(person, uuidParam(req, 'claimId'), AnswerRequest.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/claims/:claimId/return',
    access: REVIEW,
    handle: async (req, res, { person }) => {
      await service.return(person, uuidParam(req, 'claimId'), ReasonRequest.parse(req.body).reason);
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/claims/:claimId/withdraw',
    access: OVERSEE,
    handle: async (req, res, { person }) => {
      await service.withdraw(person, uuidParam(req, 'claimId'), WithdrawRequest.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'get',
    path: '/shelf',
    access: SHELF_READ,
    handle: async (_req, res) => {
      res.json(await shelf(needs.db));
    },
  },
  {
    method: 'post',
    path: '/shelf/:eventId/taken-over',
    access: SHELF,
    handle: async (req, res, { person }) => {
      const { eventId } = ShelfEvent.parse(req.params);
      await takeOver(needs, person, eventId);
      res.status(204).end();
    },
  },
  {
    method: 'get',
    path: '/audit',
    access: OVERSEE,
    handle: async (req, res, { person }) => {
      res.json(await trailPage(needs.db, person, TrailQuery.parse(req.query)));
    },
  },
  {
    method: 'get',
    path: '/catalogue',
    access: 'public',
    // Pages that are turned are kept; what somebody searches for is not.
    kept: ({ query: { q, after = '', limit = '', sort = '' } }) => {
      const asked = [limit, sort, after];
      return q || !asked.every((one) => typeof one === 'string') ? undefined : `?${asked.join('&')}`;
    },
    handle: async (req, res) => {
      res.json(await service.catalogue(CatalogueQuery.parse(req.query)));
    },
  },
  {
    method: 'get',
    path: '/corrections',
    access: 'public',
    handle: async (req, res) => {
      res.json(await service.corrections(CorrectionsQuery.parse(req.query)));
    },
  },
  {
    method: 'get',
    path: '/catalogue/:slug',
    access: 'public',
    kept: true,
    handle: async (req, res) => {
      res.json(await service.catalogueFitment(word(req.params.slug)));
    },
  },
  {
    method: 'get',
    path: '/evidence/:code',
    access: 'public',
    kept: true,
    handle: async (req, res) => {
      res.json(await service.evidence(word(req.params.code)));
    },
  },
  {
    method: 'get',
    path: '/evidence/:code/page',
    access: 'public',
    kept: true,
    handle: async (req, res) => {
      res.json(drawnEvidence(await service.evidence(word(req.params.code))));
    },
  },
  {
    method: 'get',
    path: '/evidence/:code/test.json',
    access: 'public',
    handle: async (req, res) => {
      res.attachment('test.json').json(await service.evidenceTestFile(word(req.params.code)));
    },
  },
  {
    method: 'get',
    path: '/evidence/:code/pulls/:label/file',
    access: 'public',
    handle: async (req, res) =>
      sendRaw(res, await service.evidenceFile(word(req.params.code), word(req.params.label))),
  },
  {
    method: 'get',
    path: '/evidence/:code/controls/:sha256',
    access: 'public',
    handle: async (req, res) =>
      sendRaw(res, await service.evidenceControl(word(req.params.code), word(req.params.sha256))),
  },
  {
    method: 'get',
    path: '/evidence/:code/pulls/:label/log',
    access: 'public',
    handle: async (req, res) =>
      sendRaw(res, await service.evidenceFile(word(req.params.code), word(req.params.label), 'log')),
  },
];
