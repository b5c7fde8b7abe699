import { z } from 'zod';
import type { RecordingSummary } from '../../core/capture/session/recording-summary.ts';

/** Made by the server from the recording, read as it is. */
export const RecordingSummarySchema = z.custom<RecordingSummary>(
  (value) => typeof value === 'object' && value !== null && 'curve' in value,
);
