/**
 * SHA-256 of a file as hex, taken in the browser; undefined where the browser gives no means for it (an address that
 * is not secure).
 */
export async function fileHash(file: Blob): Promise<string | undefined> {
  const { subtle } = globalThis.crypto as Crypto & { subtle?: SubtleCrypto };
  if (!subtle) return undefined;
  const digest = await subtle.digest('SHA-256', await file.arrayBuffer());
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}
