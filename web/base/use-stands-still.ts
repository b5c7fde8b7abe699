import { useEffect, type RefObject } from 'react';

/** What `of` scrolls in: the nearest thing around it that does, or the page. */
function scrollerOf(of: HTMLElement): Element {
  for (let at = of.parentElement; at && at !== document.body; at = at.parentElement) {
    if (at.scrollHeight > at.clientHeight && /auto|scroll/.test(getComputedStyle(at).overflowY)) return at;
  }
  return document.scrollingElement ?? document.documentElement;
}

/**
 * Keeps an element where it stands on the screen while `held`, whatever grows or shrinks above it.
 *
 * An open list keeps the page from scrolling, and the browser then no longer makes up for what arrives above: the
 * field and its list would be pushed out of sight, with no way to scroll after them.
 */
export function useStandsStill(ref: RefObject<HTMLElement | null>, held: boolean): void {
  useEffect(() => {
    const element = ref.current;
    if (!held || !element) return;
    const stood = element.getBoundingClientRect().top;
    const scroller = scrollerOf(element);
    let frame = requestAnimationFrame(function again() {
      const moved = element.getBoundingClientRect().top - stood;
      if (Math.abs(moved) >= 1) scroller.scrollTop += moved;
      frame = requestAnimationFrame(again);
    });
    return () => cancelAnimationFrame(frame);
  }, [ref, held]);
}
