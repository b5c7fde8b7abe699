/** The bench: what was done at the dyno, as the screen reads and writes it. */
import { z } from 'zod';
import { RecordingSummarySchema } from './recording-summary.ts';
import { SERVICE_ITEMS } from '../../core/register/ledger.ts';
import { DEVICE_KINDS } from '../../core/register/devices.ts';

export const RECORDING_STATES = [
  'armed',
  'running',
  'complete',
  'incomplete',
  'aborted',
  'withdrawn',
] as const;
export type RecordingState = (typeof RECORDING_STATES)[number];

/** What is looked after before the first pull of a session, each with its caution. */
export const CHECKS = {
  straps: 'Straps tight and even, car centred on the rollers',
  tyres: 'Tyres sound, free of stones, pressure set',
  extraction: 'Exhaust extraction drawing; carbon monoxide alarm on',
  fan: 'Fan in its marked place, hood as planned',
  hearing: 'Hearing protection on',
  clear: 'Nobody in line with the rollers or beside the wheels',
  hot: 'Hot parts and rotating parts out of reach, no loose clothing',
  fuel: 'No fuel smell or leak; extinguisher in reach',
} as const;
export type CheckName = keyof typeof CHECKS;
export const CHECK_NAMES = Object.keys(CHECKS) as CheckName[];

/** Tags a pull can be given with one tap. */
export const TAGS = [
  'felt normal',
  'wheels slipped',
  'knock heard',
  'lifted',
  'limiter early',
  'smoke',
  'odd noise',
] as const;

/** What may change at the dyno between two pulls and decides whether they can be compared. */
export const CHANGES = ['refuelled', 'hood', 'fan', 'tyre pressure', 'gear', 'other'] as const;
export type ChangeName = (typeof CHANGES)[number];

const text = z.string().trim().max(1000);
const said = z.string().trim().min(1, 'Write what is to be kept.').max(1000);
/** What the operator writes, by its kind. */
export const EntryBodySchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('checked'), check: z.enum(CHECK_NAMES as [CheckName, ...CheckName[]]) }),
  z.object({
    kind: z.literal('fitted'),
    arm: z.string().max(40),
    minutes: z.number().min(0).max(6000).nullable(),
    difficulty: z.enum(['easy', 'usual', 'hard']).nullable(),
    tools: text,
    broke: text,
    renewed: text,
    /** Of these the vehicle’s ledger is told too. */
    service: z.array(z.enum(SERVICE_ITEMS)).max(SERVICE_ITEMS.length).optional(),
  }),
  z.object({ kind: z.literal('tag'), tag: z.enum(TAGS) }),
  z.object({ kind: z.literal('note'), text: said }),
  z.object({
    kind: z.literal('held'),
    quantity: z.string().trim().min(1).max(60),
    value: z.number(),
    unit: z.string().max(12),
  }),
  z.object({ kind: z.literal('changed'), what: z.enum(CHANGES), text: said }),
  z.object({ kind: z.literal('fuel'), ethanolPct: z.number().min(0).max(100).nullable(), batch: text }),
  z.object({
    kind: z.literal('sound'),
    db: z.number().min(30).max(150),
    rpm: z.number().min(0).max(20000),
    place: said,
  }),
  z.object({ kind: z.literal('surface'), part: said, temperatureC: z.number().min(-50).max(1200) }),
  z.object({ kind: z.literal('drive'), text: said }),
]);
export type EntryBody = z.infer<typeof EntryBodySchema>;
export type EntryKind = EntryBody['kind'];

const id = z.uuid();
export const EntryRequest = z.object({
  id,
  saidAt: z.iso.datetime(),
  pullId: id.nullable().default(null),
  recordingId: id.nullable().default(null),
  body: EntryBodySchema,
});
export type EntryRequest = z.infer<typeof EntryRequest>;
export const MountingRequest = z.object({ note: text.default('') });
export const BeginRequest = z.object({
  /** A place on the run sheet, or none for an extra pull. */
  pullId: id.nullable(),
  arm: z.string().max(40),
});
export type BeginRequest = z.infer<typeof BeginRequest>;
export const CloseRequest = z.object({ note: text.default('') });
export const PlaceRequest = z.object({ pullId: id });
export const FaultRequest = z.object({ name: z.string().min(1).max(80), on: z.boolean() });

export const LinkSchema = z.object({
  kind: z.enum(DEVICE_KINDS),
  name: z.string(),
  connected: z.boolean(),
  /** What keeps it away. */ problem: z.string().nullable(),
  begins: z.boolean(),
  channels: z.array(z.object({ name: z.string(), unit: z.string() })),
  /** How far its clock is from ours, ms. */ clockOffMs: z.number().nullable(),
  faults: z.array(z.object({ name: z.string(), on: z.boolean() })),
});
export type LinkShown = z.infer<typeof LinkSchema>;

const RecordingSchema = z.object({
  id: z.string(),
  pullId: z.string().nullable(),
  arm: z.string(),
  state: z.enum(RECORDING_STATES),
  mounting: z.number().nullable(),
  order: z.number().nullable(),
  beganAt: z.string().nullable(),
  endedAt: z.string().nullable(),
  received: z.number(),
  samples: z.number().nullable(),
  fileSha256: z.string().nullable(),
  linesSha256: z.string().nullable(),
  logOffsetS: z.number().nullable(),
  summary: RecordingSummarySchema.nullable(),
  problem: z.string().nullable(),
});
export type RecordingShown = z.infer<typeof RecordingSchema>;

export const BenchSchema = z.object({
  devices: z.array(z.object({ kind: z.enum(DEVICE_KINDS), host: z.string(), port: z.number() })),
  /** Whether a server is speaking with them at this moment. */ linked: z.boolean(),
  links: z.array(LinkSchema),
  session: z
    .object({
      id: z.string(),
      number: z.number(),
      day: z.string(),
      openedAt: z.string(),
      openedBy: z.string(),
      closedAt: z.string().nullable(),
      closingNote: z.string().nullable(),
    })
    .nullable(),
  mountings: z.array(z.object({ number: z.number(), at: z.string(), by: z.string(), note: z.string() })),
  recordings: z.array(RecordingSchema),
  entries: z.array(
    z.object({
      id: z.string(),
      pullId: z.string().nullable(),
      recordingId: z.string().nullable(),
      body: EntryBodySchema,
      saidAt: z.string(),
      by: z.string(),
    }),
  ),
  /** Clock of the server when this was read. */ now: z.string(),
});
export type Bench = z.infer<typeof BenchSchema>;

/** What open screens are told as it happens. */
export type BenchNews =
  | { readonly type: 'changed' }
  | {
      readonly type: 'now';
      readonly device: 'dyno' | 'station' | 'logger';
      readonly values: readonly (number | null)[];
    }
  | {
      readonly type: 'samples';
      readonly recordingId: string;
      /** Number in the recording, time s, engine speed rpm, torque N·m. */
      readonly rows: readonly (readonly (number | null)[])[];
      /** When the last of them was received, ms. */ readonly at: number;
    };
