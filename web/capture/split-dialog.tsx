import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { LongLog } from '../../contract/capture/long-log.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { Dialog } from '../base/dialog.tsx';
import { usePlacePiecesMutation, useSendLongLogMutation } from '../base/endpoints.ts';
import { number } from '../base/format.ts';
import { OnTheWay } from '../base/on-the-way-note.tsx';
import { Select } from '../base/select.tsx';
import { Button, ProblemNote } from '../base/ui.tsx';
import { placesFor, pullsToLog } from './places-for.ts';

/** One long log with several pulls: found, shown, each offered to its place on the run sheet. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function SplitDialog({ detail, onClose }: { detail: TestDetail; onClose: () => void }) {
  const testId = detail.summary.id;
  const picker = useRef<HTMLInputElement>(null);
  const [send, sending] = useSendLongLogMutation();
  const [place, placing] = usePlacePiecesMutation();
  const [places, setPlaces] = useState<readonly string[]>([]);
  const log = sending.data;
  const twice = places.filter((id, k) => id !== '' && places.indexOf(id) !== k);
  const chosen = places.flatMap((pullId, piece) => (pullId === '' ? [] : [{ piece, pullId }]));
  const read = async (file: File): Promise<void> => {
    const answer = await send({ testId, file });
    if (!('data' in answer) || !answer.data) return;
    const { pieces, hasTorque } = answer.data;
    setPlaces((hasTorque ? placesFor : pullsToLog)(pieces.length, detail.pulls));
  };
  const take = async (of: LongLog): Promise<void> => {
    const answer = await place({ testId, logId: of.id, places: chosen });
    if (!('data' in answer) || !answer.data) return;
    const refused = answer.data.placed.filter((p) => p.problem !== null);
    if (refused.length > 0) return;
    toast.success(`${answer.data.placed.length} ${of.hasTorque ? 'pulls attached' : 'logs joined'}.`);
    onClose();
  };
  const problemOf = (piece: number): string | null =>
    placing.data?.placed.find((p) => p.piece === piece)?.problem ?? null;
  return (
    <Dialog open onClose={onClose} title="Split a long log" wide>
      <div className="grid gap-3">
        <p className="text-soft">
          For a log that ran through several pulls. Each is cut out with its own lines and attached to its
          place, or, where only the engine was logged, joined to the pull it ran with; the log is kept whole
          beside them.
        </p>
        <div>
          <Button
            kind={log ? 'plain' : 'main'}
            disabled={sending.isLoading}
            onClick={() => picker.current?.click()}
          >
            {sending.isLoading ? 'Reading the log …' : log ? 'Choose another log' : 'Choose the log'}
          </Button>
          <input
            ref={picker}
            type="file"
            className="sr-only"
            aria-label="Long log"
            tabIndex={-1}
            accept=".csv,.txt,.tsv,.log,.dat,text/*"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              if (file) void read(file);
            }}
          />
        </div>
        <OnTheWay />
        <ProblemNote error={sending.error} />
        {log && (
          <>
            <p>
              <b>
                {log.pieces.length} pulls in {log.name}.
              </b>{' '}
              {log.hasTorque
                ? 'Warm-up pulls and extra ones that have no place stay out.'
                : 'They have no torque: each is joined to the pull that was recorded with it, in the order they ran.'}
            </p>
            <div className="max-h-[38vh] overflow-auto">
              <table className="ledger" aria-label="Pulls of the log">
                <thead>
                  <tr>
                    <th>Pull</th>
                    <th>Lines</th>
                    <th className="num">From, s</th>
                    <th className="num">Rpm</th>
                    <th>Place</th>
                  </tr>
                </thead>
                <tbody>
                  {log.pieces.map((piece, k) => (
                    <tr key={piece.fromLine}>
                      <td>{k + 1}</td>
                      <td>
                        {number(piece.fromLine, 0)} to {number(piece.toLine, 0)}
                      </td>
                      <td className="num">{piece.atS === null ? '–' : number(piece.atS, 1)}</td>
                      <td className="num">
                        {number(piece.fromRpm, 0)} to {number(piece.toRpm, 0)}
                      </td>
                      <td>
                        <Select
                          aria-label={`Place of pull ${k + 1}`}
                          value={places[k] ?? ''}
                          onChange={(event) =>
                            setPlaces(places.map((id, j) => (j === k ? event.target.value : id)))
                          }
                        >
                          <option value="">leave out</option>
                          {detail.pulls
                            .filter((p) => log.hasTorque || p.file)
                            .map((p) => (
                              <option key={p.id} value={p.id}>
                                {`${p.label}, ${detail.arms.find((a) => a.key === p.arm)?.label ?? p.arm}${
                                  log.hasTorque
                                    ? p.file
                                      ? `, replaces ${p.file.name}`
                                      : ''
                                    : p.log
                                      ? `, replaces ${p.log.name}`
                                      : ''
                                }`}
                              </option>
                            ))}
                        </Select>
                        {problemOf(k) && <p className="text-loss">{problemOf(k)}</p>}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            {twice.length > 0 && <ProblemNote message="One place is chosen for two pulls." />}
            <ProblemNote error={placing.error} />
            <div className="flex justify-end gap-2">
              <Button onClick={onClose}>Cancel</Button>
              <Button
                kind="main"
                disabled={chosen.length === 0 || twice.length > 0 || placing.isLoading}
                onClick={() => void take(log)}
              >
                {log.hasTorque ? 'Attach' : 'Join'} {chosen.length} {log.hasTorque ? 'pull' : 'log'}
                {chosen.length === 1 ? '' : 's'}
              </Button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
