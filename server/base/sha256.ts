import { subtle } from 'node:crypto';

/** SHA-256 in hex, taken beside the thread that answers: a large file takes a while. */
export const sha256Of = async (bytes: Buffer): Promise<string> =>
  Buffer.from(await subtle.digest('SHA-256', bytes)).toString('hex');
