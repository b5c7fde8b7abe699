/** Plans: what is decided before the first pull. */
import { z } from 'zod';
import { LOGS, PHOTOGRAPHS } from '../../core/plan/controls.ts';
import { USUAL_TIMES } from '../../core/plan/hours.ts';
import { METRICS } from '../../core/plan/metrics.ts';
import { isOneWayOrder, PROTOCOL_KEYS, protocolOf, type ProtocolKey } from '../../core/plan/protocols.ts';
import { START_SENSORS } from '../../core/register/temperature-slope.ts';
import { BandSchema, StandardSchema } from '../base/schemas.ts';
import { LedgerChangeSchema } from '../register/register.ts';

const armKey = z.string().regex(/^[a-z0-9-]{1,30}$/);
export const PlannedArmSchema = z.object({
  key: armKey,
  label: z.string().trim().min(1, 'Name the arm.').max(80),
  role: z.enum(['baseline', 'part']),
  from: armKey.nullable(),
  changes: z.array(LedgerChangeSchema).max(20),
});
export type PlannedArmInput = z.infer<typeof PlannedArmSchema>;
export const ControlSchema = z.object({
  quantity: z.string().trim().min(1, 'Name what is held equal.').max(60),
  target: z.number().nullable(),
  tolerance: z.number().positive('A tolerance is above zero.'),
  unit: z.string().trim().max(12),
});

/** What a locked plan may still be amended in. No defaults here: an amendment changes what it names and nothing else. */
const amendable = {
  question: z.string().trim().min(5, 'Say in a sentence what the test is to show.').max(400),
  standard: StandardSchema,
  band: BandSchema.refine((b) => b.toRpm - b.fromRpm >= 1000, 'The band must span at least 1 000 rpm.'),
  metrics: z
    .array(z.enum(METRICS))
    .min(1, 'Name at least one metric.')
    .max(3)
    .refine((m) => new Set(m).size === m.length, 'A metric is named twice.'),
  coolDownMinutes: z.number().min(0).max(60),
  gear: z.string().trim().min(1, 'Say which gear the pulls are made in.').max(60),
  fuel: z.string().trim().min(1, 'Say what fuel the car runs on.').max(60),
  controls: z.array(ControlSchema).max(12),
  photographs: z.array(z.enum(PHOTOGRAPHS)),
  logs: z.array(z.enum(LOGS)),
};
const PlanFields = z.object({
  ...amendable,
  /** Left out: the one that policy plans with. */ standard: amendable.standard.optional(),
  coolDownMinutes: amendable.coolDownMinutes.default(USUAL_TIMES.coolDownMinutes),
  controls: amendable.controls.default([]),
  photographs: amendable.photographs.default([]),
  logs: amendable.logs.default([]),
  fitmentId: z.uuid({ error: 'Choose a fitment.' }),
  vehicleId: z.uuid({ error: 'Choose a vehicle of the fitment.' }),
  dynoId: z.uuid({ error: 'Choose a dyno.' }),
  partnerId: z.uuid().nullable().default(null),
  /** The control vehicle that stands in for the return, where the part cannot come off again. */
  controlId: z.uuid().nullable().default(null),
  /** Further vehicles or visits of a series; each makes a test of its own. */
  series: z
    .array(z.object({ vehicleId: z.uuid(), dynoId: z.uuid() }))
    .max(12)
    .default([]),
  protocol: z.enum(PROTOCOL_KEYS as [ProtocolKey, ...ProtocolKey[]]),
  arms: z.array(PlannedArmSchema).min(2).max(7),
  order: z.array(armKey).min(2).max(24),
  pullsPerRun: z.number().int().min(2).max(12),
  warmUps: z.number().int().min(0).max(8),
  remount: z.boolean(),
  /** The start temperature by which arms are compared; it is used whatever it does. */
  startSensor: z.enum(START_SENSORS).nullable().default(null),
  notBefore: z.iso.date().nullable().default(null),
  due: z.iso.date().nullable().default(null),
  priority: z.number().int().min(0).max(9).default(5),
});
export const PlanRequest = PlanFields.superRefine((plan, context) => {
  const issue = (path: string, message: string): void => {
    context.addIssue({ code: 'custom', path: [path], message });
  };
  const keys = plan.arms.map((arm) => arm.key);
  const parts = plan.arms.filter((arm) => arm.role === 'part');
  const protocol = protocolOf(plan.protocol);
  if (new Set(keys).size !== keys.length) issue('arms', 'Two arms have one key.');
  if (plan.arms.filter((arm) => arm.role === 'baseline').length !== 1)
    issue('arms', 'Exactly one arm is the baseline.');
  const { least, most } = protocol.parts;
  if (parts.length < least || parts.length > most) {
    const takes = least === most ? `${least} part arm` : `${least} to ${most} part arms`;
    issue('arms', `This protocol takes ${takes}; there are ${parts.length}.`);
  }
  for (const key of plan.order)
    if (!keys.includes(key)) issue('order', `The order names “${key}”, which is no arm.`);
  for (const key of keys)
    if (!plan.order.includes(key))
      issue('order', `The arm “${plan.arms.find((a) => a.key === key)!.label}” is never run.`);
  plan.arms.forEach((arm, i) => {
    if (arm.from !== null && !keys.slice(0, i).includes(arm.from))
      issue('arms', `“${arm.label}” builds on an arm that does not come before it.`);
  });
  if (plan.due && plan.notBefore && plan.due < plan.notBefore)
    issue('due', 'It would be due before it may begin.');
  if (protocol.oneWay) {
    const baseline = plan.arms.find((arm) => arm.role === 'baseline')?.key ?? '';
    if (plan.controlId === null)
      issue('controlId', 'Name the control vehicle that is measured before and after each arm.');
    if (!plan.remount) issue('remount', 'Without return every run is strapped down anew.');
    if (!isOneWayOrder(plan.order, baseline))
      issue('order', 'Two runs or more of the baseline come first, then two or more of the part.');
  } else if (plan.controlId !== null)
    issue('controlId', 'Only a plan without return names a control vehicle.');
  if (plan.series.length > 0 && !protocol.series) issue('series', 'This protocol makes one test.');
});
export type PlanRequest = z.infer<typeof PlanRequest>;
/** Who is to run a test: a partner shop, or the house. */
export const AssignRequest = z.object({ partnerId: z.uuid().nullable() });
/** The plan as it was read by whoever changes or locks it (`updatedAt`): another is not changed unseen. */
export const BasedOn = z.object({ basedOn: z.iso.datetime().optional() });
export type PlanDraft = z.input<typeof PlanRequest>;

/** A change to a locked plan. Only what is named here can be amended; the arms themselves cannot. */
export const AmendRequest = z
  .object({
    reason: z.string().trim().min(10, 'Give the reason in a sentence.').max(1000),
    changes: z
      .object(amendable)
      .partial()
      .extend({
        addedRun: z.object({ arm: armKey, newMount: z.boolean() }).optional(),
        /** A left-out pull that is made again at the end of its run. */
        repeatedPull: z.object({ pullId: z.uuid() }).optional(),
      })
      .strict(),
  })
  .refine((r) => Object.values(r.changes).some((v) => v !== undefined), {
    message: 'Nothing is changed.',
    path: ['changes'],
  });
export type AmendRequest = z.infer<typeof AmendRequest>;
export type AmendDraft = z.input<typeof AmendRequest>;
