import { useId } from 'react';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { rpm as rpmText } from '../base/format.ts';
import { useWidth } from '../base/use-width.ts';
import type { RibbonPoint } from './ribbon-drawing.ts';
import { ribbonScales } from './ribbon-scales.ts';
import { nearestPoint, useCursor } from './shared-cursor.ts';
import type { DrawnWindow } from './window-averages.tsx';
import {
  Axes,
  Band,
  DrawnStretch,
  GainLine,
  Hatching,
  ReadingMark,
  StretchWords,
  UpToMark,
} from './ribbon-parts.tsx';
import { standings } from './standings.ts';
import { useReading } from './use-reading.ts';

const MARGIN = { left: 46, right: 18, top: 22, bottom: 46 };
const WIDTH_AT_FIRST = 780;

/**
 * The gain over stock with the band that holds the whole true curve. Substantiated stretches are inked
 * solid, the rest is hatched and dashed, proven losses are notched below the zero line.
 */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function GainRibbon({
  curve,
  unit,
  upTo,
  height = 350,
  window,
  onWindow,
}: {
  curve: readonly RibbonPoint[];
  unit: string;
  upTo: { gain: number; rpm: number } | null;
  height?: number;
  /** A stretch that somebody drew, rpm. */
  window?: DrawnWindow | null;
  onWindow?: (window: DrawnWindow | null) => void;
}) {
  const [ref, width] = useWidth<HTMLDivElement>(WIDTH_AT_FIRST);
  const id = useId();
  const frame = { ...MARGIN, right: width - MARGIN.right, bottom: height - MARGIN.bottom };
  const scales = ribbonScales(curve, frame);
  const cursor = useCursor() ?? undefined;
  const { index, anchor, handlers } = useReading(
    curve.length,
    frame.left,
    frame.right,
    onWindow && ((s) => onWindow(s && { fromRpm: curve[s.from].rpm, toRpm: curve[s.to].rpm })),
    cursor && {
      index: nearestPoint(
        curve.map((p) => p.rpm),
        cursor.rpm,
      ),
      onPoint: (i) => cursor.onPoint(i === null ? null : curve[i].rpm),
      onPut: (i) => cursor.onPut(i === null ? null : curve[i].rpm),
    },
  );
  const drawn =
    anchor !== null && index !== null && anchor !== index
      ? { fromRpm: curve[Math.min(anchor, index)].rpm, toRpm: curve[Math.max(anchor, index)].rpm }
      : window;
  const at = index === null ? null : curve[index];
  const parts = standings(
    curve.map((p) => p.lower),
    curve.map((p) => p.upper),
  );
  const piece = ({ from, to }: { from: number; to: number }) => curve.slice(from, to + 1);
  const stripY = frame.bottom + 8;
  return (
    <div ref={ref} className="relative [contain:inline-size]">
      <svg
        width={width}
        height={height}
        role="slider"
        tabIndex={0}
        aria-label={`Gain over stock by rpm, ${unit}`}
        aria-valuemin={curve[0].rpm}
        aria-valuemax={curve.at(-1)!.rpm}
        aria-valuenow={at?.rpm ?? curve[0].rpm}
        aria-valuetext={at ? spoken(at, unit) : 'Use the arrow keys to read the curve'}
        {...handlers}
        className="block select-none text-[12px]"
      >
        <Hatching id={id} />
        <Axes {...scales} frame={frame} unit={unit} />
        {parts.map((part) => (
          <Band
            key={part.from}
            {...scales}
            piece={piece(part)}
            standing={part.standing}
            stripY={stripY}
            id={id}
          />
        ))}
        {parts.map((part) => (
          <GainLine key={part.from} {...scales} piece={piece(part)} standing={part.standing} />
        ))}
        <StretchWords parts={parts} curve={curve} x={scales.x} y={stripY - 4} />
        {drawn && <DrawnStretch {...scales} window={drawn} frame={frame} />}
        {upTo && upTo.gain > 0 && <UpToMark {...scales} upTo={upTo} unit={unit} frame={frame} />}
        {at && <ReadingMark {...scales} at={at} frame={frame} />}
      </svg>
      <Reading at={at} unit={unit} isPut={cursor?.put != null} />
    </div>
  );
}

const spoken = (at: RibbonPoint, unit: string): string =>
  `${rpmText(at.rpm)}: gain ${signedGain(at.gain)} ${unit}, ${signedGain(at.lower)} to ${signedUpper(at.upper)}`;

function Reading({ at, unit, isPut }: { at: RibbonPoint | null; unit: string; isPut: boolean }) {
  return (
    <output aria-live="off" className="pointer-events-none absolute right-4 top-0 px-1 text-[12.5px]">
      {at ? (
        <>
          <b>{rpmText(at.rpm)}</b> {signedGain(at.gain)} {unit}{' '}
          <span className="text-soft">
            ({signedGain(at.lower)} to {signedUpper(at.upper)}){isPut && ' · in the address; Esc lets go'}
          </span>
        </>
      ) : (
        <span className="text-soft">point at the curve, draw a stretch, or focus it and use ← → with ⇧</span>
      )}
    </output>
  );
}
