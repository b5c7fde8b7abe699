/** Ties the stages together: the only file that knows every one of them. */
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import type pg from 'pg';
import { ZodError } from 'zod';
import { airState } from '../core/correct/air.ts';
import type { Needs } from './base/needs.ts';
import { asAway, inTime } from './base/away.ts';
import { createDeeds } from './base/deeds.ts';
import { knownHost } from './base/known-host.ts';
import { policyRoutes } from './base/policy-routes.ts';
import { createPublicAnswers } from './base/public-answers.ts';
import { RefusalError, refusalOf } from './base/refusals.ts';
import { mountRoutes, type Route } from './base/routing.ts';
import { sameOrigin } from './base/same-origin.ts';
import { choiceRoutes } from './base/choices.ts';
import { createPersonOf, signInRoutes } from './base/sign-in.ts';
import { isBuilt, webAssets, webFiles } from './base/web-files.ts';
import { createUnderWays } from './base/under-way.ts';
import { boardOf } from './base/under-way-board.ts';
import { webSession } from './base/web-session.ts';
import { createHub, type Hub } from './base/hub.ts';
import { createBenchService } from './capture/bench.ts';
import { benchRoutes } from './correct/bench-routes.ts';
import { createBenchWatch } from './correct/bench-watch.ts';
import { createFinishRecording } from './correct/finish-recording.ts';
import { createAirFiles } from './correct/air-files.ts';
import { createChannels } from './correct/channels.ts';
import { correctRoutes } from './correct/routes.ts';
import { createPhotographs } from './capture/photographs.ts';
import { createPullLogs } from './capture/pull-logs.ts';
import { createUploadParts } from './capture/upload-parts.ts';
import { createControl } from './correct/control.ts';
import { controlRoutes } from './correct/control-routes.ts';
import { createLongLogs } from './capture/long-logs.ts';
import { captureRoutes, partRoutes, photoRoutes } from './capture/routes.ts';
import { createCaptureService } from './capture/service.ts';
import { createAnswerService } from './judge/answers.ts';
import { judgeRoutes } from './judge/routes.ts';
import { slopeForPlan } from './judge/start-slopes.ts';
import { createJudgeService } from './judge/service.ts';
import { planRoutes } from './plan/routes.ts';
import { createPlanService } from './plan/service.ts';
import { createOverview } from './publish/overview.ts';
import { createLegacy } from './publish/legacy.ts';
import { createFeedback } from './publish/feedback.ts';
import { feedbackRoutes } from './publish/feedback-routes.ts';
import { legacyRoutes } from './publish/legacy-routes.ts';
import { publishRoutes } from './publish/routes.ts';
import { createPolicyPreviews, type PolicyPreviews } from './publish/policy-previews.ts';
import { createPublishService } from './publish/service.ts';
import { registerRoutes } from './register/routes.ts';
import { useProfileRoutes } from './register/use-profiles.ts';
import { calendarRoutes } from './plan/calendar-routes.ts';
import { createScheduleService } from './plan/schedule.ts';
import { createCoverageService } from './publish/coverage.ts';
import { createDynoService } from './register/dynos.ts';
import { createReadingFor } from './register/reading.ts';
import { createFitmentService } from './register/fitments.ts';
import { createImportService } from './register/imports.ts';
import { createPartService } from './register/parts.ts';
import { createVehicleService } from './register/vehicles.ts';

export interface AppOptions {
  readonly demo: boolean;
  readonly sessionSecret: string;
  readonly secureCookie: boolean;
  readonly webRoot?: string;
  /** Wrong tries of a quarter of an hour from which on nobody may try; ten where it is left out. */
  readonly signInTries?: number;
  /** Proxies in front, whose word for the address and the protocol of a reader is taken; see README. */
  readonly trustProxy?: string | number | false;
  /** Names under which the demo answers, beside those of the own machine. */
  readonly hosts?: readonly string[];
  /** Puts off evaluating again what a new policy leaves in question; at once where there is no queue. */
  readonly later?: () => Promise<void>;
  /** Has a policy tried that somebody asked for; at once where there is no queue. */
  readonly preview?: () => Promise<void>;
}

/** Every service, made once from what it needs. */
// eslint-disable-next-line max-lines-per-function -- a table of services, a few lines each
export function createServices(needs: Needs) {
  const judge = createJudgeService(needs, (testId) => publish.settleBeside(testId));
  const publish = createPublishService(needs, judge);
  const capture = createCaptureService(needs, {
    inputsChanged: (...change) => publish.markStale(...change),
    settle: (testId) => publish.settle(testId),
    hasResult: judge.hasResult,
    checkAir: airState,
  });
  const vehicles = createVehicleService(needs, (vehicleId) => publish.settleVehicle(vehicleId));
  const plan = createPlanService(needs, vehicles, (...change) => publish.markStale(...change), slopeForPlan);
  const register = {
    fitments: createFitmentService(needs),
    vehicles,
    parts: createPartService(needs, (...part) => publish.publicOf(...part)),
    dynos: createDynoService(needs),
    imports: createImportService(needs),
  };
  const bench = createBenchService(needs);
  const finish = createFinishRecording(needs, {
    capture,
    inputsChanged: (...change) => publish.markStale(...change),
    settle: (testId) => publish.settle(testId),
  });
  const pullLogs = createPullLogs(
    needs,
    (...change) => publish.markStale(...change),
    (testId) => publish.settle(testId),
  );
  const overview = createOverview(needs, plan);
  const photographs = createPhotographs(needs);
  return {
    register,
    plan,
    bench,
    finish,
    watch: createBenchWatch(needs, bench, finish),
    schedule: createScheduleService(needs),
    capture,
    longLogs: createLongLogs(needs, capture, pullLogs),
    parts: createUploadParts(needs),
    photographs,
    pullLogs,
    channels: createChannels(needs),
    air: createAirFiles(needs, {
      inputsChanged: (...change) => publish.markStale(...change),
      settle: (testId) => publish.settle(testId),
    }),
    judge,
    answers: createAnswerService(needs, judge, (testId) => publish.settle(testId)),
    publish,
    overview,
    coverage: createCoverageService(needs),
    legacy: createLegacy(needs),
    feedback: createFeedback(needs, { detail: (person, id) => overview.detail(person, id), photographs }),
    /** What a new policy leaves open, all at once. */
    settle: async (): Promise<void> => {
      await publish.settleAll();
      await judge.catchUp();
    },
  };
}

/** Every route of the server under /api, with who may use it. */
export function createRoutes(needs: Needs, options: AppOptions, hub: Hub): Route[] {
  const services = createServices(needs);
  // Without a queue it is done here, at once.
  const previews: PolicyPreviews = createPolicyPreviews(
    needs,
    services.judge,
    options.preview ?? (() => previews.work()),
  );
  return [
    {
      method: 'get',
      path: '/health',
      access: 'public',
      handle: async (_req, res) => {
        const there = (await inTime(needs.db.execute('select 1'))) !== undefined;
        res.status(there ? 200 : 503).json({ ok: there, version: needs.softwareVersion });
      },
    },
    ...signInRoutes(needs, options.demo, options.signInTries),
    ...choiceRoutes(needs),
    ...policyRoutes(needs, options.later ?? services.settle, (tx, policy) => previews.answerHeld(tx, policy)),
    ...registerRoutes(services.register),
    ...useProfileRoutes(needs),
    ...planRoutes(services.plan, needs),
    ...calendarRoutes(services.schedule, needs),
    ...partRoutes(services.parts),
    ...photoRoutes(services.photographs, services.parts),
    ...captureRoutes(services.capture, services.longLogs, services.pullLogs, services.parts),
    ...correctRoutes(services.air, services.channels),
    ...controlRoutes(createControl(needs, async () => (options.later ?? services.settle)())),
    ...benchRoutes(services.bench, services.watch, services.finish, hub),
    ...judgeRoutes(services.judge, services.answers, createUnderWays(boardOf(needs.db))),
    ...legacyRoutes(services.legacy),
    ...feedbackRoutes(services.feedback),
    ...publishRoutes(services.publish, services.overview, services.coverage, needs, previews),
  ];
}

/** @param hub where news of other processes are heard; one of its own where none is given */
export function createApp(
  needs: Needs,
  pool: pg.Pool,
  options: AppOptions,
  hub: Hub = createHub(pool.options, needs.log),
): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', options.trustProxy ?? false);
  if (options.demo) app.use(knownHost(options.hosts ?? []));
  const webRoot = options.webRoot && isBuilt(options.webRoot) ? options.webRoot : undefined;
  if (webRoot) app.use(webAssets(webRoot));
  app.use(compression());
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'", 'data:'],
          upgradeInsecureRequests: options.secureCookie ? [] : null,
        },
      },
      strictTransportSecurity: options.secureCookie,
    }),
  );
  app.use(
    '/api',
    sameOrigin,
    webSession(pool, needs.log, { secret: options.sessionSecret, secure: options.secureCookie }),
  );
  app.use(
    '/api',
    noStore,
    mountRoutes(createRoutes(needs, options, hub), {
      personOf: createPersonOf(needs),
      readingFor: createReadingFor(needs),
      publicAnswers: createPublicAnswers(needs),
      deeds: createDeeds(needs),
    }),
  );
  app.use('/api', () => {
    throw new RefusalError(404, 'NOT_FOUND', 'There is nothing at this address.', 'Check the link.');
  });
  if (webRoot) app.use(webFiles(webRoot));
  app.use(errorAnswer(needs));
  return app;
}

const noStore: RequestHandler = (_req, res, next) => {
  res.setHeader('Cache-Control', 'no-store');
  next();
};

// eslint-disable-next-line max-lines-per-function -- a table of errors and their answers
function errorAnswer({ log }: Needs): ErrorRequestHandler {
  // eslint-disable-next-line max-lines-per-function -- a table of errors and their answers
  return (error: unknown, req, res, next) => {
    if (res.headersSent) {
      next(error);
      return;
    }
    const known = refusalOf(error) ?? refusalOf(asAway(error));
    if (known) {
      res.status(known.status).json(known.body);
      return;
    }
    if (error instanceof ZodError) {
      const issue = error.issues[0];
      res.status(400).json({
        error: {
          code: 'BAD_REQUEST',
          message: `${issue.path.join('.') || 'request'}: ${issue.message}`,
          where: { path: issue.path.join('.') },
        },
      });
      return;
    }
    // What the database itself refuses, when two people were at it at once.
    const refused =
      error instanceof Error &&
      typeof error.cause === 'object' &&
      error.cause !== null &&
      'code' in error.cause
        ? error.cause.code
        : undefined;
    if (refused === '23505' || refused === '23P01' || refused === '40P01' || refused === '40001') {
      res.status(409).json({
        error: {
          code: refused === '23P01' ? 'PLACE_TAKEN' : 'SOMEBODY_WAS_FASTER',
          message:
            refused === '23P01'
              ? 'The place has just been taken. Reload the calendar and choose another.'
              : 'Somebody else has just entered the same. Reload and look again; nothing was changed.',
        },
      });
      return;
    }
    // A number, date or text that the database has no room for, which a contract should have refused before.
    if (typeof refused === 'string' && refused.startsWith('22')) {
      res.status(400).json({
        error: { code: 'BAD_REQUEST', message: 'A value in the request is too large or cannot be kept.' },
      });
      return;
    }
    // The guard of claims, when a change came between the service's look and the database's.
    if (
      refused === '23000' &&
      error instanceof Error &&
      /rests on inputs that have changed/.test(String(error.cause))
    ) {
      res.status(409).json({
        error: {
          code: 'CHANGED_MEANWHILE',
          message:
            'What the claim rests on has changed at this moment; nothing was published. Reload and look again.',
        },
      });
      return;
    }
    const status =
      typeof error === 'object' &&
      error !== null &&
      'status' in error &&
      typeof error.status === 'number' &&
      error.status < 500
        ? error.status
        : 500;
    if (status === 500)
      log.error(
        {
          method: req.method,
          path: req.path,
          error:
            error instanceof Error
              ? {
                  message: error.message,
                  stack: error.stack,
                  cause: error.cause instanceof Error ? error.cause.message : undefined,
                }
              : String(error),
        },
        'unforeseen error',
      );
    res.status(status).json({
      error:
        status === 500
          ? {
              code: 'UNFORESEEN',
              message:
                'Something went wrong on the server; nothing was changed. Try again, and tell the test manager if it stays.',
            }
          : { code: 'BAD_REQUEST', message: 'The request cannot be read. Reload the page and try again.' },
    });
  };
}
