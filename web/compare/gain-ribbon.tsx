import { useId, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { number, rpm as rpmText, signed } from '../base/format.ts';
import { useWidth } from '../base/use-width.ts';
import { path, scale, standings, ticks } from './scale.ts';

export interface RibbonPoint {
  readonly rpm: number;
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
}

/**
 * The gain over stock with the band that holds the whole true curve. Substantiated stretches are inked
 * solid, the rest is hatched and dashed, proven losses are notched below the zero line.
 */
export function GainRibbon({
  curve,
  unit,
  upTo,
  height = 350,
}: {
  curve: readonly RibbonPoint[];
  unit: string;
  upTo: { gain: number; rpm: number } | null;
  height?: number;
}) {
  const [ref, width] = useWidth<HTMLDivElement>(780);
  const [cursor, setCursor] = useState<number | null>(null);
  const id = useId();
  const margin = { left: 46, right: 18, top: 22, bottom: 46 };
  const first = curve[0],
    last = curve.at(-1)!;
  const span = Math.max(...curve.map((p) => p.upper), 0) - Math.min(...curve.map((p) => p.lower), 0);
  const x = scale(first.rpm, last.rpm, margin.left, width - margin.right);
  const y = scale(
    Math.min(...curve.map((p) => p.lower), 0) - span * 0.1,
    Math.max(...curve.map((p) => p.upper), 0) + span * 0.06,
    height - margin.bottom,
    margin.top,
  );
  const parts = standings(
    curve.map((p) => p.lower),
    curve.map((p) => p.upper),
  );
  const pieces = (from: number, to: number): RibbonPoint[] => curve.slice(from, to + 1);
  const at = cursor === null ? null : curve[cursor];
  const stripY = height - margin.bottom + 8;

  const byPointer = (event: PointerEvent<SVGSVGElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = (event.clientX - box.left - margin.left) / (width - margin.left - margin.right);
    setCursor(Math.max(0, Math.min(curve.length - 1, Math.round(share * (curve.length - 1)))));
  };
  const byKey = (event: KeyboardEvent): void => {
    const step = {
      ArrowRight: 1,
      ArrowLeft: -1,
      PageUp: 10,
      PageDown: -10,
      Home: -curve.length,
      End: curve.length,
    }[event.key];
    if (step === undefined) {
      if (event.key === 'Escape') setCursor(null);
      return;
    }
    event.preventDefault();
    setCursor((now) =>
      Math.max(0, Math.min(curve.length - 1, (now ?? (step > 0 ? -1 : curve.length)) + step)),
    );
  };
  const spoken = at
    ? `${rpmText(at.rpm)}: gain ${signedGain(at.gain)} ${unit}, ${signedGain(at.lower)} to ${signedUpper(at.upper)}`
    : 'Use the arrow keys to read the curve';

  return (
    <div ref={ref} className="relative">
      <svg
        width={width}
        height={height}
        role="slider"
        tabIndex={0}
        aria-label={`Gain over stock by rpm, ${unit}`}
        aria-valuemin={first.rpm}
        aria-valuemax={last.rpm}
        aria-valuenow={at?.rpm ?? first.rpm}
        aria-valuetext={spoken}
        onPointerMove={byPointer}
        onPointerLeave={() => setCursor(null)}
        onKeyDown={byKey}
        onBlur={() => setCursor(null)}
        className="block select-none text-[12px]"
      >
        <defs>
          <pattern
            id={`${id}h`}
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="6" stroke="var(--stands)" strokeWidth="1.1" opacity="0.35" />
          </pattern>
          <pattern
            id={`${id}l`}
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(-45)"
          >
            <line x1="0" y1="0" x2="0" y2="5" stroke="var(--loss)" strokeWidth="1.8" opacity="0.75" />
          </pattern>
        </defs>
        {ticks(y.from, y.to, 7.5).map((v) => (
          <g key={v}>
            <line
              x1={margin.left}
              x2={width - margin.right}
              y1={y(v)}
              y2={y(v)}
              stroke={v === 0 ? 'var(--ink)' : 'var(--rule)'}
              strokeWidth={v === 0 ? 1.5 : 1}
            />
            <text x={margin.left - 7} y={y(v) + 4} textAnchor="end" fill="var(--soft)">
              {v === 0 ? '0' : signed(v, Number.isInteger(v) ? 0 : 1)}
            </text>
          </g>
        ))}
        <text x={margin.left} y={13} fill="var(--soft)">
          {unit === '%' ? '% of stock' : `${unit} over stock, at the wheel`}
        </text>
        {ticks(first.rpm, last.rpm, Math.max(4, Math.floor(width / 95))).map((r) => (
          <text key={r} x={x(r)} y={height - 6} textAnchor="middle" fill="var(--soft)">
            {number(r, 0)}
          </text>
        ))}
        {parts.map(({ from, to, standing }) => {
          const piece = pieces(from, to);
          const area = path([
            ...piece.map((p) => [x(p.rpm), y(p.upper)] as const),
            ...[...piece].reverse().map((p) => [x(p.rpm), y(p.lower)] as const),
          ]);
          return (
            <g key={from}>
              <path
                d={`${area}Z`}
                fill={
                  standing === 'gain'
                    ? 'var(--stands)'
                    : standing === 'loss'
                      ? `url(#${id}l)`
                      : `url(#${id}h)`
                }
                opacity={standing === 'gain' ? 0.22 : 1}
              />
              {standing !== 'open' && (
                <rect
                  x={x(piece[0].rpm)}
                  y={stripY}
                  width={Math.max(3, x(piece.at(-1)!.rpm) - x(piece[0].rpm))}
                  height="6"
                  fill={standing === 'gain' ? 'var(--stands)' : `url(#${id}l)`}
                />
              )}
            </g>
          );
        })}
        {parts.map(({ from, to, standing }) => (
          <path
            key={from}
            d={path(pieces(from, to).map((p) => [x(p.rpm), y(p.gain)]))}
            fill="none"
            stroke={standing === 'loss' ? 'var(--loss)' : 'var(--stands)'}
            strokeWidth={standing === 'open' ? 1.6 : 3}
            strokeDasharray={standing === 'open' ? '5 4' : undefined}
            strokeLinejoin="round"
          />
        ))}
        {labelsOf(parts, curve).map(({ text, from, to, standing }) => {
          const middle = x((curve[from].rpm + curve[to].rpm) / 2);
          return (
            <text
              key={`${text}${from}`}
              x={middle}
              y={stripY - 4}
              textAnchor="middle"
              paintOrder="stroke"
              stroke="var(--paper)"
              strokeWidth="4"
              fontWeight={standing === 'open' ? 400 : 640}
              fill={standing === 'gain' ? 'var(--ink)' : standing === 'loss' ? 'var(--loss)' : 'var(--soft)'}
            >
              {text}
            </text>
          );
        })}
        {upTo && upTo.gain > 0 && (
          <g>
            <line
              x1={x(upTo.rpm)}
              x2={x(upTo.rpm)}
              y1={y(0)}
              y2={y(upTo.gain)}
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
            <circle
              cx={x(upTo.rpm)}
              cy={y(upTo.gain)}
              r="5"
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth="2"
            />
            <text
              x={x(upTo.rpm) + (x(upTo.rpm) > width - 170 ? -10 : 10)}
              y={y(upTo.gain) + 19}
              textAnchor={x(upTo.rpm) > width - 170 ? 'end' : 'start'}
              fontWeight="640"
              fill="var(--ink)"
            >
              up to {signedGain(upTo.gain)} {unit}
            </text>
          </g>
        )}
        {at && (
          <g pointerEvents="none">
            <line
              x1={x(at.rpm)}
              x2={x(at.rpm)}
              y1={margin.top}
              y2={height - margin.bottom}
              stroke="var(--ink)"
              strokeWidth="1"
              strokeDasharray="2 3"
            />
            <circle cx={x(at.rpm)} cy={y(at.gain)} r="3.5" fill="var(--ink)" />
          </g>
        )}
      </svg>
      <output aria-live="off" className="pointer-events-none absolute right-4 top-0 px-1 text-[12.5px]">
        {at ? (
          <>
            <b>{rpmText(at.rpm)}</b> {signedGain(at.gain)} {unit}{' '}
            <span className="text-soft">
              ({signedGain(at.lower)} to {signedUpper(at.upper)})
            </span>
          </>
        ) : (
          <span className="text-soft">point at the curve, or focus it and use ← →</span>
        )}
      </output>
    </div>
  );
}

const WORDS = { gain: 'substantiated', loss: 'proven loss', open: 'not shown either way' } as const;
/** One label for each stretch that is wide enough to carry it. */
function labelsOf(parts: ReturnType<typeof standings>, curve: readonly RibbonPoint[]) {
  const whole = curve.at(-1)!.rpm - curve[0].rpm;
  return parts
    .filter(
      ({ from, to, standing }) =>
        curve[to].rpm - curve[from].rpm >
        whole * (standing === 'open' ? 0.2 : standing === 'loss' ? 0.1 : 0.13),
    )
    .map((p) => ({ ...p, text: WORDS[p.standing] }));
}
