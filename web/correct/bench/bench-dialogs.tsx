import { useState, type ReactNode } from 'react';
import { CHANGES, TAGS, type ChangeName, type EntryBody } from '../../../contract/capture/bench.ts';
import { SERVICE_ITEMS, type ServiceItem } from '../../../core/register/ledger.ts';
import { Dialog } from '../../base/dialog.tsx';
import { NumberInput, whyWrong, type NumberTyped } from '../../base/number-input.tsx';
import { Select } from '../../base/select.tsx';
import { FiguresTyped } from '../../base/figures-typed.tsx';
import { Button, Field, Input, Textarea } from '../../base/ui.tsx';
import { GLOVE } from './next-panel.tsx';
import type { Held, Place } from './standing.ts';

type Write = (body: EntryBody) => void;
interface Common {
  readonly onClose: () => void;
  readonly onWrite: Write;
}
const num = (value: NumberTyped): number | null => (typeof value === 'number' ? value : null);

function Foot({ verb, disabled, onClose }: { verb: string; disabled?: boolean; onClose: () => void }) {
  return (
    <div className="mt-2 flex justify-end gap-3">
      <Button className={GLOVE} onClick={onClose}>
        Cancel
      </Button>
      <Button kind="main" type="submit" className={`${GLOVE} px-8!`} disabled={disabled}>
        {verb}
      </Button>
    </div>
  );
}
function Form({ onSubmit, children }: { onSubmit: () => void; children: ReactNode }) {
  return (
    <form
      className="grid gap-3 text-[16px]"
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit();
      }}
    >
      {children}
    </form>
  );
}

/** A tag for a pull: one tap. */
export function TagDialog({ about, onClose, onWrite }: Common & { about: string }) {
  return (
    <Dialog open onClose={onClose} title={`Tag ${about}`}>
      <div className="grid grid-cols-2 gap-3">
        {TAGS.map((tag) => (
          <Button key={tag} className={GLOVE} onClick={() => onWrite({ kind: 'tag', tag })}>
            {tag}
          </Button>
        ))}
      </div>
    </Dialog>
  );
}

export function NoteDialog({ about, onClose, onWrite }: Common & { about: string }) {
  const [text, setText] = useState('');
  return (
    <Dialog open onClose={onClose} title={`Note, ${about}`}>
      <Form onSubmit={() => text.trim() && onWrite({ kind: 'note', text })}>
        <Field label="What was seen, heard or done">
          <Textarea
            rows={4}
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="w-full"
          />
        </Field>
        <FiguresTyped text={text} />
        <Foot verb="Keep the note" disabled={text.trim() === ''} onClose={onClose} />
      </Form>
    </Dialog>
  );
}

/** A value that is held equal and no device reads. */
export function HeldDialog({ held, onClose, onWrite }: Common & { held: Held }) {
  const [value, setValue] = useState<NumberTyped>(held.value);
  const units = [{ names: [held.unit] }];
  const wrong = whyWrong(value, units);
  const read = num(value);
  return (
    <Dialog open onClose={onClose} title={`${held.quantity}, ${held.unit}`}>
      <Form
        onSubmit={() =>
          read !== null && onWrite({ kind: 'held', quantity: held.quantity, value: read, unit: held.unit })
        }
      >
        <Field
          label={`Read now, ${held.unit}`}
          error={wrong}
          hint={held.value === null ? undefined : 'As for the pull before; change it where it differs.'}
        >
          <NumberInput value={value} onChange={setValue} units={units} className="min-h-14 text-[20px]" />
        </Field>
        <Foot verb="Write it" disabled={read === null} onClose={onClose} />
      </Form>
    </Dialog>
  );
}

type Services = readonly ServiceItem[];
function Renewed({ service, onChange }: { service: Services; onChange: (next: Services) => void }) {
  return (
    <fieldset>
      <legend className="mb-1">Renewed on the car (its ledger is told too)</legend>
      <div className="grid grid-cols-3 gap-2">
        {SERVICE_ITEMS.map((item) => (
          <label
            key={item}
            className="flex min-h-12 cursor-pointer items-center gap-2 rounded border border-rule px-3"
          >
            <input
              type="checkbox"
              className="size-5"
              checked={service.includes(item)}
              onChange={(event) =>
                onChange(
                  event.target.checked ? [...service, item] : service.filter((other) => other !== item),
                )
              }
            />
            {item}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

const DIFFICULTY = ['easy', 'usual', 'hard'] as const;
/** What was done to bring an arm onto the car. */

export function FitDialog({ place, onClose, onWrite }: Common & { place: Place }) {
  const [minutes, setMinutes] = useState<NumberTyped>(null);
  const [difficulty, setDifficulty] = useState('');
  const [tools, setTools] = useState('');
  const [broke, setBroke] = useState('');
  const [renewed, setRenewed] = useState('');
  const [service, setService] = useState<Services>([]);
  const wrong = whyWrong(minutes, [{ names: ['min'] }]);
  return (
    <Dialog open onClose={onClose} title={`“${place.armLabel}” is on the car`} wide>
      <Form
        onSubmit={() =>
          wrong === undefined &&
          onWrite({
            kind: 'fitted',
            arm: place.arm,
            minutes: num(minutes),
            difficulty: DIFFICULTY.find((d) => d === difficulty) ?? null,
            tools: tools.trim(),
            broke: broke.trim(),
            renewed: renewed.trim(),
            ...(service.length > 0 ? { service: [...service] } : {}),
          })
        }
      >
        <p className="text-soft">
          Leave empty what does not apply. What else was renewed decides whose gain it is.
        </p>
        <div className="grid grid-cols-2 gap-3">
          <Field label="Time it took, min" error={wrong}>
            <NumberInput value={minutes} onChange={setMinutes} units={[{ names: ['min'] }]} />
          </Field>
          <Field label="How it went">
            <Select value={difficulty} onChange={(event) => setDifficulty(event.target.value)}>
              <option value="">not said</option>
              {DIFFICULTY.map((d) => (
                <option key={d} value={d}>
                  {d}
                </option>
              ))}
            </Select>
          </Field>
          <Field label="Special tools">
            <Input value={tools} onChange={(event) => setTools(event.target.value)} />
          </Field>
          <Field label="What broke">
            <Input value={broke} onChange={(event) => setBroke(event.target.value)} />
          </Field>
        </div>
        <Renewed service={service} onChange={setService} />
        <Field label="What else was renewed or changed (gaskets, hoses, fittings)">
          <Input value={renewed} onChange={(event) => setRenewed(event.target.value)} />
        </Field>
        <Foot verb="It is on the car" onClose={onClose} />
      </Form>
    </Dialog>
  );
}

const RECORDS = {
  changed: 'Something was changed',
  fuel: 'Fuel',
  sound: 'Sound level',
  surface: 'Surface temperature',
  drive: 'Fit and drivability',
} as const;
type RecordKind = keyof typeof RECORDS;
const CHANGE_WORDS: Record<ChangeName, string> = {
  refuelled: 'Refuelled',
  hood: 'Hood opened or closed',
  fan: 'Fan moved or switched',
  'tyre pressure': 'Tyre pressure',
  gear: 'Another gear',
  other: 'Something else',
};

/** Everything else that belongs to the record of a session. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function RecordDialog({ onClose, onWrite }: Common) {
  const [kind, setKind] = useState<RecordKind>('changed');
  const [what, setWhat] = useState<ChangeName>('refuelled');
  const [text, setText] = useState('');
  const [first, setFirst] = useState<NumberTyped>(null);
  const [second, setSecond] = useState<NumberTyped>(null);
  const [tried, setTried] = useState(false);
  const said = text.trim();
  const body = ((): EntryBody | string => {
    const [a, b] = [num(first), num(second)];
    if (kind === 'changed') return said ? { kind, what, text: said } : 'Say what was changed.';
    if (kind === 'fuel') {
      if (a === null && said === '') return 'Give the ethanol content or the batch.';
      if (first !== null && (a === null || a < 0 || a > 100)) return 'The ethanol content is 0 to 100 %.';
      return { kind, ethanolPct: a, batch: said };
    }
    if (kind === 'sound') {
      if (a === null || a < 30 || a > 150) return 'A sound level is 30 to 150 dB.';
      if (b === null || b < 0 || b > 20_000) return 'Give the engine speed it was read at.';
      return said ? { kind, db: a, rpm: b, place: said } : 'Say where the meter stood.';
    }
    if (kind === 'surface') {
      if (a === null || a < -50 || a > 1200) return 'A surface temperature is −50 to 1200 °C.';
      return said ? { kind, part: said, temperatureC: a } : 'Say of what.';
    }
    return said ? { kind, text: said } : 'Write what was noticed.';
  })();
  const problem = tried && typeof body === 'string' ? body : undefined;
  return (
    <Dialog open onClose={onClose} title="Write into the record" wide>
      <Form onSubmit={() => (typeof body === 'string' ? setTried(true) : onWrite(body))}>
        <Field label="What it is">
          <Select value={kind} onChange={(event) => setKind(event.target.value as RecordKind)}>
            {Object.entries(RECORDS).map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </Select>
        </Field>
        {kind === 'changed' && (
          <Field
            label="What was changed"
            hint="Pulls before and after it may not be comparable: it is judged."
          >
            <Select value={what} onChange={(event) => setWhat(event.target.value as ChangeName)}>
              {CHANGES.map((c) => (
                <option key={c} value={c}>
                  {CHANGE_WORDS[c]}
                </option>
              ))}
            </Select>
          </Field>
        )}
        {(kind === 'fuel' || kind === 'sound' || kind === 'surface') && (
          <div className="grid grid-cols-2 gap-3">
            <Field
              label={{ fuel: 'Measured ethanol, %', sound: 'Level, dB(A)', surface: 'Temperature, °C' }[kind]}
            >
              <NumberInput value={first} onChange={setFirst} />
            </Field>
            {kind === 'sound' && (
              <Field label="At, rpm">
                <NumberInput value={second} onChange={setSecond} />
              </Field>
            )}
          </div>
        )}
        <Field
          label={
            {
              changed: 'In words',
              fuel: 'Batch or pump',
              sound: 'Where the meter stood (distance, side, height)',
              surface: 'Of what',
              drive: 'What was noticed',
            }[kind]
          }
          error={problem}
        >
          <Textarea rows={2} value={text} onChange={(event) => setText(event.target.value)} />
        </Field>
        <FiguresTyped text={text} />
        <Foot verb="Write it" onClose={onClose} />
      </Form>
    </Dialog>
  );
}

/** Ends a session; what is missing is said first. */
export function CloseDialog({
  missing,
  onClose,
  onDone,
}: {
  missing: readonly string[];
  onClose: () => void;
  onDone: (note: string) => void;
}) {
  const [note, setNote] = useState('');
  const must = missing.length > 0 && note.trim().length < 5;
  return (
    <Dialog open onClose={onClose} title="Close the session">
      <Form onSubmit={() => !must && onDone(note)}>
        {missing.length > 0 ? (
          <div role="alert" className="border-l-4 border-ask pl-3 text-ask">
            <b>Do not unstrap yet.</b>
            <ul className="list-disc pl-5">
              {missing.map((m) => (
                <li key={m}>{m}</li>
              ))}
            </ul>
          </div>
        ) : (
          <p>All that was planned is there.</p>
        )}
        <Field
          label={missing.length > 0 ? 'Why it ends all the same' : 'Note'}
          hint="It stands with the session."
        >
          <Textarea rows={2} value={note} onChange={(event) => setNote(event.target.value)} />
        </Field>
        <Foot verb="Close the session" disabled={must} onClose={onClose} />
      </Form>
    </Dialog>
  );
}
