import { ChevronLeft, ChevronRight } from 'lucide-react';
import type { ScheduleShown, Suggestion } from '../../contract/plan/schedule.ts';
import { Button, Empty } from '../base/ui.tsx';
import { addDays, dateAt, dayName, instantAt, minutesAt } from './schedule-time.ts';
import { bookedMovable, DynoWeek, type Movable } from './schedule-week.tsx';

const DAYS = 7;

/** A week of every dyno, and the way to the weeks beside it. */
export function Calendar({
  data,
  from,
  thisWeek,
  ghosts,
  mayMove,
  go,
  onOpen,
  onMove,
}: {
  data: ScheduleShown;
  from: string;
  thisWeek: string;
  ghosts: Suggestion['placements'];
  mayMove: boolean;
  go: (week: string) => void;
  onOpen: (what: Movable) => void;
  onMove: (what: Movable, start: string) => void;
}) {
  const days = Array.from({ length: DAYS }, (_, i) => addDays(from, i));
  return (
    <section aria-label="Calendar" className="min-w-0">
      <div className="mb-2 flex items-center gap-2">
        <Button small aria-label="The week before" onClick={() => go(addDays(from, -DAYS))}>
          <ChevronLeft size={15} />
        </Button>
        <Button small onClick={() => go(thisWeek)}>
          This week
        </Button>
        <Button small aria-label="The week after" onClick={() => go(addDays(from, DAYS))}>
          <ChevronRight size={15} />
        </Button>
        <b className="ml-2">
          {dayName(from)} to {dayName(addDays(from, DAYS - 1))} {addDays(from, DAYS - 1).slice(0, 4)}
        </b>
      </div>
      {data.dynos.length === 0 && (
        <Empty title="No dyno yet">Register a dyno with its opening hours first.</Empty>
      )}
      {data.dynos.map((dyno) => (
        <DynoWeek
          key={dyno.id}
          dyno={dyno}
          days={days}
          data={data}
          ghosts={ghosts.filter((p) => p.dynoId === dyno.id)}
          mayMove={mayMove}
          movableOf={bookedMovable}
          onOpen={(b) => onOpen(bookedMovable(b))}
          onNudge={(b, byDays, byMinutes) => {
            const tz = dyno.timeZone;
            const date = addDays(dateAt(b.start, tz), byDays);
            onMove(bookedMovable(b), instantAt(date, minutesAt(b.start, tz) + byMinutes, tz));
          }}
        />
      ))}
    </section>
  );
}
