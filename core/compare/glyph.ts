import { isRefused, type Contrast, type RefusedContrast } from './result.ts';

/** A gain curve thinned to at most 41 points: enough to be known by its shape. Per cent. */
export interface Glyph {
  rpm: number[];
  gain: number[];
  lower: number[];
  upper: number[];
}

/** The glyph of a contrast; null where there is none to draw. */
export function glyphOf(contrast: Contrast | RefusedContrast | undefined): Glyph | null {
  if (!contrast || isRefused(contrast)) return null;
  const { curve } = contrast.relative;
  const step = Math.max(1, Math.ceil((curve.length - 1) / 40));
  const points = curve.filter((_, i) => i % step === 0 || i === curve.length - 1);
  const round = (value: number): number => Number(value.toFixed(3));
  return {
    rpm: points.map((p) => p.rpm),
    gain: points.map((p) => round(p.gain)),
    lower: points.map((p) => round(p.lower)),
    upper: points.map((p) => round(p.upper)),
  };
}
