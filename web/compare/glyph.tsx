import type { Glyph as GlyphData } from '../../contract/compare/glyph.ts';
import { path, scale, standings } from './scale.ts';

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
  if (!glyph)
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
  const { rpm, gain, lower, upper } = glyph;
  const reach = Math.max(2, ...upper.map(Math.abs), ...lower.map(Math.abs));
  const x = scale(rpm[0], rpm.at(-1)!, 1, width - 1);
  const y = scale(-reach, reach, height - 1, 1);
  const parts = standings(lower, upper);
  const between = (from: number, to: number): number[] =>
    Array.from({ length: to - from + 1 }, (_, k) => from + k);
  const text =
    label ??
    (parts.some((p) => p.standing === 'gain') ? 'gain shown' : 'no gain shown') +
      (parts.some((p) => p.standing === 'loss') ? ', with a proven loss' : '');
  return (
    <svg width={width} height={height} role="img" aria-label={`Gain ribbon: ${text}`} className="block">
      {parts.map(({ from, to, standing }) => {
        const ids = between(from, to);
        const area = path([
          ...ids.map((i) => [x(rpm[i]), y(upper[i])] as const),
          ...ids.reverse().map((i) => [x(rpm[i]), y(lower[i])] as const),
        ]);
        return (
          <path
            key={from}
            d={`${area}Z`}
            fill={standing === 'loss' ? 'var(--loss)' : 'var(--stands)'}
            opacity={standing === 'gain' ? 0.3 : standing === 'loss' ? 0.3 : 0.12}
          />
        );
      })}
      <line x1="0" x2={width} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth="1" />
      {parts.map(({ from, to, standing }) => (
        <path
          key={from}
          d={path(between(from, to).map((i) => [x(rpm[i]), y(gain[i])]))}
          fill="none"
          stroke={standing === 'loss' ? 'var(--loss)' : 'var(--stands)'}
          strokeWidth={standing === 'open' ? 1.2 : 2.4}
          strokeDasharray={standing === 'open' ? '3 2.5' : undefined}
        />
      ))}
    </svg>
  );
}
