/** Which fitments a part is listed for. */
import { z } from 'zod';
import { PartInput, RevisionInput } from './register.ts';

/** A new part with its first revision, and the fitments it is listed for at once. */
export const NewPartRequest = z.object({
  part: PartInput,
  revision: RevisionInput,
  fitmentIds: z.array(z.uuid()).max(500).default([]),
});
export const ApplicationRequest = z.object({
  partId: z.uuid(),
  fitmentIds: z.array(z.uuid()).min(1).max(500),
  fits: z.boolean(),
});
