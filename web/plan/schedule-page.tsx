import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import clsx from 'clsx';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { DateInput, TimeInput } from '../base/date-input.tsx';
import type { Booking, ScheduleShown, Suggestion, Waiting } from '../../contract/plan/schedule.ts';
import { problemOf } from '../base/api.ts';
import { day, number } from '../base/format.ts';
import {
  Button,
  buttonClass,
  Dialog,
  Empty,
  Field,
  Input,
  Kbd,
  Loading,
  Mark,
  ProblemNote,
  Select,
} from '../base/ui.tsx';
import { PageHead, useMay } from '../register/layout.tsx';
import {
  useCloseDynoMutation,
  usePlaceMutation,
  useReopenDynoMutation,
  useScheduleQuery,
  useSuggestMutation,
  useUnplaceMutation,
} from './api.ts';
import {
  addDays,
  clockAt,
  dateAt,
  dayName,
  instantAt,
  minutesAt,
  mondayOf,
  snapped,
} from './schedule-time.ts';

const HOUR = 34;
type Dyno = ScheduleShown['dynos'][number];
/** Something that can be given a place: a session in the calendar, or one that waits. */
interface Movable {
  readonly testId: string;
  readonly number: number;
  readonly title: string;
  readonly vehicle: string;
  readonly dynoId: string;
  readonly minutes: number;
  readonly start: string | null;
  readonly locked: boolean;
}

/** A week of dyno days: sessions in their places, those that wait beside it. Placing is suggested and overruled by hand. */
export function SchedulePage() {
  const may = useMay();
  const [search, setSearch] = useSearchParams();
  const [today] = useState(() => new Date().toISOString().slice(0, 10));
  const from = mondayOf(search.get('from') ?? today);
  const { data, error } = useScheduleQuery({ from, days: 7 });
  const [place, { isLoading: placing }] = usePlaceMutation();
  const [unplace] = useUnplaceMutation();
  const [suggest, { error: noSuggestion, isLoading: suggesting }] = useSuggestMutation();
  const [suggestion, setSuggestion] = useState<Suggestion | null>(null);
  const [moving, setMoving] = useState<Movable | null>(null);
  const [dialog, setDialog] = useState<Movable | null>(null);
  const [closing, setClosing] = useState(false);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const go = (to: string): void => setSearch(to === mondayOf(today) ? {} : { from: to }, { replace: true });

  const placeAt = async (what: Movable, start: string): Promise<boolean> => {
    const answer = await place([{ testId: what.testId, dynoId: what.dynoId, start }]);
    if ('error' in answer) {
      toast.error(problemOf(answer.error).message);
      return false;
    }
    return true;
  };
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
    pointer.current = {
      y: clientY,
      hold: clientY - ((target as Element).closest('button')?.getBoundingClientRect().top ?? clientY),
    };
  };
  const onDragEnd = ({ over }: DragEndEvent): void => {
    const what = moving;
    setMoving(null);
    const target = over?.data.current as { dyno: Dyno; date: string; first: number } | undefined;
    const column = over && document.getElementById(String(over.id));
    if (!what || !target || !column) return;
    if (target.dyno.id !== what.dynoId) {
      toast.error(
        'The plan is made for another dyno: hours, scatter and what can be detected depend on it. Change it in the plan.',
      );
      return;
    }
    void placeAt(
      what,
      instantAt(
        target.date,
        Math.max(
          0,
          snapped(
            target.first +
              ((pointer.current.y - pointer.current.hold - column.getBoundingClientRect().top) / HOUR) * 60,
          ),
        ),
        target.dyno.timeZone,
      ),
    );
  };
  const days = useMemo(() => Array.from({ length: 7 }, (_, i) => addDays(from, i)), [from]);
  const movableOf = (b: Booking): Movable => ({
    testId: b.testId,
    number: b.number,
    title: b.title,
    vehicle: b.vehicle,
    dynoId: b.dynoId,
    minutes: (Date.parse(b.end) - Date.parse(b.start)) / 60_000,
    start: b.start,
    locked: b.locked,
  });
  const waitingOf = (w: Waiting): Movable => ({ ...w, start: null });

  return (
    <main className="px-6 py-5">
      <PageHead
        title="Schedule"
        note="Sessions on dyno days. A session lies in one day; swaps off the rollers leave the dyno free."
      >
        <a href="/api/schedule.ics" className={buttonClass('plain')}>
          Calendar file
        </a>
        {may.prepare && (
          <>
            <Button onClick={() => setClosing(true)}>Close a dyno</Button>
            <Button
              kind="main"
              disabled={suggesting || !data?.waiting.length}
              onClick={() =>
                void (async () => {
                  const answer = await suggest({
                    from: new Date(Math.max(Date.now(), Date.parse(`${from}T00:00:00Z`))).toISOString(),
                    days: 28,
                  });
                  if ('data' in answer && answer.data) setSuggestion(answer.data);
                })()
              }
            >
              Suggest places
            </Button>
          </>
        )}
      </PageHead>
      <ProblemNote error={error ?? noSuggestion} />
      {!data && !error && <Loading what="the calendar" />}
      {data && (
        <DndContext
          sensors={sensors}
          onDragStart={onDragStart}
          onDragEnd={onDragEnd}
          onDragCancel={() => setMoving(null)}
        >
          <div className="grid gap-6 xl:grid-cols-[250px_minmax(0,1fr)]">
            <section aria-label="Waiting for a place" className="min-w-0">
              <h2>Waiting for a place</h2>
              <p className="mb-2 text-[12.5px] text-soft">
                {may.prepare ? (
                  <>
                    Drag into the calendar, or choose one to say when. In the calendar <Kbd>← → ↑ ↓</Kbd> move
                    a session by a day or a quarter of an hour.
                  </>
                ) : (
                  'Operators and the test manager place them.'
                )}
              </p>
              {data.waiting.length === 0 && (
                <p className="border border-dashed border-rule px-3 py-4 text-soft">
                  Every plan that has not begun has its place.
                </p>
              )}
              <ul className="grid gap-2">
                {data.waiting.map((w) => (
                  <li key={w.testId}>
                    <WaitingCard
                      what={waitingOf(w)}
                      w={w}
                      dyno={data.dynos.find((d) => d.id === w.dynoId)?.name ?? ''}
                      mayMove={may.prepare}
                      onOpen={() => setDialog(waitingOf(w))}
                    />
                  </li>
                ))}
              </ul>
              {suggestion && (
                <SuggestionList
                  suggestion={suggestion}
                  busy={placing}
                  onClose={() => setSuggestion(null)}
                  onShow={(start) => go(mondayOf(start.slice(0, 10)))}
                  onAccept={async (list) => {
                    const answer = await place(
                      list.map((p) => ({
                        testId: p.testId,
                        dynoId: p.dynoId,
                        start: p.start,
                        placedBy: 'suggestion' as const,
                      })),
                    );
                    if ('error' in answer) toast.error(problemOf(answer.error).message);
                    else {
                      toast.success(list.length === 1 ? 'Placed.' : `${list.length} sessions placed.`);
                      setSuggestion(null);
                    }
                  }}
                />
              )}
            </section>
            <section aria-label="Calendar" className="min-w-0">
              <div className="mb-2 flex items-center gap-2">
                <Button small aria-label="The week before" onClick={() => go(addDays(from, -7))}>
                  <ChevronLeft size={15} />
                </Button>
                <Button small onClick={() => go(mondayOf(today))}>
                  This week
                </Button>
                <Button small aria-label="The week after" onClick={() => go(addDays(from, 7))}>
                  <ChevronRight size={15} />
                </Button>
                <b className="ml-2">
                  {dayName(from)} to {dayName(addDays(from, 6))}
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
                  ghosts={suggestion?.placements.filter((p) => p.dynoId === dyno.id) ?? []}
                  mayMove={may.prepare}
                  movableOf={movableOf}
                  onOpen={(b) => setDialog(movableOf(b))}
                  onNudge={(b, days_, minutes) => {
                    const tz = dyno.timeZone;
                    void placeAt(
                      movableOf(b),
                      instantAt(addDays(dateAt(b.start, tz), days_), minutesAt(b.start, tz) + minutes, tz),
                    );
                  }}
                />
              ))}
            </section>
          </div>
          <DragOverlay dropAnimation={null}>
            {moving && (
              <div
                className="w-36 border-l-[3px] border-stands bg-sheet px-2 py-1 text-[12px] opacity-90 shadow-xl"
                style={{ height: (moving.minutes / 60) * HOUR }}
              >
                <b>{moving.number}</b> {moving.title}
              </div>
            )}
          </DragOverlay>
        </DndContext>
      )}
      {dialog && data && (
        <PlaceDialog
          what={dialog}
          dyno={data.dynos.find((d) => d.id === dialog.dynoId)!}
          busy={placing}
          onClose={() => setDialog(null)}
          onPlace={async (start) => {
            if (await placeAt(dialog, start)) {
              setDialog(null);
              go(mondayOf(start.slice(0, 10)));
            }
          }}
          onRemove={
            dialog.start
              ? async () => {
                  const answer = await unplace(dialog.testId);
                  if ('error' in answer) toast.error(problemOf(answer.error).message);
                  else setDialog(null);
                }
              : undefined
          }
        />
      )}
      {closing && data && <CloseDialog data={data} from={from} onClose={() => setClosing(false)} />}
    </main>
  );
}

function WaitingCard({
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
function DynoWeek({
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
              .filter((c) => c.dynoId === dyno.id && dateAt(c.start, tz) <= date && dateAt(c.end, tz) >= date)
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
                  className="pointer-events-none absolute inset-x-1 border-[1.5px] border-dashed border-stands px-1 text-[11.5px] text-stands"
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
  const name = `Test ${b.number}, ${b.title}, ${dayName(dateAt(b.start, tz))} ${clockAt(b.start, tz)} to ${clockAt(b.end, tz)}${b.begun ? ', begun' : ''}`;
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

function SuggestionList({
  suggestion,
  busy,
  onAccept,
  onClose,
  onShow,
}: {
  suggestion: Suggestion;
  busy: boolean;
  onAccept: (list: Suggestion['placements']) => Promise<void>;
  onClose: () => void;
  onShow: (start: string) => void;
}) {
  return (
    <section aria-label="Suggestion" className="mt-5 border-t-[1.5px] border-ink pt-2">
      <h2>Suggested</h2>
      <p className="mb-2 text-[12.5px] text-soft">
        Due dates first, then priority; tests of one car and baseline follow each other.
      </p>
      <ul className="grid gap-1.5">
        {suggestion.placements.map((p) => (
          <li key={p.testId} className="border-b border-rule pb-1.5">
            <b>{p.number}</b> {p.title}
            <span className="block text-[12px] text-soft">
              <button type="button" className="underline" onClick={() => onShow(p.start)}>
                {day(p.start)}
              </button>
              , {p.dyno}, {p.pulls} pulls
            </span>
            <Button small disabled={busy} onClick={() => void onAccept([p])}>
              Place it
            </Button>
          </li>
        ))}
      </ul>
      {suggestion.unplaced.map((u) => (
        <p key={u.testId} className="mt-1 text-[12.5px] text-ask">
          ◐ {u.number} {u.title}, {u.pulls} pulls, has no place: {u.reason}.
        </p>
      ))}
      <div className="mt-3 flex gap-2">
        {suggestion.placements.length > 0 && (
          <Button kind="main" small disabled={busy} onClick={() => void onAccept(suggestion.placements)}>
            Place all as suggested
          </Button>
        )}
        <Button small onClick={onClose}>
          Leave it
        </Button>
      </div>
    </section>
  );
}

function PlaceDialog({
  what,
  dyno,
  busy,
  onPlace,
  onRemove,
  onClose,
}: {
  what: Movable;
  dyno: Dyno;
  busy: boolean;
  onPlace: (start: string) => Promise<void>;
  onRemove?: (() => Promise<void>) | undefined;
  onClose: () => void;
}) {
  const tz = dyno.timeZone;
  const [date, setDate] = useState(
    what.start ? dateAt(what.start, tz) : dateAt(dyno.openings[0]?.start ?? new Date().toISOString(), tz),
  );
  const [time, setTime] = useState(
    what.start ? clockAt(what.start, tz) : dyno.openings[0] ? clockAt(dyno.openings[0].start, tz) : '09:00',
  );
  const [h, m] = time.split(':').map(Number);
  return (
    <Dialog open onClose={onClose} title={`${what.start ? 'Move' : 'Place'} test ${what.number}`}>
      <p className="mb-3 text-soft">
        {what.title}, {what.vehicle}. {number(what.minutes / 60, 1)} hours on {dyno.name}.{' '}
        <Link to={`/tests/${what.testId}/plan`}>Open the plan</Link>
      </p>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void onPlace(instantAt(date, h * 60 + m, tz));
        }}
        className="grid gap-4"
      >
        <div className="grid grid-cols-2 gap-3">
          <Field label="Day">
            <DateInput value={date} onChange={setDate} />
          </Field>
          <Field label="Begins" hint={`time of ${tz}`}>
            <TimeInput value={time} onChange={setTime} />
          </Field>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button kind="main" type="submit" disabled={busy || !date || !time}>
            {what.start ? 'Move it' : 'Place it'}
          </Button>
          {onRemove && (
            <Button kind="loss" onClick={() => void onRemove()}>
              Take it out of the calendar
            </Button>
          )}
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}

function CloseDialog({ data, from, onClose }: { data: ScheduleShown; from: string; onClose: () => void }) {
  const [close, { error, isLoading }] = useCloseDynoMutation();
  const [reopen] = useReopenDynoMutation();
  const [dynoId, setDynoId] = useState(data.dynos[0]?.id ?? '');
  const [first, setFirst] = useState(from);
  const [last, setLast] = useState(from);
  const [reason, setReason] = useState('');
  const tz = data.dynos.find((d) => d.id === dynoId)?.timeZone ?? 'UTC';
  return (
    <Dialog open onClose={onClose} title="Close a dyno">
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void (async () => {
            const answer = await close({
              dynoId,
              start: instantAt(first, 0, tz),
              end: instantAt(addDays(last, 1), 0, tz),
              reason,
            });
            if (!('error' in answer)) {
              toast.success('Closed.');
              setReason('');
            }
          })();
        }}
      >
        <Field label="Dyno">
          <Select value={dynoId} onChange={(e) => setDynoId(e.target.value)}>
            {data.dynos.map((d) => (
              <option key={d.id} value={d.id}>
                {d.name}
              </option>
            ))}
          </Select>
        </Field>
        <div className="grid grid-cols-2 gap-3">
          <Field label="First day">
            <DateInput value={first} onChange={setFirst} />
          </Field>
          <Field label="Last day">
            <DateInput value={last} min={first} onChange={setLast} />
          </Field>
        </div>
        <Field label="Reason">
          <Input
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            placeholder="service, holiday, calibration"
          />
        </Field>
        <ProblemNote error={error} />
        <div className="flex gap-2">
          <Button kind="main" type="submit" disabled={isLoading || reason.trim().length < 3}>
            Close it
          </Button>
          <Button onClick={onClose}>Done</Button>
        </div>
      </form>
      {data.closures.length > 0 && (
        <ul className="mt-4 border-t border-rule">
          {data.closures.map((c) => (
            <li key={c.id} className="flex items-center justify-between gap-3 border-b border-rule py-1.5">
              <span>
                {data.dynos.find((d) => d.id === c.dynoId)?.name}: {day(c.start)} to{' '}
                {day(new Date(Date.parse(c.end) - 1).toISOString())}
                <span className="block text-[12px] text-soft">{c.reason}</span>
              </span>
              <Button small onClick={() => void reopen(c.id)}>
                Reopen
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}
