/** What every answer of the server has in common. */
import { z } from 'zod';
import { ROLES } from './roles.ts';
import './words.ts';

/** A refusal: a closed code, a sentence that says what, where and what to do, and the parts it was made from. */
export const RefusalSchema = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    action: z.string().optional(),
    where: z
      .object({ file: z.string(), line: z.number(), column: z.string(), path: z.string() })
      .partial()
      .optional(),
    details: z.record(z.string(), z.unknown()).optional(),
  }),
});
export type Refusal = z.infer<typeof RefusalSchema>;

export const PersonSchema = z.object({
  id: z.string(),
  name: z.string(),
  email: z.string(),
  role: z.enum(ROLES),
  clearance: z.boolean(),
});
export type Person = z.infer<typeof PersonSchema>;

export const SessionSchema = z.object({ person: PersonSchema.nullable(), demo: z.boolean() });
export type Session = z.infer<typeof SessionSchema>;

export const SignInRequest = z.object({
  email: z.email('Write the whole address, as name@house.example.'),
  password: z.string().min(1, 'Write the password.').max(200),
});
/** Shortest password that may be chosen: NIST SP 800-63B asks for 8 at the least, and for 15 where it stands alone (memory). */
export const SHORTEST_PASSWORD = 12;
export const PasswordRequest = z
  .object({
    present: z.string().min(1, 'Write the password you have now.').max(200),
    next: z
      .string()
      .min(SHORTEST_PASSWORD, `Take ${SHORTEST_PASSWORD} characters or more.`)
      .max(200, 'Take 200 characters at the most.'),
  })
  .refine(({ present, next }) => present !== next, {
    path: ['next'],
    message: 'Take another than the one you have now.',
  });
export const DemoSignInRequest = z.object({ personId: z.uuid() });
export type DemoPeople = z.infer<typeof DemoPeopleSchema>;
export const DemoPeopleSchema = z.array(
  PersonSchema.pick({ id: true, name: true, role: true }).extend({ does: z.string() }),
);
