/** Fitments, vehicles, parts, calibrations, dynos and applications: as they are read, and as they are sent to be kept. */
import { z } from 'zod';
import { ratedAgree } from './rated.ts';
import type { Configuration, LedgerChange, StockAnswer } from '../../core/register/ledger.ts';
import { SERVICE_ITEMS } from '../../core/register/ledger.ts';
import { LEGAL_CLASSES, PART_CATEGORIES, PROMISES } from '../../core/register/parts.ts';
import { DeviceSchema } from './devices.ts';
import { EngineSchema, RepeatabilitySchema, StandardSchema } from '../base/schemas.ts';
import { DRIVE_SHAPE } from './drive.ts';

const words = (what: string, most = 120) => z.string().trim().min(1, `Give ${what}.`).max(most);
const optionalText = (most = 1000) => z.string().trim().max(most).default('');
const isoDate = z.iso.date({ error: 'Write the date as 2026-03-31.' });
const page = <T extends z.ZodType>(item: T) =>
  z.object({
    items: z.array(item),
    /** Send it back as `after` for the next page; null at the end. */ next: z.string().nullable(),
    total: z.number(),
  });

// ── Fitments ──────────────────────────────────────────────────────────────

export const FitmentInput = z
  .object({
    maker: words('the maker'),
    model: words('the model'),
    platformCode: optionalText(40),
    yearFrom: z.number().int().min(1950).max(2100),
    yearTo: z.number().int().min(1950).max(2100).nullable().default(null),
    engineCode: words('the engine code', 40),
    displacementCc: z.number().int().min(50).max(20_000),
    cylinders: z.number().int().min(1).max(16),
    aspiration: EngineSchema.shape.aspiration,
    ignition: EngineSchema.shape.ignition,
    fuel: words('the fuel', 40),
    transmission: optionalText(60),
    drivenWheels: z.enum(['front', 'rear', 'all']),
    outputVariant: words('the output variant', 40),
    market: words('the market', 20),
    ratedPowerKw: z.number().min(1).max(2000),
    ratedTorqueNm: z.number().min(1).max(5000),
    ratedStandard: words('the standard of the rating', 40),
    family: words('the family', 40),
    stockTyres: z.string().trim().max(60).nullable().default(null),
    unitsPerYear: z.number().int().min(0).max(10_000_000).default(0),
  })
  .refine((f) => f.yearTo === null || f.yearTo >= f.yearFrom, {
    message: 'The last model year lies before the first.',
    path: ['yearTo'],
  })
  .superRefine(ratedAgree);
export type FitmentInput = z.infer<typeof FitmentInput>;
export const FitmentSchema = z.object({
  ...FitmentInput.shape,
  id: z.string(),
  slug: z.string(),
  version: z.number(),
});
export type Fitment = z.infer<typeof FitmentSchema>;
export const FitmentPageSchema = page(FitmentSchema);

/** A fitment as a person says it. */
export const fitmentName = (f: Pick<Fitment, 'maker' | 'model'> & { outputVariant?: string }): string =>
  `${f.maker} ${f.model}${f.outputVariant ? `, ${f.outputVariant}` : ''}`;

export const OWNERS = ['house', 'loan', 'customer', 'partner'] as const;
export const VehicleInput = z
  .object({
    fitmentId: z.uuid({ error: 'Choose the fitment.' }),
    tag: words('the plate or asset tag', 60),
    odometerKm: z.number().int().min(0).max(3_000_000),
    owner: z.enum(OWNERS).default('house'),
    wheels: optionalText(60),
    finalDrive: z.number().min(0.5).max(12).nullable().default(null),
    gears: z
      .array(z.object({ name: words('the gear', 20), ratio: z.number().min(0.2).max(8) }))
      .max(12)
      .default([]),
    availableFrom: isoDate.nullable().default(null),
    availableTo: isoDate.nullable().default(null),
    note: optionalText(),
  })
  .refine((v) => !v.availableFrom || !v.availableTo || v.availableTo >= v.availableFrom, {
    message: 'It would leave before it comes.',
    path: ['availableTo'],
  });
export type VehicleInput = z.infer<typeof VehicleInput>;
export const VehicleSchema = z.object({ ...VehicleInput.shape, id: z.string(), version: z.number() });
export type Vehicle = z.infer<typeof VehicleSchema>;
export const VehicleRowSchema = VehicleSchema.extend({
  fitment: z.string(),
  stock: z.enum(['yes', 'no', 'unknown']),
});
export const VehiclePageSchema = page(VehicleRowSchema);

const settings = z.record(z.string().min(1), z.string().min(1)).default({});
export const LedgerChangeSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('part fitted'),
    category: z.enum(PART_CATEGORIES),
    partRevisionId: z.uuid({ error: 'Choose the part.' }),
    settings,
  }),
  z.object({ kind: z.literal('option set'), category: z.enum(PART_CATEGORIES), settings }),
  z.object({ kind: z.literal('returned to stock'), category: z.enum(PART_CATEGORIES) }),
  z.object({ kind: z.literal('calibration'), calibrationId: z.uuid().nullable() }),
  z.object({ kind: z.literal('tyres'), text: words('the tyres') }),
  z.object({ kind: z.literal('fuel'), text: words('the fuel') }),
  z.object({ kind: z.literal('service'), item: z.enum(SERVICE_ITEMS) }),
  z.object({ kind: z.literal('other change'), text: words('what was changed', 200) }),
  z.object({ kind: z.literal('other change undone'), text: words('what was undone', 200) }),
]) satisfies z.ZodType<LedgerChange>;

export const LedgerRequest = z
  .object({
    at: z.iso.datetime({ offset: true, error: 'Say when it was done.' }),
    odometerKm: z.number().int().min(0).max(3_000_000).nullable().default(null),
    note: optionalText(500),
    change: LedgerChangeSchema.nullable(),
    supersedes: z.uuid().nullable().default(null),
  })
  .refine((r) => r.change !== null || r.supersedes !== null, {
    message: 'Say what was changed.',
    path: ['change'],
  })
  .refine((r) => r.supersedes === null || r.note.length >= 5, {
    message: 'Say why the entry is put right.',
    path: ['note'],
  });
export type LedgerRequest = z.infer<typeof LedgerRequest>;
export type LedgerDraft = z.input<typeof LedgerRequest>;
export const LedgerEntrySchema = z.object({
  id: z.string(),
  at: z.string(),
  enteredAt: z.string(),
  enteredBy: z.string(),
  odometerKm: z.number().nullable(),
  note: z.string(),
  supersedes: z.string().nullable(),
  superseded: z.boolean(),
  change: z.custom<LedgerChange>().nullable(),
  text: z.string(),
});
export type LedgerEntryShown = z.infer<typeof LedgerEntrySchema>;
/** What was on the car at a moment, in words and as data. */
export const ConfigurationSchema = z.object({
  at: z.string(),
  configuration: z.custom<Configuration>(),
  stock: z.custom<StockAnswer>(),
  lines: z.array(z.object({ subject: z.string(), text: z.string(), since: z.string().nullable() })),
  odometerKm: z.number().nullable(),
});
export type ConfigurationShown = z.infer<typeof ConfigurationSchema>;
export const VehicleDetailSchema = z.object({
  vehicle: VehicleSchema,
  fitment: FitmentSchema,
  ledger: z.array(LedgerEntrySchema),
});
export type VehicleDetail = z.infer<typeof VehicleDetailSchema>;

// ── Parts and revisions ───────────────────────────────────────────────────

export const LegalSchema = z.object({ market: words('the market', 20), class: z.enum(LEGAL_CLASSES) });
export const PartInput = z
  .object({
    sku: words('the SKU', 40),
    maker: words('the maker'),
    name: words('the name'),
    category: z.enum(PART_CATEGORIES),
    promise: z.enum(PROMISES).default('power'),
    priceCents: z.number().int().min(0).nullable().default(null),
    currency: z.string().trim().length(3).toUpperCase().default('EUR'),
    launchDate: isoDate.nullable().default(null),
    legal: z.array(LegalSchema).max(40).default([]),
    embargoUntil: isoDate.nullable().default(null),
    codeName: z.string().trim().max(60).nullable().default(null),
    note: optionalText(),
  })
  .refine((p) => p.embargoUntil === null || (p.codeName ?? '').length >= 3, {
    message: 'An embargoed part needs a code name for everybody else.',
    path: ['codeName'],
  })
  .refine(
    (p) =>
      p.embargoUntil === null ||
      ![p.name, p.sku].some((secret) => (p.codeName ?? '').toLowerCase().includes(secret.toLowerCase())),
    { message: 'The code name must not hold the name or the SKU.', path: ['codeName'] },
  );
export type PartInput = z.infer<typeof PartInput>;
export const OptionSchema = z.object({
  name: words('the option', 40),
  settings: z.array(words('the setting', 40)).min(2, 'An option has at least two settings.').max(12),
});
export const RevisionInput = z.object({
  revision: words('the revision', 20),
  releasedOn: isoDate.nullable().default(null),
  changeNote: optionalText(500),
  options: z.array(OptionSchema).max(8).default([]),
  needs: z
    .object({
      partIds: z.array(z.uuid()).max(10),
      calibration: z.boolean(),
      fuel: z.string().trim().max(40).nullable(),
    })
    .default({ partIds: [], calibration: false, fuel: null }),
  conflicts: z.array(z.uuid()).max(20).default([]),
  weightKg: z.number().min(0).max(500).nullable().default(null),
  ...DRIVE_SHAPE,
  installHours: z.number().min(0).max(200).default(1),
  removeHours: z.number().min(0).max(200).default(0.5),
  specialTools: optionalText(500),
  irreversibleSteps: optionalText(500),
  replaceOnInstall: z.array(words('the item', 60)).max(20).default([]),
});
export type RevisionInput = z.infer<typeof RevisionInput>;
export const RevisionSchema = RevisionInput.extend({
  id: z.string(),
  partId: z.string(),
  createdAt: z.string(),
});
export type Revision = z.infer<typeof RevisionSchema>;
export const PartSchema = z.object({
  ...PartInput.shape,
  id: z.string(),
  version: z.number(),
  /** Under embargo now; who lacks clearance reads the code name. */ embargoed: z.boolean(),
  withheld: z.boolean(),
});
export type Part = z.infer<typeof PartSchema>;
export const PartRowSchema = PartSchema.extend({
  latestRevision: z.string().nullable(),
  fitments: z.number(),
});
export const PartPageSchema = page(PartRowSchema);
export const PartDetailSchema = z.object({
  part: PartSchema,
  revisions: z.array(RevisionSchema),
  fitments: z.array(z.object({ id: z.string(), name: z.string() })),
  fitmentsTotal: z.number(),
});
export type PartDetail = z.infer<typeof PartDetailSchema>;
/** A revision with its part, as pickers and tests name it. */
export const PartRevisionSchema = z.object({
  id: z.string(),
  partId: z.string(),
  sku: z.string(),
  maker: z.string(),
  name: z.string(),
  category: z.enum(PART_CATEGORIES),
  revision: z.string(),
});
export const PickedRevisionSchema = PartRevisionSchema.extend({
  options: z.array(OptionSchema),
  needs: RevisionInput.shape.needs,
  conflicts: z.array(z.string()),
  installHours: z.number(),
  removeHours: z.number(),
  irreversibleSteps: z.string(),
  ...DRIVE_SHAPE,
  fits: z.boolean(),
});
export type PickedRevision = z.infer<typeof PickedRevisionSchema>;
// ── Calibrations ──────────────────────────────────────────────────────────

export const CalibrationInput = z.object({
  name: words('the name'),
  revision: words('the revision', 20),
  fileHash: z
    .string()
    .trim()
    .toLowerCase()
    .regex(/^[0-9a-f]{64}$/, 'Choose the file: its SHA-256 names the calibration.'),
  fileName: optionalText(200),
  fitmentId: z.uuid().nullable().default(null),
  fuel: z.string().trim().max(40).nullable().default(null),
  ethanolPct: z.number().min(0).max(100).nullable().default(null),
  expectsPartRevisionIds: z.array(z.uuid()).max(20).default([]),
  note: optionalText(500),
});
export type CalibrationInput = z.infer<typeof CalibrationInput>;
export const CalibrationSchema = CalibrationInput.extend({
  id: z.string(),
  createdAt: z.string(),
  fitment: z.string().nullable(),
  expects: z.array(z.string()),
});
export type Calibration = z.infer<typeof CalibrationSchema>;

// ── Dynos and sensors ─────────────────────────────────────────────────────

export const DYNO_KINDS = ['inertia', 'loaded roller', 'hub'] as const;
export const WEEKDAYS = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday',
] as const;
const clock = z.string().regex(/^(([01]\d|2[0-3]):[0-5]\d|24:00)$/, 'Write the time as 08:30.');
export const OpeningSchema = z
  .object({ day: z.number().int().min(1).max(7), from: clock, to: clock })
  .refine((o) => o.to > o.from, { message: 'It would close before it opens.', path: ['to'] });
export const DynoInput = z.object({
  name: words('the name'),
  site: words('the site'),
  kind: z.string().trim().min(1).max(80),
  drive: z.enum(['two-wheel', 'four-wheel']).default('two-wheel'),
  cell: z.enum(['enclosed', 'open']).default('enclosed'),
  fan: optionalText(80),
  siteHeightM: z.number().min(-430).max(5000),
  appliesStandard: StandardSchema,
  samplingHz: z.number().min(1).max(10_000).nullable().default(null),
  lastCalibratedOn: isoDate.nullable().default(null),
  timeZone: z.string().min(1).max(60).default('UTC'),
  hourlyRate: z.number().min(0).max(10_000).default(0),
  labourRate: z.number().min(0).max(10_000).default(0),
  currency: z.string().trim().length(3).toUpperCase().default('EUR'),
  driftBound: z.number().min(0).max(5).nullable().default(null),
  opening: z.array(OpeningSchema).max(21).default([]),
  rollerRadiusM: z.number().min(0.05).max(2).nullable().default(null),
  repeatability: RepeatabilitySchema,
  /** From which day on what is entered holds, where it corrects the record; from now on without. */
  validFrom: isoDate.nullable().default(null),
});
export type DynoInput = z.infer<typeof DynoInput>;
export const DynoSchema = DynoInput.omit({ validFrom: true }).extend({ id: z.string(), version: z.number() });
export type Dyno = z.infer<typeof DynoSchema>;
export const SensorInput = z.object({
  quantity: words('the quantity', 60),
  serial: words('the serial number', 60),
  uncertainty: z.number().positive('The standard uncertainty is above zero.').max(1e6),
  unit: words('the unit', 20),
  calibratedOn: isoDate,
  dueOn: isoDate.nullable().default(null),
  note: optionalText(300),
});
export type SensorInput = z.infer<typeof SensorInput>;
export const SensorSchema = SensorInput.extend({ id: z.string(), dynoId: z.string() });
export const DynoDetailSchema = z.object({
  dyno: DynoSchema,
  sensors: z.array(SensorSchema),
  devices: z.array(DeviceSchema),
});
export type DynoDetail = z.infer<typeof DynoDetailSchema>;

// ── Applications and what a plan is chosen from ───────────────────────────

export const ApplicationGridSchema = z.object({
  parts: z.array(
    z.object({ id: z.string(), name: z.string(), sku: z.string(), category: z.enum(PART_CATEGORIES) }),
  ),
  rows: z.array(
    z.object({ id: z.string(), name: z.string(), note: z.string(), partIds: z.array(z.string()) }),
  ),
  next: z.string().nullable(),
  total: z.number(),
});
export type ApplicationGrid = z.infer<typeof ApplicationGridSchema>;
export const RegisterSchema = z.object({
  dynos: z.array(DynoSchema),
  calibrations: z.array(CalibrationSchema),
  partners: z.array(z.object({ id: z.string(), name: z.string() })),
  families: z.array(z.string()),
});
export type Register = z.infer<typeof RegisterSchema>;

/** An end of a past window where the vehicle's pulls scattered far more than elsewhere. */
export const NoisyEndSeenSchema = z.object({
  test: z.number(),
  side: z.enum(['low', 'high']),
  /** From here outwards, rpm, and how many times as much. */
  rpm: z.number(),
  times: z.number(),
});
export type NoisyEndSeen = z.infer<typeof NoisyEndSeenSchema>;

/** Everything the planner needs of one fitment and vehicle, so that arms are assessed while they are built. */
export const PlanningSchema = z.object({
  fitment: FitmentSchema,
  vehicle: VehicleSchema,
  present: ConfigurationSchema,
  revisions: z.array(PickedRevisionSchema),
  calibrations: z.array(CalibrationSchema),
  noisyEnds: z.array(NoisyEndSeenSchema),
});
export type Planning = z.infer<typeof PlanningSchema>;

export const PageQuery = z.object({
  q: z.string().trim().max(200).default(''),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(60),
  family: z.string().max(40).optional(),
  category: z.enum(PART_CATEGORIES).optional(),
  fitmentId: z.uuid().optional(),
  partId: z.uuid().optional(),
  /** Phrase for the parts across, where fitments go down. */ part: z.string().trim().max(200).default(''),
});
export type PageQuery = z.infer<typeof PageQuery>;
