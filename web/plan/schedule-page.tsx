import { DndContext, DragOverlay } from '@dnd-kit/core';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { Button, buttonClass, Loading, ProblemNote } from '../base/ui.tsx';
import { PageHead, useMay } from '../register/layout.tsx';
import { useScheduleQuery } from './api.ts';
import { Calendar } from './calendar.tsx';
import { CloseDialog, PlaceDialog, SuggestionList } from './schedule-dialogs.tsx';
import { mondayOf } from './schedule-time.ts';
import { Dragged, type Movable } from './schedule-week.tsx';
import { useDragging } from './use-dragging.ts';
import { usePlacing } from './use-placing.ts';
import { WaitingList } from './waiting-list.tsx';

/** A week of dyno days: sessions in their places, those that wait beside it. Placing is suggested and overruled by hand. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function SchedulePage() {
  const may = useMay();
  const [search, setSearch] = useSearchParams();
  const [thisWeek] = useState(() => mondayOf(new Date().toISOString().slice(0, 10)));
  const from = mondayOf(search.get('from') ?? thisWeek);
  const { data, error, refetch } = useScheduleQuery({ from, days: 7 });
  const placing = usePlacing();
  const zoneOf = (dynoId: string): string => data?.dynos.find((d) => d.id === dynoId)?.timeZone ?? 'UTC';
  const dragging = useDragging((what, start) => void placing.placeAt(what, start, zoneOf(what.dynoId)));
  const [placed, setPlaced] = useState<Movable | null>(null);
  const [closing, setClosing] = useState(false);
  const go = (week: string): void => setSearch(week === thisWeek ? {} : { from: week }, { replace: true });
  const goTo = (start: string): void => go(mondayOf(start.slice(0, 10)));
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
              disabled={placing.suggesting || !data?.waiting.length}
              onClick={() => void placing.ask(from)}
            >
              Suggest places
            </Button>
          </>
        )}
      </PageHead>
      <ProblemNote error={error} again={() => void refetch()} />
      <ProblemNote error={placing.noSuggestion} />
      {!data && !error && <Loading what="the calendar" />}
      {data && (
        <DndContext
          sensors={dragging.sensors}
          onDragStart={dragging.onDragStart}
          onDragEnd={dragging.onDragEnd}
          onDragCancel={dragging.onDragCancel}
        >
          <div className="grid gap-6 xl:grid-cols-[250px_minmax(0,1fr)]">
            <WaitingList data={data} mayMove={may.prepare} onOpen={setPlaced}>
              {placing.suggestion && (
                <SuggestionList
                  suggestion={placing.suggestion}
                  busy={placing.placing}
                  onClose={placing.dropSuggestion}
                  onShow={goTo}
                  zoneOf={zoneOf}
                  onAccept={placing.accept}
                />
              )}
            </WaitingList>
            <Calendar
              {...{ data, from, thisWeek, go }}
              ghosts={placing.suggestion?.placements ?? []}
              mayMove={may.prepare}
              onOpen={setPlaced}
              onMove={(what, start) => void placing.placeAt(what, start, zoneOf(what.dynoId))}
            />
          </div>
          <DragOverlay dropAnimation={null}>
            {dragging.moving && <Dragged what={dragging.moving} />}
          </DragOverlay>
        </DndContext>
      )}
      {placed && data && (
        <PlaceDialog
          what={placed}
          dyno={data.dynos.find((d) => d.id === placed.dynoId)!}
          busy={placing.placing}
          onClose={() => setPlaced(null)}
          onPlace={async (start) => {
            const problem = await placing.tryAt(placed, start);
            if (problem) return problem;
            setPlaced(null);
            goTo(start);
            return undefined;
          }}
          onRemove={
            placed.start === null
              ? undefined
              : async () => {
                  if (await placing.takeOut(placed)) setPlaced(null);
                }
          }
        />
      )}
      {closing && data && <CloseDialog data={data} from={from} onClose={() => setClosing(false)} />}
    </main>
  );
}
