import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import type { ScheduleShown, Suggestion } from '../../contract/plan/schedule.ts';
import { day, number } from '../base/format.ts';
import { RecordForm } from '../base/record-form.tsx';
import { ConfirmButton } from '../base/confirm.tsx';
import type { Problem } from '../base/api.ts';
import { Dialog } from '../base/dialog.tsx';
import { Button, Loading, ProblemNote } from '../base/ui.tsx';
import { useCloseDynoMutation, useFreeQuery, useReopenDynoMutation } from './api.ts';
import { addDays, atSite, clockAt, dateAt, instantAt } from './schedule-time.ts';
import { type Dyno, type Movable } from './schedule-week.tsx';

export function SuggestionList({
  suggestion,
  busy,
  onAccept,
  onClose,
  onShow,
  zoneOf,
}: {
  suggestion: Suggestion;
  busy: boolean;
  onAccept: (list: Suggestion['placements']) => Promise<void>;
  onClose: () => void;
  onShow: (start: string) => void;
  zoneOf: (dynoId: string) => string;
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
                {atSite(p.start, zoneOf(p.dynoId))}
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

const Place = z.object({
  date: z.iso.date('Choose a day.'),
  time: z.string('Say when it begins, as 14:05.').min(1, 'Say when it begins, as 14:05.'),
});

/** Where a session goes: its place, or the next one that is free; a refusal is read here, with what would fit. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function PlaceDialog({
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
  /** Resolves to what stands against it. */
  onPlace: (start: string) => Promise<Problem | undefined>;
  onRemove?: (() => Promise<void>) | undefined;
  onClose: () => void;
}) {
  const tz = dyno.timeZone;
  const [opened] = useState(() => new Date().toISOString());
  const { data: free, error } = useFreeQuery(
    { testId: what.testId, from: opened },
    { skip: what.start !== null },
  );
  const [refused, setRefused] = useState<Problem>();
  const [taken, setTaken] = useState<string>();
  const wouldFit = typeof refused?.details.wouldFit === 'string' ? refused.details.wouldFit : undefined;
  const first = taken ?? what.start ?? free?.start ?? undefined;
  const isLooking = what.start === null && !free && !error;
  return (
    <Dialog open onClose={onClose} title={`${what.start ? 'Move' : 'Place'} test ${what.number}`}>
      <p className="mb-3 text-soft">
        {what.title}, {what.vehicle}. {number(what.minutes / 60, 1)} hours on {dyno.name}.{' '}
        <Link to={`/tests/${what.testId}/plan`}>Open the plan</Link>
      </p>
      {free?.start === null && (
        <p className="mb-3 text-ask">◐ No place is free on this dyno in the next two months.</p>
      )}
      {isLooking ? (
        <Loading what="the next free place" />
      ) : (
        <RecordForm
          key={first ?? ''}
          schema={Place}
          values={{ date: first ? dateAt(first, tz) : '', time: first ? clockAt(first, tz) : '09:00' }}
          groups={[
            {
              title: '',
              fields: [
                {
                  name: 'date',
                  label: 'Day',
                  kind: 'date',
                  span: 6,
                  hint: free?.start && first === free.start ? 'the next free place' : undefined,
                },
                { name: 'time', label: 'Begins', kind: 'time', span: 6, hint: `time of ${tz}` },
              ],
            },
          ]}
          verb={what.start ? 'Move it' : 'Place it'}
          saving={busy}
          save={async ({ date, time }) => {
            const [h, m] = time.split(':').map(Number);
            const problem = await onPlace(instantAt(date, h * 60 + m, tz));
            setRefused(problem);
            return problem === undefined;
          }}
          besides={
            onRemove && (
              <ConfirmButton
                kind="loss"
                disabled={busy}
                title={`Take test ${what.number} out of the calendar?`}
                follows="Its place on the dyno is free for others at once; the test waits to be placed again."
                verb="Take it out"
                onConfirm={onRemove}
              >
                Take it out of the calendar
              </ConfirmButton>
            )
          }
          onCancel={onClose}
        >
          {refused && (
            <div className="grid justify-items-start gap-2">
              <ProblemNote message={refused.message} />
              {wouldFit && (
                <Button
                  small
                  onClick={() => {
                    setTaken(wouldFit);
                    setRefused(undefined);
                  }}
                >
                  It would fit on {atSite(wouldFit, tz)}: take that
                </Button>
              )}
            </div>
          )}
        </RecordForm>
      )}
    </Dialog>
  );
}

/** The days of a closure as the site counts them. */
function closedDays(
  { dynoId, start, end }: { dynoId: string; start: string; end: string },
  dynos: readonly Dyno[],
) {
  const tz = dynos.find((d) => d.id === dynoId)?.timeZone ?? 'UTC';
  const [first, last] = [dateAt(start, tz), dateAt(new Date(Date.parse(end) - 1).toISOString(), tz)];
  return first === last ? day(first) : `${day(first)} to ${day(last)}`;
}

const Closing = z
  .object({
    dynoId: z.string(),
    first: z.iso.date('Choose the first day.'),
    last: z.iso.date('Choose the last day.'),
    reason: z.string().trim().min(3, 'Say why it is closed.'),
  })
  .refine((c) => c.last >= c.first, { path: ['last'], message: 'The last day lies before the first.' });

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function CloseDialog({
  data,
  from,
  onClose,
}: {
  data: ScheduleShown;
  from: string;
  onClose: () => void;
}) {
  const [close, { error, isLoading }] = useCloseDynoMutation();
  const [reopen] = useReopenDynoMutation();
  // A form for each closure: after one the reason is empty again.
  const [made, setMade] = useState(0);
  const save = async ({ dynoId, first, last, reason }: z.output<typeof Closing>): Promise<boolean> => {
    const tz = data.dynos.find((d) => d.id === dynoId)?.timeZone ?? 'UTC';
    const [start, end] = [instantAt(first, 0, tz), instantAt(addDays(last, 1), 0, tz)];
    if ('error' in (await close({ dynoId, start, end, reason }))) return false;
    toast.success('Closed.');
    setMade(made + 1);
    return true;
  };
  return (
    <Dialog open onClose={onClose} title="Close a dyno">
      <RecordForm
        key={made}
        draft="closure"
        schema={Closing}
        values={{ dynoId: data.dynos[0]?.id ?? '', first: from, last: from, reason: '' }}
        groups={[
          {
            title: '',
            fields: [
              {
                name: 'dynoId',
                label: 'Dyno',
                kind: 'select',
                span: 12,
                options: data.dynos.map((d) => ({ value: d.id, label: d.name })),
              },
              { name: 'first', label: 'First day', kind: 'date', span: 6 },
              { name: 'last', label: 'Last day', kind: 'date', span: 6 },
              {
                name: 'reason',
                label: 'Reason',
                kind: 'text',
                span: 12,
                hint: 'for example service, holiday, calibration',
              },
            ],
          },
        ]}
        verb="Close it"
        saving={isLoading}
        problem={error}
        save={save}
        cancelVerb="Done"
        onCancel={onClose}
      />
      {data.closures.length > 0 && (
        <ul className="mt-4 border-t border-rule">
          {data.closures.map((c) => (
            <li key={c.id} className="flex items-center justify-between gap-3 border-b border-rule py-1.5">
              <span>
                {data.dynos.find((d) => d.id === c.dynoId)?.name}: {closedDays(c, data.dynos)}
                <span className="block text-[12px] text-soft">{c.reason}</span>
              </span>
              <ConfirmButton
                small
                title="Reopen the dyno?"
                follows={`The closure (${c.reason}) goes, and sessions can be placed on these days.`}
                verb="Reopen it"
                onConfirm={async () => {
                  await reopen(c.id);
                }}
              >
                Reopen
              </ConfirmButton>
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}
