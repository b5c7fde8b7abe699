import { useDraggable, useDroppable } from '@dnd-kit/core';
import clsx from 'clsx';
import { type KeyboardEvent, type ReactNode } from 'react';
import type { Booking, ScheduleShown, Suggestion, Waiting } from '../../contract/plan/schedule.ts';
import { day, number } from '../base/format.ts';
import { Mark } from '../base/ui.tsx';
import { clockAt, dateAt, dayName, minutesAt } from './schedule-time.ts';

export const HOUR = 34;
/** A place that is only suggested. */
const GHOST =
  'pointer-events-none absolute inset-x-1 border-[1.5px] border-dashed border-stands ' +
  'px-1 text-[11.5px] text-stands';

export type Dyno = ScheduleShown['dynos'][number];

/** Something that can be given a place: a session in the calendar, or one that waits. */
export interface Movable {
  readonly testId: string;
  readonly number: number;
  readonly title: string;
  readonly vehicle: string;
  readonly dynoId: string;
  readonly minutes: number;
  readonly start: string | null;
  readonly locked: boolean;
}

export const waitingMovable = (w: Waiting): Movable => ({ ...w, start: null });
export const bookedMovable = (b: Booking): Movable => ({
  testId: b.testId,
  number: b.number,
  title: b.title,
  vehicle: b.vehicle,
  dynoId: b.dynoId,
  minutes: (Date.parse(b.end) - Date.parse(b.start)) / 60_000,
  start: b.start,
  locked: b.locked,
});

/** A session as it follows the pointer. */
export function Dragged({ what }: { what: Movable }) {
  return (
    <div
      className="w-36 border-l-[3px] border-stands bg-sheet px-2 py-1 text-[12px] opacity-90 shadow-xl"
      style={{ height: (what.minutes / 60) * HOUR }}
    >
      <b>{what.number}</b> {what.title}
    </div>
  );
}

export function WaitingCard({
  what,
  w,
  dyno,
  mayMove,
  onOpen,
}: {
  what: Movable;
  w: Waiting;
  dyno: string;
  mayMove: boolean;
  onOpen: () => void;
}) {
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `waiting ${w.testId}`,
    data: what,
    disabled: !mayMove,
  });
  const body = (
    <>
      <b>
        {w.number} · {w.title}
      </b>
      <span className="block text-[12px] text-soft">
        {w.vehicle} · {dyno}
      </span>
      <span className="block text-[12px] text-soft">
        {number(w.minutes / 60, 1)} h
        {w.dynoMinutes < w.minutes ? `, ${number(w.dynoMinutes / 60, 1)} h on the dyno` : ''} · {w.pulls}{' '}
        pulls{w.due ? ` · due ${day(w.due)}` : ''}
        {w.notBefore ? ` · not before ${day(w.notBefore)}` : ''}
      </span>
      {!w.locked && (
        <span className="text-[12px]">
          <Mark tone="ask">not locked</Mark>
        </span>
      )}
    </>
  );
  return mayMove ? (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      onClick={onOpen}
      className={clsx(
        'w-full cursor-grab border-l-[3px] border-soft bg-sheet px-2.5 py-1.5 text-left hover:border-ink',
        isDragging && 'opacity-40',
      )}
    >
      {body}
    </button>
  ) : (
    <div className="border-l-[3px] border-soft bg-sheet px-2.5 py-1.5">{body}</div>
  );
}

/** One dyno, seven days, hours down. What is open is paper; what is closed is hatched. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function DynoWeek({
  dyno,
  days,
  data,
  ghosts,
  mayMove,
  movableOf,
  onOpen,
  onNudge,
}: {
  dyno: Dyno;
  days: readonly string[];
  data: ScheduleShown;
  ghosts: Suggestion['placements'];
  mayMove: boolean;
  movableOf: (b: Booking) => Movable;
  onOpen: (b: Booking) => void;
  onNudge: (b: Booking, days: number, minutes: number) => void;
}) {
  const tz = dyno.timeZone;
  const bookings = data.bookings.filter((b) => b.dynoId === dyno.id);
  const marks = [
    ...dyno.openings.flatMap((o) => [minutesAt(o.start, tz), minutesAt(o.end, tz) || 1440]),
    ...bookings.flatMap((b) => [minutesAt(b.start, tz), minutesAt(b.end, tz)]),
  ];
  const first = Math.floor(Math.min(8 * 60, ...marks) / 60) * 60;
  const last = Math.ceil(Math.max(17 * 60, ...marks) / 60) * 60;
  const y = (minutes: number): number => ((minutes - first) / 60) * HOUR;
  return (
    <section aria-label={`${dyno.name}, week`} className="mb-5">
      <h3 className="mb-1 font-semibold">
        {dyno.name}{' '}
        <span className="font-normal text-soft">
          times of {tz}
          {dyno.openings.length === 0 && ' · closed all week'}
        </span>
      </h3>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={`${dyno.name}, days`}>
        <div className="grid grid-cols-[40px_repeat(7,minmax(96px,1fr))]">
          <div />
          {days.map((d) => (
            <div key={d} className="border-b-[1.5px] border-ink pb-0.5 text-[12px] font-medium text-soft">
              {dayName(d)}
            </div>
          ))}
          <div className="relative" style={{ height: y(last) }}>
            {Array.from({ length: (last - first) / 60 }, (_, i) => (
              <span
                key={i}
                className="absolute right-1.5 -translate-y-1/2 text-[11px] text-soft"
                style={{ top: i * HOUR }}
              >
                {i > 0 && `${first / 60 + i}:00`}
              </span>
            ))}
          </div>
          {/* eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read */}
          {days.map((date) => (
            <DayColumn key={date} dyno={dyno} date={date} first={first} height={y(last)}>
              {dyno.openings
                .filter((o) => dateAt(o.start, tz) === date)
                .map((o) => (
                  <div
                    key={o.start}
                    className="absolute inset-x-0 bg-sheet"
                    style={{
                      top: y(minutesAt(o.start, tz)),
                      height: y(minutesAt(o.end, tz) || 1440) - y(minutesAt(o.start, tz)),
                    }}
                  />
                ))}
              {Array.from({ length: (last - first) / 60 - 1 }, (_, i) => (
                <div
                  key={i}
                  aria-hidden
                  className="absolute inset-x-0 border-t border-rule/60"
                  style={{ top: (i + 1) * HOUR }}
                />
              ))}
              {data.closures
                .filter(
                  (c) => c.dynoId === dyno.id && dateAt(c.start, tz) <= date && dateAt(c.end, tz) >= date,
                )
                .map((c) => (
                  <div key={c.id} className="absolute inset-x-1 top-1 text-[11.5px] text-ask">
                    closed: {c.reason}
                  </div>
                ))}
              {ghosts
                .filter((g) => dateAt(g.start, tz) === date)
                .map((g) => (
                  <div
                    key={g.testId}
                    className={GHOST}
                    style={{
                      top: y(minutesAt(g.start, tz)),
                      height: y(minutesAt(g.end, tz)) - y(minutesAt(g.start, tz)),
                    }}
                  >
                    suggested: {g.number}
                  </div>
                ))}
              {bookings
                .filter((b) => dateAt(b.start, tz) === date)
                .map((b) => (
                  <Session
                    key={b.testId}
                    b={b}
                    what={movableOf(b)}
                    tz={tz}
                    y={y}
                    mayMove={mayMove && !b.begun}
                    onOpen={() => onOpen(b)}
                    onNudge={(d, m) => onNudge(b, d, m)}
                  />
                ))}
            </DayColumn>
          ))}
        </div>
      </div>
    </section>
  );
}

function DayColumn({
  dyno,
  date,
  first,
  height,
  children,
}: {
  dyno: Dyno;
  date: string;
  first: number;
  height: number;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `day-${dyno.id}-${date}`, data: { dyno, date, first } });
  return (
    <div
      ref={setNodeRef}
      id={`day-${dyno.id}-${date}`}
      data-day={date}
      data-dyno={dyno.name}
      className={clsx('relative border-b border-r border-rule', isOver && 'outline-2 outline-stands')}
      style={{
        height,
        backgroundImage:
          'repeating-linear-gradient(135deg, transparent 0 5px, color-mix(in srgb, var(--rule) 55%, transparent) 5px 6px)',
      }}
    >
      {children}
    </div>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Session({
  b,
  what,
  tz,
  y,
  mayMove,
  onOpen,
  onNudge,
}: {
  b: Booking;
  what: Movable;
  tz: string;
  y: (minutes: number) => number;
  mayMove: boolean;
  onOpen: () => void;
  onNudge: (days: number, minutes: number) => void;
}) {
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `session ${b.testId}`,
    data: what,
    disabled: !mayMove,
  });
  const top = y(minutesAt(b.start, tz));
  const onKeyDown = (event: KeyboardEvent): void => {
    const step = (
      { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -15], ArrowDown: [0, 15] } as Record<
        string,
        [number, number]
      >
    )[event.key];
    if (!mayMove || !step) return;
    event.preventDefault();
    onNudge(step[0], step[1]);
  };
  const name =
    `Test ${b.number}, ${b.title}, ${dayName(dateAt(b.start, tz))} ${clockAt(b.start, tz)} to ` +
    `${clockAt(b.end, tz)}${b.begun ? ', begun' : ''}`;
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      onKeyDown={onKeyDown}
      onClick={mayMove ? onOpen : undefined}
      aria-label={name}
      title={name}
      className={clsx(
        'absolute inset-x-1 overflow-hidden text-left text-[12px] leading-snug',
        mayMove && 'cursor-grab',
        isDragging && 'opacity-40',
      )}
      style={{ top, height: y(minutesAt(b.end, tz)) - top }}
    >
      {b.blocks.map((block, i) => {
        const at = y(minutesAt(block.start, tz)) - top;
        return (
          <span
            key={i}
            className={clsx(
              'absolute inset-x-0 block border-l-[3px] bg-faint px-1.5 py-0.5',
              b.begun ? 'border-ink' : b.locked ? 'border-stands' : 'border-ask',
            )}
            style={{ top: at, height: y(minutesAt(block.end, tz)) - top - at }}
          >
            {i === 0 && (
              <>
                <b>{b.number}</b> {b.title}
                <span className="block text-soft">{b.vehicle}</span>
                <span className="block text-soft">
                  {clockAt(b.start, tz)} to {clockAt(b.end, tz)}
                  {!b.locked && ' · not locked'}
                </span>
              </>
            )}
          </span>
        );
      })}
      {b.blocks.length > 1 && (
        <span
          aria-hidden
          className="absolute bottom-0 left-0 top-0 border-l-[3px] border-dotted border-stands"
        />
      )}
    </button>
  );
}
