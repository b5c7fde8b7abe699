import { useState, type KeyboardEvent, type PointerEvent } from 'react';

const STEPS: Readonly<Record<string, number>> = {
  ArrowRight: 1,
  ArrowLeft: -1,
  PageUp: 10,
  PageDown: -10,
  Home: -Infinity,
  End: Infinity,
};
/** A stretch of the curve, by its first and last point. */
export interface Stretched {
  readonly from: number;
  readonly to: number;
}
/** A reading that other drawings of the page share: where it is, moved by the pointer, or put by keys or a press. */
export interface SharedReading {
  readonly index: number | null;
  readonly onPoint: (index: number | null) => void;
  readonly onPut: (index: number | null) => void;
}
/**
 * Which of `count` points of a curve is read, by pointer or by keys; null while none is.
 * `left` and `right`: where the first and the last point lie in the drawing, px. A stretch is drawn with the pointer
 * pressed, or with the shift key held; Escape drops it.
 */
// eslint-disable-next-line max-lines-per-function -- the handlers of one reading, which share where it was begun
export function useReading(
  count: number,
  left: number,
  right: number,
  onStretch?: (stretch: Stretched | null) => void,
  shared?: SharedReading,
) {
  const [own, setOwn] = useState<number | null>(null);
  const index = shared ? shared.index : own;
  const setIndex = shared ? shared.onPoint : setOwn;
  const put = shared ? shared.onPut : setOwn;
  /** Where a stretch was begun, by pressing or with the shift key. */
  const [anchor, setAnchor] = useState<number | null>(null);
  const within = (i: number): number => Math.max(0, Math.min(count - 1, i));
  const none = (): void => {
    setIndex(null);
    setAnchor(null);
  };
  const at = (event: PointerEvent<SVGSVGElement>): number => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = (event.clientX - box.left - left) / (right - left);
    return within(Math.round(share * (count - 1)));
  };
  const tell = (from: number, to: number): void => {
    if (from !== to) onStretch?.({ from: Math.min(from, to), to: Math.max(from, to) });
  };
  const stepped = (event: KeyboardEvent, step: number): void => {
    event.preventDefault();
    const next = within((index ?? (step > 0 ? -1 : count)) + step);
    const begun = event.shiftKey ? (anchor ?? index ?? next) : null;
    put(next);
    setAnchor(begun);
    if (begun !== null) tell(begun, next);
  };
  return {
    index,
    anchor,
    handlers: {
      onPointerDown: (event: PointerEvent<SVGSVGElement>): void => {
        // A finger scrolls the page.
        if (!onStretch || event.pointerType === 'touch' || event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setAnchor(at(event));
      },
      onPointerMove: (event: PointerEvent<SVGSVGElement>): void => setIndex(at(event)),
      onPointerUp: (event: PointerEvent<SVGSVGElement>): void => {
        const here = at(event);
        if (anchor !== null) tell(anchor, here);
        if (anchor === null || anchor === here) put(here);
        setAnchor(null);
      },
      onPointerCancel: none,
      onPointerLeave: (event: PointerEvent<SVGSVGElement>): void => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) none();
      },
      onBlur: none,
      onKeyDown: (event: KeyboardEvent): void => {
        if (event.key === 'Escape') {
          none();
          put(null);
          onStretch?.(null);
        }
        const step = STEPS[event.key];
        if (step !== undefined) stepped(event, step);
      },
    },
  };
}
