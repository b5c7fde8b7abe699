/** What the gain ribbon is drawn of. */
import { signedGain } from '../../core/base/rounding.ts';
import { number, signed } from '../base/format.ts';
import { bandPath, gainPath, type RibbonPoint } from './ribbon-drawing.ts';
import type { Frame, RibbonScales } from './ribbon-scales.ts';
import type { Standing } from './standings.ts';

export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly standing: Standing;
}
const COLOR = { gain: 'var(--stands)', loss: 'var(--loss)', open: 'var(--stands)' } as const;
/** Of a point in the drawing, where it would not cover the line. */
const NEAR_THE_EDGE_PX = 150;

/** Hatching for what is not shown either way, and for proven losses; `id` keeps two ribbons of a page apart. */
export function Hatching({ id }: { id: string }) {
  return (
    <defs>
      <pattern
        id={`${id}open`}
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <line x1="0" y1="0" x2="0" y2="6" stroke="var(--stands)" strokeWidth="1.1" opacity="0.35" />
      </pattern>
      <pattern
        id={`${id}loss`}
        width="5"
        height="5"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(-45)"
      >
        <line x1="0" y1="0" x2="0" y2="5" stroke="var(--loss)" strokeWidth="1.8" opacity="0.75" />
      </pattern>
    </defs>
  );
}

export function Axes({ x, y, frame, unit }: RibbonScales & { frame: Frame; unit: string }) {
  const rpmTicks = Math.max(4, Math.floor((frame.right - frame.left) / 95));
  const gainTicks = Math.max(3, Math.floor((frame.bottom - frame.top) / 48));
  return (
    <>
      {y.ticks(gainTicks).map((v) => (
        <g key={v}>
          <line
            x1={frame.left}
            x2={frame.right}
            y1={y(v)}
            y2={y(v)}
            stroke={v === 0 ? 'var(--ink)' : 'var(--rule)'}
            strokeWidth={v === 0 ? 1.5 : 1}
          />
          <text x={frame.left - 7} y={y(v) + 4} textAnchor="end" fill="var(--soft)">
            {v === 0 ? '0' : signed(v, Number.isInteger(v) ? 0 : 1)}
          </text>
        </g>
      ))}
      <text x={frame.left} y={13} fill="var(--soft)">
        {unit === '%' ? '% of stock' : `${unit} over stock, at the wheel`}
      </text>
      {x.ticks(rpmTicks).map((r) => (
        <text key={r} x={x(r)} y={frame.bottom + 40} textAnchor="middle" fill="var(--soft)">
          {number(r, 0)}
        </text>
      ))}
    </>
  );
}

/** The band of one stretch, and the strip under the curve where it stands or is lost. */
export function Band({
  piece,
  standing,
  stripY,
  id,
  ...scales
}: RibbonScales & { piece: readonly RibbonPoint[]; standing: Standing; stripY: number; id: string }) {
  const left = scales.x(piece[0].rpm);
  return (
    <g>
      <path
        d={bandPath(piece, scales)}
        fill={standing === 'gain' ? COLOR.gain : `url(#${id}${standing})`}
        opacity={standing === 'gain' ? 0.22 : 1}
      />
      {standing !== 'open' && (
        <rect
          x={left}
          y={stripY}
          width={Math.max(3, scales.x(piece.at(-1)!.rpm) - left)}
          height="6"
          fill={standing === 'gain' ? COLOR.gain : `url(#${id}loss)`}
        />
      )}
    </g>
  );
}

/** A stretch that somebody drew over the curve. */
export function DrawnStretch({
  x,
  window: { fromRpm, toRpm },
  frame,
}: RibbonScales & { window: { fromRpm: number; toRpm: number }; frame: Frame }) {
  const [left, right] = [x(fromRpm), x(toRpm)];
  return (
    <g pointerEvents="none">
      <rect
        x={left}
        y={frame.top}
        width={Math.max(1, right - left)}
        height={frame.bottom - frame.top}
        fill="var(--ask)"
        opacity="0.1"
      />
      {[left, right].map((at) => (
        <line
          key={at}
          x1={at}
          x2={at}
          y1={frame.top}
          y2={frame.bottom}
          stroke="var(--ask)"
          strokeDasharray="3 3"
        />
      ))}
    </g>
  );
}

export function GainLine({
  piece,
  standing,
  ...scales
}: RibbonScales & { piece: readonly RibbonPoint[]; standing: Standing }) {
  return (
    <path
      d={gainPath(piece, scales)}
      fill="none"
      stroke={COLOR[standing]}
      strokeWidth={standing === 'open' ? 1.6 : 3}
      strokeDasharray={standing === 'open' ? '5 4' : undefined}
      strokeLinejoin="round"
    />
  );
}

const WORDS = { gain: 'substantiated', loss: 'proven loss', open: 'not shown either way' } as const;
const INK = { gain: 'var(--ink)', loss: 'var(--loss)', open: 'var(--soft)' } as const;
/** Share of the window a stretch needs to carry its words. */
const WIDE_ENOUGH = { gain: 0.13, loss: 0.1, open: 0.2 } as const;

export function StretchWords({
  parts,
  curve,
  x,
  y,
}: {
  parts: readonly Stretch[];
  curve: readonly RibbonPoint[];
  x: RibbonScales['x'];
  y: number;
}) {
  const width = ({ from, to }: Stretch): number => curve[to].rpm - curve[from].rpm;
  const whole = curve.at(-1)!.rpm - curve[0].rpm;
  return parts
    .filter((part) => width(part) > whole * WIDE_ENOUGH[part.standing])
    .map(({ from, to, standing }) => (
      <text
        key={from}
        x={x((curve[from].rpm + curve[to].rpm) / 2)}
        y={y}
        textAnchor="middle"
        paintOrder="stroke"
        stroke="var(--paper)"
        strokeWidth="4"
        fontWeight={standing === 'open' ? 400 : 640}
        fill={INK[standing]}
      >
        {WORDS[standing]}
      </text>
    ));
}

/** Where the claimed gain is read off. */
export function UpToMark({
  upTo,
  unit,
  x,
  y,
  frame,
}: RibbonScales & { upTo: { gain: number; rpm: number }; unit: string; frame: Frame }) {
  const [cx, cy] = [x(upTo.rpm), y(upTo.gain)];
  const leftwards = cx > frame.right - NEAR_THE_EDGE_PX;
  return (
    <g>
      <line x1={cx} x2={cx} y1={y(0)} y2={cy} stroke="var(--ink)" strokeWidth="1.5" />
      <circle cx={cx} cy={cy} r="5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
      <text
        x={cx + (leftwards ? -10 : 10)}
        y={cy + 19}
        textAnchor={leftwards ? 'end' : 'start'}
        fontWeight="640"
        fill="var(--ink)"
      >
        up to {signedGain(upTo.gain)} {unit}
      </text>
    </g>
  );
}

/** The point that is read by pointer or keys. */
export function ReadingMark({ at, x, y, frame }: RibbonScales & { at: RibbonPoint; frame: Frame }) {
  return (
    <g pointerEvents="none" data-only-on-screen>
      <line
        x1={x(at.rpm)}
        x2={x(at.rpm)}
        y1={frame.top}
        y2={frame.bottom}
        stroke="var(--ink)"
        strokeWidth="1"
        strokeDasharray="2 3"
      />
      <circle cx={x(at.rpm)} cy={y(at.gain)} r="3.5" fill="var(--ink)" />
    </g>
  );
}
