import type { Request } from 'express';
import { RefusalError } from './refusals.ts';

/** Largest table that may be sent to be imported, bytes. */
const TABLE_LIMIT = 8 * 1024 * 1024;

/** Reads a body of text up to a limit; what is too long is drained, so that the refusal arrives. */
export function rawText(req: Request, limit = TABLE_LIMIT): Promise<string> {
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    let size = 0;
    req.on('data', (chunk: Buffer) => { size += chunk.length; if (size <= limit) chunks.push(chunk); else chunks.length = 0; });
    req.on('end', () => {
      if (size > limit) { reject(new RefusalError(413, 'TABLE_TOO_LARGE', `The table has ${(size / 1048576).toFixed(1)} MB; ${limit / 1048576} MB can be read at once.`, 'Send it in parts.')); return; }
      const bytes = Buffer.concat(chunks);
      const utf8 = bytes.toString('utf8');
      // Spreadsheets on older systems write Latin-1: bytes that are no UTF-8 are read so.
      resolve(utf8.includes('\ufffd') ? new TextDecoder('windows-1252').decode(bytes) : utf8);
    });
    req.on('error', reject);
    req.on('aborted', () => reject(new RefusalError(400, 'UPLOAD_BROKE_OFF', 'The upload broke off.', 'Send the table again.')));
  });
}
