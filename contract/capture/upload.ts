/** Files that are sent in parts, so that a connection that breaks costs a part and not the file. */
import { z } from 'zod';

/** What a part may have at most, bytes. */
export const MAX_PART_BYTES = 1024 * 1024;
export const ReceivedSchema = z.object({
  /** Bytes that are here, from the first on without a gap. */ received: z.number(),
});
export type Received = z.infer<typeof ReceivedSchema>;
