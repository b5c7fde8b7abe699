export type Standing = 'gain' | 'loss' | 'open';
/** Runs of the curve by what the band shows; neighbours share their border so that fills meet. */
export function standings(
  lower: readonly number[],
  upper: readonly number[],
): { from: number; to: number; standing: Standing }[] {
  const at = (i: number): Standing => (lower[i] > 0 ? 'gain' : upper[i] < 0 ? 'loss' : 'open');
  const out: { from: number; to: number; standing: Standing }[] = [];
  for (let i = 0; i < lower.length; i++) {
    const last = out.at(-1);
    if (last && last.standing === at(i)) last.to = i;
    else {
      if (last) last.to = i;
      out.push({ from: i, to: i, standing: at(i) });
    }
  }
  return out;
}
