import type { EntryBody } from '../../../contract/capture/bench.ts';
import type { WatchedBench } from '../../../contract/correct/bench-watch.ts';
import { departureText } from '../../../core/capture/session/departure-words.ts';
import { useRetold } from '../../base/retold.ts';
import { clockAt } from '../../plan/schedule-time.ts';
import { Button } from '../../base/ui.tsx';
import { useSettleRecordingMutation } from './api.ts';
import type { Written } from './standing.ts';

/** An entry as it reads. */
export function entryWords(body: EntryBody, armLabel: (key: string) => string = (key) => key): string {
  switch (body.kind) {
    case 'checked':
      return `checked: ${body.check}`;
    case 'fitted':
      return [
        `on the car: ${armLabel(body.arm)}`,
        body.minutes === null ? '' : `${body.minutes} min`,
        body.difficulty ?? '',
        body.tools && `tools: ${body.tools}`,
        body.broke && `broke: ${body.broke}`,
        body.service?.length ? `renewed: ${body.service.join(', ')}` : '',
        body.renewed && `also: ${body.renewed}`,
      ]
        .filter(Boolean)
        .join(', ');
    case 'tag':
      return body.tag;
    case 'note':
    case 'drive':
      return body.text;
    case 'held':
      return `${body.quantity} ${body.value} ${body.unit}`;
    case 'changed':
      return `changed: ${body.what}, ${body.text}`;
    case 'fuel':
      return `fuel: ${[body.ethanolPct === null ? '' : `${body.ethanolPct} % ethanol`, body.batch].filter(Boolean).join(', ')}`;
    case 'sound':
      return `${body.db} dB(A) at ${body.rpm} rpm, ${body.place}`;
    case 'surface':
      return `${body.part} ${body.temperatureC} °C`;
  }
}
/** What was written and what departs from the run sheet, the newest first. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function SessionLog({
  testId,
  bench,
  written,
  zone,
  mayDo,
  armLabel,
  onDrop,
}: {
  testId: string;
  bench: WatchedBench;
  written: readonly (Written & { refused?: string | undefined })[];
  zone: string;
  mayDo: boolean;
  armLabel: (key: string) => string;
  onDrop: (id: string) => void;
}) {
  const [settle, { isLoading }] = useSettleRecordingMutation();
  const told = useRetold();
  const broken = bench.recordings.filter((r) => r.state === 'incomplete');
  const list = written
    .filter((w) => w.body.kind !== 'checked')
    .slice(-5)
    .reverse();
  return (
    <section aria-label="Record" className="grid gap-2 text-[15px]">
      {broken.map((r) => (
        <div key={r.id} role="alert" className="flex flex-wrap items-center gap-3 border-l-4 border-ask pl-3">
          <p className="min-w-0 flex-1 text-ask">
            <b>Not whole: {r.received} samples arrived.</b>{' '}
            {r.problem ?? 'The rest is fetched from the dyno’s own buffer when it is back.'}
          </p>
          {mayDo && (
            <>
              {r.problem === null && r.received >= 20 && (
                <Button
                  disabled={isLoading}
                  onClick={() => void settle({ testId, id: r.id, how: 'as-it-is' })}
                >
                  Use what arrived
                </Button>
              )}
              <Button disabled={isLoading} onClick={() => void settle({ testId, id: r.id, how: 'given-up' })}>
                Give it up
              </Button>
            </>
          )}
        </div>
      ))}
      {bench.departures.length > 0 && (
        <p className="text-ask">
          Other than planned: {bench.departures.map((d) => departureText(d, armLabel)).join('; ')}.
        </p>
      )}
      {list.length > 0 && (
        <ul>
          {list.map((w) => (
            <li key={w.id} className="flex flex-wrap gap-x-3 border-b border-rule py-1">
              <span className="text-soft">{clockAt(w.saidAt, zone)}</span>
              <span className="min-w-0 flex-1">{told(entryWords(w.body, armLabel))}</span>
              {w.waits && <span className="text-ask">{w.refused ?? 'not sent yet'}</span>}
              {w.refused !== undefined && (
                <button type="button" className="underline" onClick={() => onDrop(w.id)}>
                  Drop it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
