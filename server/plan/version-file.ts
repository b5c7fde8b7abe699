/**
 * A version of a plan as a file: the document as it was hashed, so that anyone can take the hash again. It names parts
 * by reference; what each reference is called for this reader stands beside it.
 */
import type { planVersions } from './tables.ts';

const REFERENCE = /⟦[^⟧]*⟧/g;
/** In JSON the brackets may be written as escapes: what resolves references in an answer then leaves them as they are. */
const escaped = (json: string): string => json.replaceAll('⟦', '\\u27e6').replaceAll('⟧', '\\u27e7');

export function versionFile({
  version,
  at,
  hash,
  reason,
  document,
}: typeof planVersions.$inferSelect): string {
  const references = [...new Set(JSON.stringify(document).match(REFERENCE) ?? [])].sort();
  const names = references.map((ref) => `    ${escaped(JSON.stringify(ref))}: ${JSON.stringify(ref)}`);
  return [
    '{',
    `  "version": ${version},`,
    `  "at": ${JSON.stringify(at)},`,
    `  "reason": ${JSON.stringify(reason)},`,
    `  "sha256": ${JSON.stringify(hash)},`,
    `  "names": {${names.length ? `\n${names.join(',\n')}\n  ` : ''}},`,
    `  "plan": ${escaped(JSON.stringify(document, null, 2))}`,
    '}',
    '',
  ].join('\n');
}
