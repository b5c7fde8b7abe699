import { useState } from 'react';
import { CHECKS, CHECK_NAMES, type CheckName } from '../../../contract/capture/bench.ts';
import type { NextAction } from '../../../core/capture/session/next-action.ts';
import { number, rpm, useUnits } from '../../base/format.ts';
import { Button } from '../../base/ui.tsx';
import type { Moment } from './live.ts';
import type { Place } from './standing.ts';

const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
/** Large enough for gloves. */
export const GLOVE = 'min-h-14 text-[17px]!';

const nth = (place: Place, places: readonly Place[]): string => {
  const kind = places.filter((p) => p.counted === place.counted && p.run === place.run);
  const index = kind.findIndex((p) => p.id === place.id) + 1;
  return `${place.counted ? 'counted pull' : 'warm-up pull'} ${index} of ${kind.length}`;
};

/** Words of what is to be done next: a line before, the deed itself, what it needs. */
// eslint-disable-next-line max-lines-per-function -- a table of words, one state a line
export function wordsOf(
  action: NextAction<Place>,
  places: readonly Place[],
  missing: readonly string[],
): { before: string; deed: string; after: string } {
  const of = (p: Place): string =>
    `Next: ${p.label}, place ${p.position} of ${places.length}, ${p.armLabel}, ${nth(p, places)}`;
  switch (action.is) {
    case 'open':
      return {
        before: 'No session is open',
        deed: 'Open the session',
        after: 'From then on everything done here is written down with its time.',
      };
    case 'check':
      return {
        before: 'Before the first pull',
        deed: `Check, ${action.left.length} to go`,
        after: 'Touch each line once you have looked at it yourself.',
      };
    case 'strap':
      return {
        before: action.next ? of(action.next) : 'Strapping',
        deed: action.again ? 'Strap the car down anew' : 'Strap the car down',
        after: 'Even tension, centred, nothing in line with the rollers. Say so when it is done.',
      };
    case 'fit':
      return {
        before: of(action.next),
        deed: `Have on the car: ${action.next.armLabel}`,
        after: 'Hot parts. Say what was done and what else was renewed: it decides what may be claimed.',
      };
    case 'cool':
      return {
        before: of(action.next),
        deed: action.secondsLeft > 0 ? `Cool down, ${clock(action.secondsLeft)}` : 'Wait',
        after:
          action.waits.length > 0
            ? `Not where the counted pulls start: ${action.waits.join(', ')}.`
            : 'So that it starts where the others started.',
      };
    case 'ready':
      return { before: of(action.next), deed: 'Make the pull', after: 'Everyone clear, then start.' };
    case 'asked':
      return {
        before: action.next ? of(action.next) : 'Extra pull',
        deed: 'Waiting for the dyno',
        after: 'It begins by itself, or somebody begins it there.',
      };
    case 'running':
      return { before: action.next ? of(action.next) : 'Extra pull', deed: 'Pulling', after: 'Stay clear.' };
    case 'done':
      return missing.length > 0
        ? { before: 'The run sheet is done', deed: 'Do not unstrap yet', after: missing.join(' ') }
        : {
            before: 'The run sheet is done',
            deed: 'All is there',
            after: 'Close the session, let the car cool, unstrap it.',
          };
  }
}

/** The next action in large type, with the one button it needs. */
export function NextPanel({
  action,
  places,
  missing,
  moment,
  mayDo,
  checked,
  onOpen,
  onCheck,
  onStrap,
  onFit,
}: {
  action: NextAction<Place>;
  places: readonly Place[];
  missing: readonly string[];
  moment: Moment | null;
  mayDo: boolean;
  checked: ReadonlySet<string>;
  onOpen: () => void;
  onCheck: (name: CheckName) => void;
  onStrap: (note: string) => void;
  onFit: (place: Place) => void;
}) {
  const { before, deed, after } = wordsOf(action, places, missing);
  return (
    <section aria-label="Next" className="grid content-start gap-1">
      <p className="text-[17px] text-soft">{before}</p>
      <h1 className="text-[52px]! max-md:text-[44px]!" aria-live="polite">
        {deed}
      </h1>
      <p className="max-w-[38em] text-[20px] leading-snug text-soft">{after}</p>
      {action.is === 'running' && <Running moment={moment} />}
      {mayDo && action.is === 'open' && (
        <Button kind="main" className={`${GLOVE} mt-3 justify-self-start px-8!`} onClick={onOpen}>
          Open the session
        </Button>
      )}
      {action.is === 'check' && <Checks checked={checked} mayDo={mayDo} onCheck={onCheck} />}
      {mayDo && action.is === 'strap' && <Strap onStrap={onStrap} />}
      {mayDo && action.is === 'fit' && (
        <Button
          kind="main"
          className={`${GLOVE} mt-3 justify-self-start px-8!`}
          onClick={() => onFit(action.next)}
        >
          “{action.next.armLabel}” is on the car
        </Button>
      )}
    </section>
  );
}

function Running({ moment }: { moment: Moment | null }) {
  const units = useUnits();
  return (
    <dl aria-label="The pull as it runs" className="mt-3 grid grid-cols-3 gap-4">
      {(
        [
          ['Engine speed', moment ? rpm(moment.rpm) : '…'],
          [
            'Torque, as it is read',
            moment?.torqueNm != null
              ? `${number(units.torque.of(moment.torqueNm), 0)} ${units.torque.unit}`
              : '…',
          ],
          ['Time left', moment?.secondsLeft != null ? `${Math.ceil(moment.secondsLeft)} s` : '…'],
        ] as const
      ).map(([term, value]) => (
        <div key={term}>
          <dt className="text-[15px] text-soft">{term}</dt>
          <dd className="text-[40px] font-semibold leading-tight max-md:text-[32px]">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

function Checks({
  checked,
  mayDo,
  onCheck,
}: {
  checked: ReadonlySet<string>;
  mayDo: boolean;
  onCheck: (name: CheckName) => void;
}) {
  return (
    <ul aria-label="Checks" className="mt-3 grid gap-2 lg:grid-cols-2">
      {CHECK_NAMES.map((name) => {
        const isDone = checked.has(name);
        return (
          <li key={name}>
            <button
              type="button"
              aria-pressed={isDone}
              disabled={!mayDo || isDone}
              onClick={() => onCheck(name)}
              className={`flex min-h-14 w-full items-center gap-3 rounded-md border-2 px-4 py-2 text-left text-[17px] ${
                isDone ? 'border-stands text-stands' : 'border-rule bg-sheet hover:border-ink'
              }`}
            >
              <span aria-hidden className="text-[22px]">
                {isDone ? '●' : '○'}
              </span>
              {CHECKS[name]}
            </button>
          </li>
        );
      })}
    </ul>
  );
}

function Strap({ onStrap }: { onStrap: (note: string) => void }) {
  const [note, setNote] = useState('');
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onStrap(note);
      }}
    >
      <label className="grid gap-1 text-[15px]">
        How it is strapped (straps, tension, marks)
        <input
          value={note}
          onChange={(event) => setNote(event.target.value)}
          className="min-h-14 w-[26em] max-w-full rounded-md border border-line bg-sheet px-3 text-[17px]"
        />
      </label>
      <Button kind="main" type="submit" className={`${GLOVE} px-8!`}>
        It is strapped down
      </Button>
    </form>
  );
}
