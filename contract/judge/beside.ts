/** Gates that look beyond the session, as the interface reads them. */
import { z } from 'zod';
import { BESIDE_GATES } from '../../core/judge/finding.ts';

export const BesideSchema = z.object({
  findings: z.array(
    z.object({
      gate: z.enum(BESIDE_GATES),
      state: z.enum(['pass', 'caution', 'fail']),
      code: z.string(),
      message: z.string(),
      why: z.string().optional(),
      mend: z.string().optional(),
    }),
  ),
});
export type Beside = z.infer<typeof BesideSchema>;
