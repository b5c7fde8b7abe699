import { useState, type KeyboardEvent, type PointerEvent } from 'react';

const STEPS: Readonly<Record<string, number>> = {
  ArrowRight: 1,
  ArrowLeft: -1,
  PageUp: 10,
  PageDown: -10,
  Home: -Infinity,
  End: Infinity,
};
/**
 * Which of `count` points of a curve is read, by pointer or by keys; null while none is.
 * `left` and `right`: where the first and the last point lie in the drawing, px.
 */
export function useReading(count: number, left: number, right: number) {
  const [index, setIndex] = useState<number | null>(null);
  const within = (i: number): number => Math.max(0, Math.min(count - 1, i));
  const none = (): void => setIndex(null);
  return {
    index,
    handlers: {
      onPointerMove: (event: PointerEvent<SVGSVGElement>): void => {
        const box = event.currentTarget.getBoundingClientRect();
        const share = (event.clientX - box.left - left) / (right - left);
        setIndex(within(Math.round(share * (count - 1))));
      },
      onPointerLeave: none,
      onBlur: none,
      onKeyDown: (event: KeyboardEvent): void => {
        if (event.key === 'Escape') none();
        const step = STEPS[event.key];
        if (step === undefined) return;
        event.preventDefault();
        setIndex((now) => within((now ?? (step > 0 ? -1 : count)) + step));
      },
    },
  };
}
