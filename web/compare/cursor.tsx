import { useCallback, useEffect, useMemo, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import { useAddress } from './address.ts';
import { SharedCursor, useCursor, type Cursor } from './shared-cursor.ts';

/** Keys that are held down move the cursor many times a second: the address follows when they rest. */
const REST_MS = 250;

/** One cursor for the drawings within; its place and the picked pull can be sent to somebody else. */
export function CursorProvider({ children }: { children: ReactNode }) {
  const [params, change] = useAddress();
  const inAddress = params.has('at') ? Number(params.get('at')) || null : null;
  const picked = params.get('pull');
  const [pointed, onPoint] = useState<number | null>(null);
  const [put, setPut] = useState(inAddress);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** What this page wrote into the address itself: no news when it is read there. */
  const written = useRef(inAddress);
  const write = useCallback(
    (key: 'at' | 'pull', value: string | null): void =>
      change((now) => (value === null ? now.delete(key) : now.set(key, value))),
    [change],
  );
  // The writer is new with every address: what waits calls the one of now.
  const writing = useRef(write);
  useEffect(() => {
    writing.current = write;
  });
  const onPut = useCallback((rpm: number | null): void => {
    setPut(rpm);
    // A pointer that rests over a chart holds no key back.
    onPoint(null);
    clearTimeout(waiting.current);
    waiting.current = setTimeout(() => {
      written.current = rpm;
      writing.current('at', rpm === null ? null : String(rpm));
    }, REST_MS);
  }, []);
  const onPick = useCallback((pull: string | null): void => writing.current('pull', pull), []);
  useEffect(() => () => clearTimeout(waiting.current), []);
  useEffect(() => {
    // A key pressed while the address was being written is newer than it.
    if (inAddress === written.current) return;
    written.current = inAddress;
    clearTimeout(waiting.current);
    setPut(inAddress);
  }, [inAddress]);
  const value = useMemo(
    (): Cursor => ({ rpm: pointed ?? put, put, picked, onPoint, onPut, onPick }),
    [pointed, put, picked, onPut, onPick],
  );
  return <SharedCursor.Provider value={value}>{children}</SharedCursor.Provider>;
}

/** What lies under the curve of a chart: its edges within the element, px, and what it spans. */
interface Plot {
  readonly left: number;
  readonly right: number;
  readonly from: number;
  readonly to: number;
}

/**
 * Lays the cursor over a chart of engine speed, and moves it with the pointer. The chart itself is not drawn again.
 * `left`, `right`: room beside the curves, px.
 */
export function UnderCursor({ left, right, from, to, children }: Plot & { children: ReactNode }) {
  const cursor = useCursor();
  const share = cursor?.rpm == null ? null : (cursor.rpm - from) / (to - from);
  const rpmAt = (event: PointerEvent<HTMLDivElement>): number => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = (event.clientX - box.left - left) / (box.width - left - right);
    return from + Math.max(0, Math.min(1, at)) * (to - from);
  };
  return (
    <div
      className="relative"
      onPointerMove={(event) => cursor?.onPoint(rpmAt(event))}
      onPointerLeave={() => cursor?.onPoint(null)}
      onClick={() => cursor?.rpm != null && cursor.onPut(Math.round(cursor.rpm))}
    >
      {children}
      {share !== null && share >= 0 && share <= 1 && (
        <div
          aria-hidden
          data-only-on-screen
          className="pointer-events-none absolute bottom-[30px] top-1.5 w-px bg-ask"
          style={{ left: `calc(${left}px + ${share} * (100% - ${left + right}px))` }}
        />
      )}
    </div>
  );
}
