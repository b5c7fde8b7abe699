import { z } from 'zod';
import { DEVICE_KINDS } from '../../core/register/devices.ts';

/** Where a device of a dyno is spoken to. */
export const DeviceSchema = z.object({
  kind: z.enum(DEVICE_KINDS),
  host: z
    .string()
    .trim()
    .min(1, 'Say where the device is.')
    .max(120)
    .regex(/^[\w.:-]+$/, 'Write a name or an address, without a port.'),
  port: z.number().int().min(1).max(65_535),
});
export type Device = z.infer<typeof DeviceSchema>;
export const DevicesInput = z.object({
  devices: z
    .array(DeviceSchema)
    .max(DEVICE_KINDS.length)
    .refine((list) => new Set(list.map((d) => d.kind)).size === list.length, 'One device of a kind.'),
});
