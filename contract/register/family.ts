/** Whether one test could serve another fitment of the family. */
import { z } from 'zod';

export const CarryOverSchema = z.object({
  state: z.enum(['same', 'serves', 'barred']),
  bars: z.array(z.object({ code: z.string(), text: z.string() })),
  differs: z.array(z.string()),
});
