import { useEffect, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import type { Place } from '../../core/publish/read-off.ts';
import { MARKS, type Marked } from './read-off-state.ts';

/** Steps of the arrow keys, pixels of the picture; with Shift the longer. */
const STEP = { fine: 1, coarse: 20 } as const;
const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const LENS = { width: 60, height: 30 } as const;

/** Draws a picture, or the part of it around a place, without an address for it. */
function Canvas({ picture, around, label }: { picture: ImageBitmap; around?: Place | null; label: string }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { width, height } = around === undefined ? picture : LENS;
  const [x, y] = around ? [around.x - width / 2, around.y - height / 2] : [0, 0];
  useEffect(() => {
    const pen = ref.current?.getContext('2d');
    if (!pen) return;
    pen.imageSmoothingEnabled = around === undefined;
    pen.clearRect(0, 0, width, height);
    pen.drawImage(picture, -x, -y);
  }, [picture, around, width, height, x, y]);
  return (
    <canvas
      ref={ref}
      width={width}
      height={height}
      role="img"
      aria-label={label}
      className="block w-full"
      style={around === undefined ? undefined : { imageRendering: 'pixelated' }}
    />
  );
}

/** The picture with what is marked in it. Clicked, or with the keyboard: arrows move the hair cross, Enter sets. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function GraphPicture({
  picture,
  marked,
  cross,
  onCross: setCross,
  onPlace,
}: {
  picture: ImageBitmap;
  marked: Marked;
  /** Where the hair cross is. */ cross: Place;
  onCross: (place: Place) => void;
  onPlace: (place: Place) => void;
}) {
  const { width, height } = picture;
  const placeOf = (event: MouseEvent<HTMLElement>): Place => {
    const box = event.currentTarget.getBoundingClientRect();
    return {
      x: ((event.clientX - box.left) / box.width) * width,
      y: ((event.clientY - box.top) / box.height) * height,
    };
  };
  const key = (event: KeyboardEvent): void => {
    const way = MOVES[event.key];
    if (way) {
      const step = event.shiftKey ? STEP.coarse : STEP.fine;
      const within = (value: number, most: number): number => Math.min(Math.max(value, 0), most);
      setCross({ x: within(cross.x + way[0] * step, width), y: within(cross.y + way[1] * step, height) });
    } else if (event.key === 'Enter' || event.key === ' ') onPlace(cross);
    else return;
    event.preventDefault();
  };
  const size = Math.max(width, height) / 160;
  return (
    <div data-theme="paper" className="grid content-start gap-2">
      <div
        role="application"
        aria-label="The picture: arrow keys move the hair cross, with Shift further; Enter sets the mark"
        tabIndex={0}
        className="relative cursor-crosshair overflow-hidden rounded border border-rule"
        onMouseMove={(event) => setCross(placeOf(event))}
        onClick={(event) => onPlace(placeOf(event))}
        onKeyDown={key}
      >
        <Canvas picture={picture} label="The graph as it was printed" />
        <svg viewBox={`0 0 ${width} ${height}`} aria-hidden className="pointer-events-none absolute inset-0">
          <path
            d={`M${cross.x},0V${height}M0,${cross.y}H${width}`}
            className="stroke-stands"
            strokeWidth={size / 6}
            fill="none"
          />
          {MARKS.map((name) => {
            const { place } = marked.marks[name];
            return (
              place && (
                <g
                  key={name}
                  transform={`translate(${place.x} ${place.y})`}
                  className="stroke-ask"
                  fill="none"
                >
                  <path d={`M${-2 * size},0H${2 * size}M0,${-2 * size}V${2 * size}`} strokeWidth={size / 2} />
                </g>
              )
            );
          })}
          {marked.points.map((point, i) => (
            <circle
              key={`${i} ${point.x}`}
              cx={point.x}
              cy={point.y}
              r={size}
              strokeWidth={size / 2.5}
              className={point.of === 'stock' ? 'stroke-ink' : 'stroke-stands'}
              fill="none"
            />
          ))}
        </svg>
      </div>
    </div>
  );
}

/** What lies under the hair cross, enlarged. */
export function Lens({ picture, cross }: { picture: ImageBitmap; cross: Place }) {
  return (
    <div data-theme="paper" className="relative overflow-hidden rounded border border-rule">
      <Canvas picture={picture} around={cross} label="The place under the hair cross, enlarged" />
      <svg viewBox={`0 0 ${LENS.width} ${LENS.height}`} aria-hidden className="absolute inset-0">
        <path
          d={`M${LENS.width / 2},0V${LENS.height}M0,${LENS.height / 2}H${LENS.width}`}
          className="stroke-stands"
          strokeWidth={0.3}
          fill="none"
        />
      </svg>
    </div>
  );
}
