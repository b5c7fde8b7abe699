/** Largest pull file accepted, bytes. */
export const MAX_PULL_FILE_BYTES = 50 * 1024 * 1024;
/** Fewest samples with engine speed and torque or power. */
export const MIN_SAMPLES = 20;
