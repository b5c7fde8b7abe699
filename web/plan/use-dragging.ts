/** A session that is dragged over the calendar: what is moved, and when it would begin where it is let go. */
import { PointerSensor, useSensor, useSensors, type DragEndEvent, type DragStartEvent } from '@dnd-kit/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { instantAt, snapped } from './schedule-time.ts';
import { HOUR, type Dyno, type Movable } from './schedule-week.tsx';

/** A column of the calendar: a day of a dyno, and the minute at its upper edge. */
interface Column {
  readonly dyno: Dyno;
  readonly date: string;
  readonly first: number;
}

export function useDragging(place: (what: Movable, start: string) => void) {
  const [moving, setMoving] = useState<Movable | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  // Where the pointer is and where it holds the session: the page may scroll under a drag, so both are read when it ends.
  const pointer = useRef({ y: 0, hold: 0 });
  useEffect(() => {
    const follow = (event: PointerEvent): void => {
      pointer.current.y = event.clientY;
    };
    window.addEventListener('pointermove', follow);
    return () => window.removeEventListener('pointermove', follow);
  }, []);
  const onDragStart = ({ active, activatorEvent }: DragStartEvent): void => {
    setMoving(active.data.current as Movable);
    const { clientY, target } = activatorEvent as PointerEvent;
    const top = (target as Element).closest('button')?.getBoundingClientRect().top ?? clientY;
    pointer.current = { y: clientY, hold: clientY - top };
  };
  const onDragEnd = ({ over }: DragEndEvent): void => {
    const what = moving;
    setMoving(null);
    const target = over?.data.current as Column | undefined;
    const column = over && document.getElementById(String(over.id));
    if (!what || !target || !column) return;
    if (target.dyno.id !== what.dynoId) {
      toast.error(
        'The plan is made for another dyno: hours, scatter and what can be detected depend on it. Change it in the plan.',
      );
      return;
    }
    const below = pointer.current.y - pointer.current.hold - column.getBoundingClientRect().top;
    const minute = Math.max(0, snapped(target.first + (below / HOUR) * 60));
    place(what, instantAt(target.date, minute, target.dyno.timeZone));
  };
  return { moving, sensors, onDragStart, onDragEnd, onDragCancel: () => setMoving(null) };
}
