import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { AirFileSaid } from '../../contract/capture/air-file.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import { problemOf } from '../base/api.ts';
import { Dialog } from '../base/dialog.tsx';
import { useSendAirFileMutation, useTakeAirMutation } from '../base/endpoints.ts';
import { number } from '../base/format.ts';
import { NumberInput, whyWrong, type NumberTyped } from '../base/number-input.tsx';
import { Select } from '../base/select.tsx';
import { Button, Field, ProblemNote } from '../base/ui.tsx';
import { Joined } from './station-joined.tsx';
import { atSite, clockAt } from '../plan/schedule-time.ts';

/** What the file did not say and the server asks for. */
const asksFor = (details: Readonly<Record<string, unknown>>) => ({
  kind: Array.isArray(details.pressureKind),
  columns: Array.isArray(details.columns) ? details.columns.map(String) : [],
});

const SECONDS = [{ names: ['s'] }];

/**
 * The file of a weather station: sent, held against the time of every pull, and taken over for the pulls that are
 * ticked. The server reads the stored bytes; nothing that is shown here is sent back as a number.
 */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function StationFile({
  testId,
  pulls,
  zone,
  onClose,
}: {
  testId: string;
  pulls: readonly Pull[];
  /** Zone of the site, in which times are shown. */
  zone: string;
  onClose: () => void;
}) {
  const picker = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File>();
  const [said, setSaid] = useState<AirFileSaid>({});
  const [ahead, setAhead] = useState<NumberTyped>(0);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [send, sending] = useSendAirFileMutation();
  const [take, taking] = useTakeAirMutation();
  const shown = sending.data;
  // What cannot be read as seconds is told, not passed over.
  const wrong = whyWrong(ahead, SECONDS);
  const problem = sending.error === undefined ? undefined : problemOf(sending.error);
  const asked = asksFor(problem?.details ?? {});

  const read = async (chosen: File, how: AirFileSaid): Promise<void> => {
    const answer = await send({ testId, file: chosen, said: how });
    if (!('data' in answer) || !answer.data) return;
    const bare = new Set(pulls.filter((p) => !p.air).map((p) => p.id));
    setTicked(new Set(answer.data.pulls.filter((p) => p.air && bare.has(p.pullId)).map((p) => p.pullId)));
  };
  const say = (more: AirFileSaid): void => {
    const next = { ...said, ...more };
    setSaid(next);
    if (file) void read(file, next);
  };
  const takeOver = async (): Promise<void> => {
    if (!shown) return;
    const answer = await take({ testId, fileId: shown.id, pullIds: [...ticked] });
    if ('error' in answer) return;
    toast.success(`Air of ${ticked.size} ${ticked.size === 1 ? 'pull' : 'pulls'} taken from ${shown.name}.`);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title="Air from the file of a weather station" wide>
      <div className="grid gap-3">
        <p className="text-soft">
          Delimited text or JSON lines with time, temperature, pressure and humidity. A pull gets the reading
          between the two beside it, none further than ten minutes away.
        </p>
        <input
          ref={picker}
          type="file"
          hidden
          aria-label="File of the station"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = '';
            if (!chosen) return;
            setFile(chosen);
            void read(chosen, said);
          }}
        />
        <div className="flex flex-wrap items-end gap-4">
          <Button kind={shown ? 'plain' : 'main'} onClick={() => picker.current?.click()}>
            {file ? 'Choose another file' : 'Choose the file'}
          </Button>
          {file && (
            <Field label="Clock of the station is ahead by, s" error={wrong}>
              <NumberInput
                value={ahead}
                units={SECONDS}
                onChange={setAhead}
                onBlur={() => {
                  if (typeof ahead === 'number' && ahead !== (said.clockAheadS ?? 0))
                    say({ clockAheadS: ahead });
                }}
              />
            </Field>
          )}
          {(asked.kind || said.pressureKind) && (
            <Field label="Its pressure is">
              <Select
                value={said.pressureKind ?? ''}
                onChange={(e) => say({ pressureKind: e.target.value as 'station' })}
              >
                <option value="">say which</option>
                <option value="station">read at the site</option>
                <option value="sea level">reduced to sea level</option>
              </Select>
            </Field>
          )}
          {(asked.columns.length > 1 || said.temperature) && (
            <Field label="Temperature where the engine breathes">
              <Select value={said.temperature ?? ''} onChange={(e) => say({ temperature: e.target.value })}>
                <option value="">say which</option>
                {(asked.columns.length > 1 ? asked.columns : [said.temperature!]).map((column) => (
                  <option key={column}>{column}</option>
                ))}
              </Select>
            </Field>
          )}
        </div>
        {sending.isLoading && <p className="text-soft">Reading {file?.name} …</p>}
        {problem && <ProblemNote message={problem.message} />}
        {shown && (
          <>
            <p className="text-[12.5px] text-soft">
              {number(shown.readings, 0)} readings, {atSite(shown.from, zone)} to {clockAt(shown.to, zone)} at
              the site; pressure{' '}
              {shown.pressureKind === 'station' ? 'read at the site' : 'reduced to sea level'}.{' '}
              {shown.findings.map((f) => (
                <span key={f.code} className="text-ask">
                  {f.message}{' '}
                </span>
              ))}
            </p>
            <Joined shown={shown.pulls} pulls={pulls} zone={zone} ticked={ticked} onTick={setTicked} />
            {taking.error !== undefined && <ProblemNote message={problemOf(taking.error).message} />}
            <div className="flex gap-2">
              <Button
                kind="main"
                disabled={ticked.size === 0 || taking.isLoading || wrong !== undefined}
                onClick={() => void takeOver()}
              >
                Take the air of {ticked.size || 'no'} {ticked.size === 1 ? 'pull' : 'pulls'}
              </Button>
              <Button onClick={onClose}>Cancel</Button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
