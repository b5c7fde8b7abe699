/** Welch-Satterthwaite: total variance of the parts and its effective degrees of freedom. */
export function welchSatterthwaite(
  parts: readonly number[],
  df: readonly number[],
): { u2: number; nu: number } {
  const u2 = parts.reduce((a, b) => a + b, 0);
  const denominator = parts.reduce(
    (sum, part, i) => sum + (Number.isFinite(df[i]) ? part ** 2 / df[i] : 0),
    0,
  );
  return { u2, nu: denominator === 0 ? Infinity : u2 ** 2 / denominator };
}
