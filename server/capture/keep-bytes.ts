import type { Queryable } from '../base/db.ts';
import { rawFiles } from './tables.ts';

/** Keeps bytes as they came, under their SHA-256; those that are there already stay as they are. */
export async function keepBytes(
  tx: Queryable,
  sha256: string,
  bytes: Buffer,
  by: { readonly at: Date; readonly personId: string },
): Promise<void> {
  await tx
    .insert(rawFiles)
    .values({ sha256, bytes, size: bytes.length, storedAt: by.at, storedBy: by.personId })
    .onConflictDoNothing();
}
