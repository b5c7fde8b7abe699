import { ApplicationRequest, NewPartRequest } from '../../contract/register/applications.ts';
import type { Request } from 'express';
import { z } from 'zod';
import { HOUSE, MANAGER, PREPARE } from '../../contract/base/roles.ts';
import {
  IMPORT_KINDS,
  ImportApplyRequest,
  ImportRequest,
  type ImportKind,
} from '../../contract/register/import.ts';
import {
  CalibrationInput,
  DynoInput,
  FitmentInput,
  LedgerRequest,
  PageQuery,
  PartInput,
  RevisionInput,
  SensorInput,
  VehicleInput,
} from '../../contract/register/register.ts';
import { notFound } from '../base/refusals.ts';
import { DevicesInput } from '../../contract/register/devices.ts';
import { sendText, uuidParam, type Route } from '../base/routing.ts';
import { rawText } from '../base/raw-body.ts';
import type { DynoService } from './dynos.ts';
import type { FitmentService } from './fitments.ts';
import type { ImportService } from './imports.ts';
import type { PartService } from './parts.ts';
import type { VehicleService } from './vehicles.ts';

export interface RegisterServices {
  readonly fitments: FitmentService;
  readonly vehicles: VehicleService;
  readonly parts: PartService;
  readonly dynos: DynoService;
  readonly imports: ImportService;
}

/** A record as it is sent back to be kept, with the version it was opened at. */
const versioned = <T extends z.ZodType>(record: T) => z.object({ version: z.number().int(), record });
const kindOf = (req: Request): ImportKind => {
  const kind = IMPORT_KINDS.find((k) => k === req.params.kind);
  if (!kind) throw notFound('kind of table');
  return kind;
};
const OnQuery = z.object({ on: z.iso.datetime({ offset: true }) });

// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export const registerRoutes = ({ fitments, vehicles, parts, dynos, imports }: RegisterServices): Route[] => [
  {
    method: 'get',
    path: '/register',
    access: HOUSE,
    handle: async (_req, res, { person }) => {
      res.json(await dynos.register(person));
    },
  },

  {
    method: 'get',
    path: '/fitments',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await fitments.page(PageQuery.parse(req.query)));
    },
  },
  {
    method: 'post',
    path: '/fitments',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      res.status(201).json(await fitments.create(person, FitmentInput.parse(req.body)));
    },
  },
  {
    method: 'get',
    path: '/fitments/:fitmentId',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await fitments.detail(person, uuidParam(req, 'fitmentId')));
    },
  },
  {
    method: 'put',
    path: '/fitments/:fitmentId',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const { version, record } = versioned(FitmentInput).parse(req.body);
      res.json(await fitments.update(person, uuidParam(req, 'fitmentId'), version, record));
    },
  },

  {
    method: 'get',
    path: '/vehicles',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await vehicles.page(PageQuery.parse(req.query)));
    },
  },
  {
    method: 'post',
    path: '/vehicles',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      res.status(201).json(await vehicles.create(person, VehicleInput.parse(req.body)));
    },
  },
  {
    method: 'get',
    path: '/vehicles/:vehicleId',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await vehicles.detail(uuidParam(req, 'vehicleId')));
    },
  },
  {
    method: 'put',
    path: '/vehicles/:vehicleId',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      const { version, record } = versioned(VehicleInput).parse(req.body);
      res.json(await vehicles.update(person, uuidParam(req, 'vehicleId'), version, record));
    },
  },
  {
    method: 'get',
    path: '/vehicles/:vehicleId/configuration',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await vehicles.configuration(uuidParam(req, 'vehicleId'), OnQuery.parse(req.query).on));
    },
  },
  {
    method: 'get',
    path: '/vehicles/:vehicleId/planning',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await vehicles.planning(person, uuidParam(req, 'vehicleId')));
    },
  },
  {
    method: 'post',
    path: '/vehicles/:vehicleId/ledger',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await vehicles.enter(person, uuidParam(req, 'vehicleId'), LedgerRequest.parse(req.body));
      res.status(204).end();
    },
  },

  {
    method: 'get',
    path: '/parts',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await parts.page(person, PageQuery.parse(req.query)));
    },
  },
  {
    method: 'post',
    path: '/parts',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const { part, revision, fitmentIds } = NewPartRequest.parse(req.body);
      res.status(201).json(await parts.create(person, part, revision, fitmentIds));
    },
  },
  {
    method: 'get',
    path: '/parts/:partId',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await parts.detail(person, uuidParam(req, 'partId')));
    },
  },
  {
    method: 'put',
    path: '/parts/:partId',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const { version, record } = versioned(PartInput).parse(req.body);
      res.json(await parts.update(person, uuidParam(req, 'partId'), version, record));
    },
  },
  {
    method: 'post',
    path: '/parts/:partId/revisions',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      res
        .status(201)
        .json(await parts.revise(person, uuidParam(req, 'partId'), RevisionInput.parse(req.body)));
    },
  },
  {
    method: 'get',
    path: '/applications',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      res.json(await parts.grid(person, PageQuery.parse(req.query)));
    },
  },
  {
    method: 'put',
    path: '/applications',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const { partId, fitmentIds, fits } = ApplicationRequest.parse(req.body);
      await parts.apply(person, partId, fitmentIds, fits);
      res.status(204).end();
    },
  },

  {
    method: 'post',
    path: '/calibrations',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      res.status(201).json(await dynos.addCalibration(person, CalibrationInput.parse(req.body)));
    },
  },
  {
    method: 'post',
    path: '/dynos',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      res.status(201).json(await dynos.create(person, DynoInput.parse(req.body)));
    },
  },
  {
    method: 'get',
    path: '/dynos/:dynoId',
    access: HOUSE,
    handle: async (req, res) => {
      res.json(await dynos.detail(uuidParam(req, 'dynoId')));
    },
  },
  {
    method: 'put',
    path: '/dynos/:dynoId',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const { version, record } = versioned(DynoInput).parse(req.body);
      res.json(await dynos.update(person, uuidParam(req, 'dynoId'), version, record));
    },
  },
  {
    method: 'put',
    path: '/dynos/:dynoId/devices',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await dynos.setDevices(person, uuidParam(req, 'dynoId'), DevicesInput.parse(req.body).devices);
      res.status(204).end();
    },
  },
  {
    method: 'post',
    path: '/dynos/:dynoId/sensors',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await dynos.sensor(person, uuidParam(req, 'dynoId'), SensorInput.parse(req.body));
      res.status(204).end();
    },
  },
  {
    method: 'delete',
    path: '/dynos/:dynoId/sensors/:sensorId',
    access: PREPARE,
    handle: async (req, res, { person }) => {
      await dynos.removeSensor(person, uuidParam(req, 'dynoId'), uuidParam(req, 'sensorId'));
      res.status(204).end();
    },
  },

  {
    method: 'post',
    path: '/register/import/:kind/preview',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      res.json(
        await imports.preview(person, kindOf(req), ImportRequest.parse({ text: await rawText(req) }).text),
      );
    },
  },
  {
    method: 'post',
    path: '/register/import/:kind',
    access: MANAGER,
    handle: async (req, res, { person }) => {
      const { text, digest } = ImportApplyRequest.parse({
        text: await rawText(req),
        digest: req.query.digest,
      });
      res.status(201).json(await imports.apply(person, kindOf(req), text, digest));
    },
  },
  {
    method: 'get',
    path: '/register/export/:kind',
    access: HOUSE,
    handle: async (req, res, { person }) => {
      const kind = kindOf(req);
      await sendText(res, `${kind}.csv`, 'text/csv; charset=utf-8', await imports.export(person, kind));
    },
  },
];
