/**
 * How devices beside a dyno speak to the application, `evidentia-bench/1`: JSON lines over TCP, one message a line, the
 * device listens and the application connects. docs/devices.md has a worked example and the schema made from this.
 */
import { z } from 'zod';
import { DEVICE_KINDS } from '../../core/register/devices.ts';

export const BENCH_PROTOCOL = 'evidentia-bench/1';

/** Longest line, characters; a device that sends longer ones is cut off. */
export const MOST_LINE = 65_536;
/** A device that has said nothing for so long counts as away, ms: it says `now` at least once a second. */
export const SILENCE_MS = 5000;

const clock = z.iso.datetime().describe('The device’s own clock, UTC.');
const name = z.string().trim().min(1).max(80);
const number = z.number().int().nonnegative();
const Value = z
  .number()
  .nullable()
  .describe('A reading in the unit of its channel; null where there is none.');
const Values = z.array(Value).max(64);
/** Name of a recording in the device’s own buffer; never used twice. */
const pull = z.string().regex(/^[\w.:-]{1,64}$/);

export const ChannelSchema = z.object({
  name: name.describe('As it stands in the head of a pull file; the application tells what it is by it.'),
  unit: z.string().trim().max(16),
});
export type DeviceChannel = z.infer<typeof ChannelSchema>;

/** What a device says. */
export const DeviceMessage = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('hello').describe('First line after a connection is made.'),
    protocol: z.literal(BENCH_PROTOCOL),
    device: z.enum(DEVICE_KINDS),
    name,
    clock,
    channels: z
      .array(ChannelSchema)
      .min(1)
      .max(64)
      .describe('What the values of a message stand for, in turn.'),
    /** Whether it begins a pull when it is told to; else somebody does at the device. */
    begins: z.boolean().default(false),
    /** Recordings a dyno still holds in its buffer, the oldest first. */
    kept: z
      .array(z.object({ pull, clock, samples: number, ended: z.boolean() }))
      .max(200)
      .default([]),
    /** Faults a stand-in can play, and which of them it plays. No real device has any. */
    faults: z
      .array(z.object({ name, on: z.boolean() }))
      .max(40)
      .optional(),
  }),
  z.object({
    type: z.literal('now').describe('Steady reading, at least once a second.'),
    clock,
    values: Values,
  }),
  z.object({ type: z.literal('begin').describe('A dyno begins a recording.'), pull, clock }),
  z.object({
    type: z.literal('sample').describe('One reading; of a dyno within a recording, of a logger always.'),
    pull: pull.optional(),
    n: number.describe('Counts from 0 within a recording; of a logger from its start.'),
    clock: clock
      .optional()
      .describe('Of a logger: when it was read, so that what was said unheard finds its pull.'),
    values: Values,
  }),
  z.object({
    type: z.literal('lost').describe('Answer to `resend`: these are in no buffer any more.'),
    pull: pull.optional(),
    from: number,
    to: number,
  }),
  z.object({
    type: z
      .literal('resent')
      .describe('Answer of a logger to `resend`, behind the samples: this is all its buffer holds.'),
    from: number,
  }),
  z.object({
    type: z.literal('end').describe('A recording is over, or `resend` has sent all there is.'),
    pull,
    clock,
    samples: number.describe('How many samples the recording has, lost ones too.'),
    how: z.enum(['complete', 'aborted']),
  }),
]);
export type DeviceMessage = z.infer<typeof DeviceMessage>;
export type Hello = Extract<DeviceMessage, { type: 'hello' }>;

/** What the application says. */
export const BenchCommand = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('car').describe('What stands on the rollers; a device may leave it unread.'),
    ignition: z.enum(['spark', 'compression']),
    aspiration: z.string().max(40),
    ratedPowerKw: z.number().positive(),
  }),
  z.object({
    type: z.literal('begin').describe('Begin a pull; only to a dyno that says it begins.'),
    configuration: z
      .string()
      .describe('What is on the car, as the operator says; a device may leave it unread.'),
  }),
  z.object({ type: z.literal('abort').describe('End the pull that runs.') }),
  z.object({
    type: z
      .literal('resend')
      .describe('Send samples again from the buffer, then `end` where the recording is over.'),
    pull: pull.optional().describe('Of a dyno: which recording.'),
    from: number,
    to: number.optional(),
  }),
  z.object({ type: z.literal('fault').describe('Stand-ins only.'), name, on: z.boolean() }),
]);
export type BenchCommand = z.infer<typeof BenchCommand>;

export const asLine = (message: DeviceMessage | BenchCommand): string => `${JSON.stringify(message)}\n`;
