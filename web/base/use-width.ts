import { useEffect, useRef, useState } from 'react';

/** Width of an element as it is laid out, so that a drawing can use whole pixels. */
export function useWidth<E extends HTMLElement>(first: number) {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) setWidth(Math.round(entry.contentRect.width));
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width] as const;
}
