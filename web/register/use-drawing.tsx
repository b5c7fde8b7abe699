import { scaleLinear } from 'd3-scale';
import { USE_RANGE, type UsePoint } from '../../core/register/use-profile.ts';

const [WIDTH, HEIGHT, FOOT] = [220, 74, 16];
const TICKS = [25, 50, 75, 100];

/** Weight over engine speed, from standstill to a little over the speed of largest power. */
export function UseDrawing({ points }: { points: readonly UsePoint[] }) {
  const x = scaleLinear([0, Math.max(115, Math.min(USE_RANGE.to, points.at(-1)!.at))], [0, WIDTH]);
  const y = scaleLinear([0, Math.max(...points.map((p) => p.weight))], [HEIGHT - FOOT, 4]);
  const line = points.map((p) => `${x(p.at)},${y(p.weight)}`).join(' L');
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`Weights: ${points.map((p) => `${p.weight} at ${p.at} %`).join(', ')}`}
      className="text-[11px]"
    >
      <path
        d={`M${x(points[0].at)},${y(0)} L${line} L${x(points.at(-1)!.at)},${y(0)} Z`}
        fill="var(--stands)"
        opacity="0.22"
      />
      <path d={`M${line}`} fill="none" stroke="var(--stands)" strokeWidth="2" />
      <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--rule)" />
      {TICKS.map((at) => (
        <text key={at} x={x(at)} y={HEIGHT - 3} textAnchor="middle" fill="var(--soft)">
          {at} %
        </text>
      ))}
    </svg>
  );
}
