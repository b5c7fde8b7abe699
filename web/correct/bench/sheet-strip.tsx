import clsx from 'clsx';
import type { Notice } from '../../../core/correct/watch/notice.ts';
import type { RecordingShown } from '../../../contract/capture/bench.ts';
import type { Place } from './standing.ts';

interface Props {
  readonly places: readonly Place[];
  readonly recordings: readonly RecordingShown[];
  readonly notices: readonly Notice[];
  readonly next: string | null;
}
/** The run sheet as one row of places, and what was recorded beside it. */
export function SheetStrip({ places, recordings, notices, next }: Props) {
  const runs = [...new Set(places.map((p) => p.run))];
  const extras = recordings.filter((r) => r.pullId === null && r.order !== null);
  return (
    <section aria-label="Run sheet" className="flex flex-wrap gap-x-4 gap-y-3">
      {runs.map((run) => {
        const own = places.filter((p) => p.run === run);
        return (
          <div key={run}>
            <p className="mb-1 text-[14px] text-soft">{own[0].armLabel}</p>
            <ol className="flex flex-wrap gap-1.5">
              {own.map((place) => (
                <Cell key={place.id} {...{ place, recordings, notices }} isNext={place.id === next} />
              ))}
            </ol>
          </div>
        );
      })}
      {extras.length > 0 && (
        <div>
          <p className="mb-1 text-[14px] text-soft">beside the sheet</p>
          <ol className="flex gap-1.5">
            {extras.map((r) => (
              <li
                key={r.id}
                title={`Extra pull, ${r.arm}, ${r.state}`}
                className="grid size-10 place-items-center rounded-md border-2 border-dashed border-line text-[15px]"
              >
                {r.state === 'complete' ? '+' : '×'}
                <span className="sr-only">
                  extra pull {r.order}, {r.arm}, {r.state}
                </span>
              </li>
            ))}
          </ol>
        </div>
      )}
    </section>
  );
}

function stateOf(place: Place, recordings: readonly RecordingShown[], notices: readonly Notice[]) {
  const own = recordings.filter((r) => r.pullId === place.id);
  const recording = own.find((r) => r.state === 'complete') ?? own.at(-1);
  if (recording?.state === 'complete') {
    const asks = notices.some((n) => n.recordingId === recording.id && n.tone !== 'know');
    return asks ? 'recorded, with a question' : 'recorded';
  }
  if (recording?.state === 'incomplete') return 'not whole';
  if (recording?.state === 'running') return 'running';
  return place.settled ? 'there' : 'to come';
}
function Cell({
  place,
  recordings,
  notices,
  isNext,
}: Omit<Props, 'places' | 'next'> & { place: Place; isNext: boolean }) {
  const state = stateOf(place, recordings, notices);
  const asks = state === 'recorded, with a question' || state === 'not whole';
  const isThere = state === 'recorded' || state === 'there';
  return (
    <li
      aria-current={isNext ? 'step' : undefined}
      title={`${place.label}: ${state}`}
      className={clsx(
        'grid size-10 place-items-center rounded-md border-2 text-[16px] font-semibold',
        place.counted ? '' : 'border-dashed',
        asks
          ? 'border-ask bg-ask text-paper'
          : isThere
            ? place.counted
              ? 'border-stands bg-stands text-paper'
              : 'border-stands text-stands'
            : isNext
              ? 'border-ink text-ink'
              : 'border-rule text-soft',
        isNext && 'outline-2 outline-offset-2 outline-ink',
      )}
    >
      <span aria-hidden>{place.counted ? place.label.replace(/^\D+/, '') : 'w'}</span>
      <span className="sr-only">
        {place.label}, {state}
        {isNext ? ', next' : ''}
      </span>
    </li>
  );
}
