import { asc, eq } from 'drizzle-orm';
import { MANAGER, SIGNED_IN } from '../../contract/base/roles.ts';
import { AmendRequest, AssignRequest, BasedOn, PlanRequest } from '../../contract/plan/test.ts';
import type { Needs } from '../base/needs.ts';
import { notFound } from '../base/refusals.ts';
import { sendText, uuidParam, type Route } from '../base/routing.ts';
import { findTest } from './repository.ts';
import { runSheetFile } from './run-sheet-file.ts';
import { armsOf } from './arms.ts';
import { versionOf } from './plan-document.ts';
import type { PlanService } from './service.ts';
import { pulls } from './tables.ts';
import { versionFile } from './version-file.ts';

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const planRoutes = (service: PlanService, { db }: Needs): Route[] => [
  {
    method: 'post',
    path: '/tests',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const ids = await service.create(person, PlanRequest.parse(req.body));
      res.status(201).json({ id: ids[0], ids });
    },
  },
  {
    method: 'put',
    path: '/tests/:testId/plan',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const { basedOn } = BasedOn.parse(req.body);
      await service.replace(person, uuidParam(req, 'testId'), PlanRequest.parse(req.body), basedOn);
      res.status(204).end();
    },
  },
  {
    method: 'put',
    path: '/tests/:testId/partner',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      await service.assign(person, uuidParam(req, 'testId'), AssignRequest.parse(req.body).partnerId);
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/lock',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      await service.lock(person, uuidParam(req, 'testId'), BasedOn.parse(req.body ?? {}).basedOn);
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/tests/:testId/amendments',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      await service.amend(person, uuidParam(req, 'testId'), AmendRequest.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/locked-plan.json',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const { test } = await findTest(db, uuidParam(req, 'testId'), person);
      const locked = await versionOf(db, test.id, 1);
      if (!locked) throw notFound('locked plan');
      await sendText(res, `test-${test.number}-plan-as-locked.json`, 'application/json', versionFile(locked));
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/plan-versions/:version',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const { test } = await findTest(db, uuidParam(req, 'testId'), person);
      const number = Number(req.params.version);
      const version =
        Number.isInteger(number) && number > 0 && number < 10_000 && (await versionOf(db, test.id, number));
      if (!version || version.document === null) throw notFound('version of the plan');
      await sendText(
        res,
        `test-${test.number}-plan-version-${number}.json`,
        'application/json',
        versionFile(version),
      );
    },
  },
  {
    method: 'get',
    path: '/tests/:testId/run-sheet.csv',
    access: SIGNED_IN,
    handle: async (req, res, { person }) => {
      const { test } = await findTest(db, uuidParam(req, 'testId'), person);
      const sheet = await db
        .select()
        .from(pulls)
        .where(eq(pulls.testId, test.id))
        .orderBy(asc(pulls.position));
      await sendText(
        res,
        `test-${test.number}-run-sheet.csv`,
        'text/csv; charset=utf-8',
        runSheetFile(sheet, await armsOf(db, test.id), test.controls),
      );
    },
  },
];
