import type { Request } from 'express';
import { decodeText } from '../../core/base/text.ts';
import { RefusalError } from './refusals.ts';

/**
 * Reads a body of bytes up to a limit; what is too long is drained, so that the refusal arrives.
 * @param tooLarge makes the refusal from the size that came, bytes
 */
export function rawBody(
  req: Request,
  limit: number,
  tooLarge: (size: number) => Error,
  brokeOff: () => Error = () =>
    new RefusalError(400, 'UPLOAD_BROKE_OFF', 'The upload broke off.', 'Send it again.'),
): Promise<Buffer> {
  // A body that was read as JSON already cannot be read again: waiting for it would wait for ever.
  if (req.readableEnded)
    return Promise.reject(
      new RefusalError(
        415,
        'SENT_AS_JSON',
        'The content was sent as JSON.',
        'Send the file itself, with its own content type.',
      ),
    );
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    let size = 0;
    req.on('data', (chunk: Buffer) => {
      size += chunk.length;
      if (size <= limit) chunks.push(chunk);
      else chunks.length = 0;
    });
    req.on('end', () => {
      if (size > limit) reject(tooLarge(size));
      else resolve(Buffer.concat(chunks));
    });
    req.on('error', reject);
    req.on('aborted', () => reject(brokeOff()));
  });
}

/** Largest table that may be sent to be imported, bytes. */
const TABLE_LIMIT = 8 * 1024 * 1024;

/** A table as text, in whatever encoding spreadsheets write; what is no text is refused (`PullFileError` NOT_TEXT). */
export async function rawText(req: Request): Promise<string> {
  const bytes = await rawBody(
    req,
    TABLE_LIMIT,
    (size) =>
      new RefusalError(
        413,
        'TABLE_TOO_LARGE',
        `The table has ${(size / 1048576).toFixed(1)} MB; ${TABLE_LIMIT / 1048576} MB can be read at once.`,
        'Send it in parts.',
      ),
  );
  return bytes.length === 0 ? '' : decodeText(bytes).text;
}
