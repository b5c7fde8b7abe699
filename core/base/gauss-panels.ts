/** Nodes and weights of five-point Gauss-Legendre quadrature (Abramowitz & Stegun table 25.4). */
const GAUSS5 = [
  [0, 0.5688888888888889],
  [-0.5384693101056831, 0.47862867049936647],
  [0.5384693101056831, 0.47862867049936647],
  [-0.906179845938664, 0.23692688505618908],
  [0.906179845938664, 0.23692688505618908],
] as const;

export interface Node {
  readonly at: number;
  readonly weight: number;
}
/** Points and weights of an integral from one end to the other, in panels of five points. */
export function gaussPanels(from: number, to: number, panels: number): Node[] {
  const h = (to - from) / panels;
  return Array.from({ length: panels }, (_, i) => from + (i + 0.5) * h).flatMap((mid) =>
    GAUSS5.map(([node, weight]) => ({ at: mid + (node * h) / 2, weight: (weight * h) / 2 })),
  );
}
