import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { useSearchParams } from 'react-router';

/** The engine speed that every drawing of a page is read at, and the pull that is picked out of the others. */
export interface Cursor {
  /** Where it is read: by the pointer, else where it was put. */
  readonly rpm: number | null;
  /** Where it was put, by keys or a press; stands in the address. */
  readonly put: number | null;
  readonly picked: string | null;
  readonly onPoint: (rpm: number | null) => void;
  readonly onPut: (rpm: number | null) => void;
  readonly onPick: (pull: string | null) => void;
}

const Reading = createContext<Cursor | null>(null);
export const useCursor = (): Cursor | null => useContext(Reading);

/** Keys that are held down move the cursor many times a second: the address follows when they rest. */
const REST_MS = 250;

/** One cursor for the drawings within; its place and the picked pull can be sent to somebody else. */
export function CursorProvider({ children }: { children: ReactNode }) {
  const [params, setParams] = useSearchParams();
  const inAddress = params.has('at') ? Number(params.get('at')) || null : null;
  const picked = params.get('pull');
  const [pointed, onPoint] = useState<number | null>(null);
  const [put, setPut] = useState(inAddress);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const write = useCallback(
    (key: 'at' | 'pull', value: string | null): void =>
      setParams(
        (now) => {
          if (value === null) now.delete(key);
          else now.set(key, value);
          return now;
        },
        { replace: true, preventScrollReset: true },
      ),
    [setParams],
  );
  // `setParams` is new with every address: what waits calls the one of now.
  const writing = useRef(write);
  useEffect(() => {
    writing.current = write;
  });
  const onPut = useCallback((rpm: number | null): void => {
    setPut(rpm);
    clearTimeout(waiting.current);
    waiting.current = setTimeout(() => writing.current('at', rpm === null ? null : String(rpm)), REST_MS);
  }, []);
  const onPick = useCallback((pull: string | null): void => writing.current('pull', pull), []);
  useEffect(() => () => clearTimeout(waiting.current), []);
  useEffect(() => {
    clearTimeout(waiting.current);
    setPut(inAddress);
  }, [inAddress]);
  const value = useMemo(
    (): Cursor => ({ rpm: pointed ?? put, put, picked, onPoint, onPut, onPick }),
    [pointed, put, picked, onPut, onPick],
  );
  return <Reading.Provider value={value}>{children}</Reading.Provider>;
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

/** Index of the grid point nearest to an engine speed; null where it lies outside by more than a step. */
export function nearestPoint(rpm: readonly number[], at: number | null): number | null {
  if (at === null || rpm.length < 2) return null;
  const step = rpm[1] - rpm[0];
  const index = Math.round((at - rpm[0]) / step) || 0;
  return index < 0 || index > rpm.length - 1 ? null : index;
}
