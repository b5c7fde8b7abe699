/** Straight scales and round ticks for drawings that are not Recharts'. */
export interface Scale {
  (value: number): number;
  readonly from: number;
  readonly to: number;
}
export function scale(from: number, to: number, low: number, high: number): Scale {
  return Object.assign((value: number): number => low + ((value - from) / (to - from)) * (high - low), {
    from,
    to,
  });
}
/** Round steps (1, 2, 5 times a power of ten) that cover a range with about `count` of them. */
export function ticks(from: number, to: number, count: number): number[] {
  const raw = (to - from) / count;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = ([1, 2, 5, 10].find((m) => m * power >= raw) ?? 10) * power;
  const first = Math.ceil(from / step - 1e-9) * step;
  return Array.from({ length: Math.floor((to - first) / step + 1e-9) + 1 }, (_, i) =>
    Number((first + i * step).toPrecision(12)),
  );
}
export const path = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)},${y.toFixed(1)}`).join('');

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
