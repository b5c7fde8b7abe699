import type { Rows } from './common-grid.ts';

/** Default width of the moving average in rpm; the gain is then the gain over a window this wide. */
export const SMOOTHING_RPM = 200;
/** Standard deviation of the kernel that smooths the variance along rpm. */
export const VARIANCE_KERNEL_RPM = 500;

/**
 * Centred moving average of half-width `floor(width/(2·step) + 0.5)` points, shrinking symmetrically
 * at the ends so that no point is shifted along rpm.
 */
export function smoothed(row: ArrayLike<number>, stepRpm: number, widthRpm = SMOOTHING_RPM): Float64Array {
  const G = row.length;
  const h = Math.floor(widthRpm / (2 * stepRpm) + 0.5);
  const out = new Float64Array(G);
  for (let j = 0; j < G; j++) {
    const k = Math.min(h, j, G - 1 - j);
    let sum = 0;
    for (let q = j - k; q <= j + k; q++) sum += row[q];
    out[j] = sum / (2 * k + 1);
  }
  return out;
}

export const smoothedRows = (rows: Rows, stepRpm: number, widthRpm?: number): Float64Array[] =>
  rows.map((row) => smoothed(row, stepRpm, widthRpm));

/** Gaussian kernel on the grid with rows normalised to one. */
export function varianceKernel(rpm: readonly number[], sdRpm = VARIANCE_KERNEL_RPM): Float64Array[] {
  return rpm.map((r) => {
    const row = Float64Array.from(rpm, (q) => Math.exp(-0.5 * ((r - q) / sdRpm) ** 2));
    const total = row.reduce((a, b) => a + b, 0);
    return row.map((k) => k / total);
  });
}

/** Kernels of the grids last seen: making one costs more than all else a band does. */
const kernels = new Map<string, Float64Array[]>();
const KERNELS_KEPT = 8;
function keptKernel(rpm: readonly number[], sdRpm: number): Float64Array[] {
  const key = `${sdRpm}: ${rpm.join(' ')}`;
  let kernel = kernels.get(key);
  if (!kernel) {
    if (kernels.size >= KERNELS_KEPT) kernels.clear();
    kernels.set(key, (kernel = varianceKernel(rpm, sdRpm)));
  }
  return kernel;
}

/** Variance curve smoothed along rpm by `varianceKernel`. */
export function smoothedVariance(
  s2: ArrayLike<number>,
  rpm: readonly number[],
  sdRpm = VARIANCE_KERNEL_RPM,
): Float64Array {
  return Float64Array.from(keptKernel(rpm, sdRpm), (row) => {
    let sum = 0;
    for (let q = 0; q < row.length; q++) sum += row[q] * s2[q];
    return sum;
  });
}
