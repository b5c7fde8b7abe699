import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { signed } from '../base/format.ts';
import { useWidth } from '../base/use-width.ts';

export interface ForestRow {
  readonly label: string;
  readonly gain: { readonly gain: number; readonly lower: number; readonly upper: number };
  readonly kind: 'vehicle' | 'session' | 'mean';
}
const [ROW, HEAD, NAMES, NUMBERS] = [26, 20, 210, 166];

/** Gains with their limits under each other, on one scale with zero marked. */
export function Forest({ rows }: { rows: readonly ForestRow[] }) {
  const [ref, width] = useWidth<HTMLDivElement>(760);
  const [low = 0, high = 0] = extent([0, ...rows.flatMap(({ gain }) => [gain.lower, gain.upper])]);
  const pad = 0.05 * (high - low || 1);
  const x = scaleLinear([low - pad, high + pad], [NAMES, Math.max(NAMES + 80, width - NUMBERS)]);
  const height = HEAD + ROW * rows.length + 6;
  return (
    <div ref={ref} className="[contain:inline-size]">
      <svg width={width} height={height} role="img" aria-label={spoken(rows)} className="block text-[12.5px]">
        {x.ticks(6).map((v) => (
          <g key={v}>
            <line
              x1={x(v)}
              x2={x(v)}
              y1={HEAD}
              y2={height}
              stroke={v === 0 ? 'var(--ink)' : 'var(--rule)'}
              strokeWidth={v === 0 ? 1.5 : 1}
            />
            <text x={x(v)} y={13} textAnchor="middle" fill="var(--soft)" fontSize="11">
              {v === 0 ? '0' : `${signed(v, Number.isInteger(v) ? 0 : 1)} %`}
            </text>
          </g>
        ))}
        {rows.map((row, i) => (
          <Row key={row.label} row={row} y={HEAD + ROW * (i + 0.5)} x={x} right={width - 4} />
        ))}
      </svg>
    </div>
  );
}

const spoken = (rows: readonly ForestRow[]): string =>
  rows
    .map(
      ({ label, gain }) =>
        `${label}: ${signedGain(gain.gain)} %, ${signedGain(gain.lower)} to ${signedUpper(gain.upper)}`,
    )
    .join('; ');

function Row({
  row: { label, gain, kind },
  y,
  x,
  right,
}: {
  row: ForestRow;
  y: number;
  x: (v: number) => number;
  right: number;
}) {
  const color = gain.lower > 0 ? 'var(--stands)' : gain.upper < 0 ? 'var(--loss)' : 'var(--soft)';
  const isSession = kind === 'session';
  return (
    <g>
      <text
        x={isSession ? 18 : 2}
        y={y + 4}
        fill={isSession ? 'var(--soft)' : 'var(--ink)'}
        fontWeight={kind === 'mean' ? 640 : 400}
      >
        {label}
      </text>
      <line
        x1={x(gain.lower)}
        x2={x(gain.upper)}
        y1={y}
        y2={y}
        stroke={color}
        strokeWidth={isSession ? 1.2 : 2.4}
      />
      {kind === 'mean' ? (
        <path
          d={`M${x(gain.lower)},${y} L${x(gain.gain)},${y - 7} L${x(gain.upper)},${y} L${x(gain.gain)},${y + 7} Z`}
          fill={color}
          opacity="0.35"
        />
      ) : (
        <rect
          x={x(gain.gain) - (isSession ? 3 : 4.5)}
          y={y - (isSession ? 3 : 4.5)}
          width={isSession ? 6 : 9}
          height={isSession ? 6 : 9}
          fill={color}
        />
      )}
      <text x={right} y={y + 4} textAnchor="end" fill={isSession ? 'var(--soft)' : 'var(--ink)'}>
        {signedGain(gain.gain)} % ({signedGain(gain.lower)} to {signedUpper(gain.upper)})
      </text>
    </g>
  );
}
