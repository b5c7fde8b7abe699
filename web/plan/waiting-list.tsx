import type { ReactNode } from 'react';
import type { ScheduleShown } from '../../contract/plan/schedule.ts';
import { Kbd } from '../base/ui.tsx';
import { waitingMovable, WaitingCard, type Movable } from './schedule-week.tsx';

/** Plans that wait for a place, and below them what is suggested. */
export function WaitingList({
  data,
  mayMove,
  onOpen,
  children,
}: {
  data: ScheduleShown;
  mayMove: boolean;
  onOpen: (what: Movable) => void;
  children: ReactNode;
}) {
  return (
    <section aria-label="Waiting for a place" className="min-w-0">
      <h2>Waiting for a place</h2>
      <p className="mb-2 text-[12.5px] text-soft">
        {mayMove ? (
          <>
            Drag into the calendar, or choose one to say when. In the calendar <Kbd>← → ↑ ↓</Kbd> move a
            session by a day or a quarter of an hour.
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
              what={waitingMovable(w)}
              w={w}
              dyno={data.dynos.find((d) => d.id === w.dynoId)?.name ?? ''}
              mayMove={mayMove}
              onOpen={() => onOpen(waitingMovable(w))}
            />
          </li>
        ))}
      </ul>
      {data.waitingTotal > data.waiting.length && (
        <p className="text-[12.5px] text-soft">
          {data.waiting.length} of {data.waitingTotal}, those due first. A suggestion considers all of them.
        </p>
      )}
      {children}
    </section>
  );
}
