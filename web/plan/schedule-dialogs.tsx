import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { DateInput, TimeInput } from '../base/date-input.tsx';
import type { ScheduleShown, Suggestion } from '../../contract/plan/schedule.ts';
import { day, number } from '../base/format.ts';
import { Button, Dialog, Field, Input, ProblemNote, Select } from '../base/ui.tsx';
import { useCloseDynoMutation, useReopenDynoMutation } from './api.ts';
import { addDays, clockAt, dateAt, instantAt } from './schedule-time.ts';
import { type Dyno, type Movable } from './schedule-week.tsx';

export function SuggestionList({
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
