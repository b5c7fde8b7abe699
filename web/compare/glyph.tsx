import type { Glyph as GlyphData } from '../../contract/compare/glyph.ts';
import { bandPath, gainPath, straight, type RibbonPoint } from './ribbon-drawing.ts';
import { standings } from './standings.ts';

/** A band never fills the height by itself: ±2 of whatever is told is always in view. */
const LEAST_REACH = 2;

/** The gain ribbon in small: known by its shape before a number is read. */
export function Glyph({
  glyph,
  width = 112,
  height = 34,
  label,
}: {
  glyph: GlyphData | null;
  width?: number;
  height?: number;
  label?: string;
}) {
  if (!glyph) return <NoResult width={width} height={height} />;
  const { rpm, gain, lower, upper } = glyph;
  const points = rpm.map((r, i): RibbonPoint => ({
    rpm: r,
    gain: gain[i],
    lower: lower[i],
    upper: upper[i],
  }));
  const reach = Math.max(LEAST_REACH, ...upper.map(Math.abs), ...lower.map(Math.abs));
  const scales = {
    x: straight([rpm[0], rpm.at(-1)!], [1, width - 1]),
    y: straight([-reach, reach], [height - 1, 1]),
  };
  const parts = standings(lower, upper).map((part) => ({
    ...part,
    piece: points.slice(part.from, part.to + 1),
  }));
  const zero = scales.y(0);
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`Gain ribbon: ${label ?? words(parts)}`}
      className="block"
    >
      {parts.map(({ from, piece, standing }) => (
        <path
          key={from}
          d={bandPath(piece, scales)}
          fill={standing === 'loss' ? 'var(--loss)' : 'var(--stands)'}
          opacity={standing === 'open' ? 0.12 : 0.3}
        />
      ))}
      <line x1="0" x2={width} y1={zero} y2={zero} stroke="var(--ink)" strokeWidth="1" />
      {parts.map(({ from, piece, standing }) => (
        <path
          key={from}
          d={gainPath(piece, scales)}
          fill="none"
          stroke={standing === 'loss' ? 'var(--loss)' : 'var(--stands)'}
          strokeWidth={standing === 'open' ? 1.2 : 2.4}
          strokeDasharray={standing === 'open' ? '3 2.5' : undefined}
        />
      ))}
    </svg>
  );
}

const words = (parts: ReturnType<typeof standings>): string =>
  (parts.some((p) => p.standing === 'gain') ? 'gain shown' : 'no gain shown') +
  (parts.some((p) => p.standing === 'loss') ? ', with a proven loss' : '');

function NoResult({ width, height }: { width: number; height: number }) {
  return (
    <svg width={width} height={height} role="img" aria-label="no result yet">
      <line
        x1="2"
        x2={width - 2}
        y1={height / 2}
        y2={height / 2}
        stroke="var(--rule)"
        strokeDasharray="2 4"
      />
    </svg>
  );
}
