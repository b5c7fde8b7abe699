/** The labels that a text names, in its order; what lies between them is kept. */
export function partedByLabels(text: string, labels: readonly string[]): { text: string; label: boolean }[] {
  if (labels.length === 0) return [{ text, label: false }];
  const known = [...labels]
    .sort((a, b) => b.length - a.length)
    .map((label) => label.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&'));
  const named = new RegExp(`(?<![\\p{L}\\p{N}])(${known.join('|')})(?![\\p{L}\\p{N}])`, 'gu');
  const parts: { text: string; label: boolean }[] = [];
  let from = 0;
  for (const found of text.matchAll(named)) {
    if (found.index > from) parts.push({ text: text.slice(from, found.index), label: false });
    parts.push({ text: found[0], label: true });
    from = found.index + found[0].length;
  }
  if (from < text.length) parts.push({ text: text.slice(from), label: false });
  return parts;
}
