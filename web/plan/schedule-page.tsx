import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import type { Booking, Suggestion, Waiting } from '../../contract/plan/schedule.ts';
import { problemOf } from '../base/api.ts';
import { Button, buttonClass, Empty, Kbd, Loading, ProblemNote } from '../base/ui.tsx';
import { PageHead, useMay } from '../register/layout.tsx';
import { usePlaceMutation, useScheduleQuery, useSuggestMutation, useUnplaceMutation } from './api.ts';
import { addDays, dateAt, dayName, instantAt, minutesAt, mondayOf, snapped } from './schedule-time.ts';
import { HOUR, type Dyno, type Movable, WaitingCard, DynoWeek } from './schedule-week.tsx';
import { SuggestionList, PlaceDialog, CloseDialog } from './schedule-dialogs.tsx';

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
              {data.waitingTotal > data.waiting.length && (
                <p className="text-[12.5px] text-soft">
                  {data.waiting.length} of {data.waitingTotal}, those due first. A suggestion considers all of
                  them.
                </p>
              )}
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
