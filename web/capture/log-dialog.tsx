import { useState } from 'react';
import { Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { toast } from 'sonner';
import type { Pull } from '../../contract/capture/capture.ts';
import type { PullLogShown } from '../../contract/capture/pull-log.ts';
import {
  useJoinLogMutation,
  usePullLogQuery,
  useShiftLogMutation,
  useTakeLogOffMutation,
} from '../base/endpoints.ts';
import { Dialog } from '../base/dialog.tsx';
import { number } from '../base/format.ts';
import { NumberInput, type NumberTyped } from '../base/number-input.tsx';
import { OnTheWay } from '../base/on-the-way-note.tsx';
import { Button, Field, Input, Loading, ProblemNote } from '../base/ui.tsx';

interface Of {
  readonly testId: string;
  readonly pull: Pull;
  readonly onClose: () => void;
}

/** The log of an engine that came as a file of its own: joined to a pull, seen over it, shifted, taken off. */
export function LogDialog(of: Of) {
  return (
    <Dialog open onClose={of.onClose} title={`Engine log of ${of.pull.label}`} wide>
      {of.pull.log ? <Joined {...of} /> : <Choose {...of} />}
    </Dialog>
  );
}

function Choose({ testId, pull, onClose }: Of) {
  const [join, { isLoading, error }] = useJoinLogMutation();
  const send = async (file: File | undefined): Promise<void> => {
    if (file) await join({ testId, pullId: pull.id, file });
  };
  return (
    <div className="grid gap-3">
      <p className="text-soft">
        A file with a time of its own. It is shifted to where its engine speed meets that of {pull.file!.name}
        , or, where it has none, to what the clocks of both say; what the pull’s own file says is never
        overwritten.
      </p>
      <Field label="File of the log">
        <Input
          type="file"
          disabled={isLoading}
          onChange={(e) => void send(e.target.files?.[0])}
          accept=".csv,.txt,.tsv,.log"
        />
      </Field>
      {isLoading && <Loading what="the log" />}
      <OnTheWay />
      <ProblemNote error={error} />
      <div>
        <Button onClick={onClose}>Close</Button>
      </div>
    </div>
  );
}

function Joined(of: Of) {
  const { data, error, refetch } = usePullLogQuery({ testId: of.testId, pullId: of.pull.id });
  if (error) return <ProblemNote error={error} again={() => void refetch()} />;
  if (!data) return <Loading what="the log" />;
  return <Shift key={data.offsetS} {...of} shown={data} />;
}

const STEP_S = 0.05;
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Shift({ testId, pull, onClose, shown }: Of & { shown: PullLogShown }) {
  const [offset, setOffset] = useState<NumberTyped>(shown.offsetS);
  const [shift, shifting] = useShiftLogMutation();
  const [takeOff, takingOff] = useTakeLogOffMutation();
  const busy = shifting.isLoading || takingOff.isLoading;
  const seconds = typeof offset === 'number' ? offset : NaN;
  const isOther = Number.isFinite(seconds) && seconds !== shown.offsetS;
  const { foundOffsetS, correlation, adds } = shown;
  const save = async (): Promise<void> => {
    if (!('error' in (await shift({ testId, pullId: pull.id, offsetS: seconds }))))
      toast.success(`The log of ${pull.label} is shifted by ${number(seconds, 2)} s.`);
  };
  const remove = async (): Promise<void> => {
    if ('error' in (await takeOff({ testId, pullId: pull.id }))) return;
    toast.success(`The log of ${pull.label} is taken off; its bytes stay.`);
    onClose();
  };
  return (
    <div className="grid gap-3">
      <p>
        <b>{shown.name}</b>{' '}
        {foundOffsetS !== null && correlation === null ? (
          <span className="text-ask">
            has no engine speed. By the clocks of both files it is shifted by {number(foundOffsetS, 2)} s,
            right to about a second; the judgement says so.
          </span>
        ) : foundOffsetS === null ? (
          <span className="text-ask">
            Its engine speed meets that of the pull nowhere. Is it the log of this pull? If you are sure, set
            the shift by hand; the judgement says that you did.
          </span>
        ) : (
          <span className="text-soft">
            meets the engine speed of the pull when shifted by {number(foundOffsetS, 2)} s (correlation{' '}
            {number(correlation!, 4)}).
          </span>
        )}{' '}
        {adds.length > 0 ? `It adds ${adds.join(', ')}.` : 'It adds no channel that the pull does not have.'}
      </p>
      <Speeds shown={shown} offsetS={Number.isFinite(seconds) ? seconds : shown.offsetS} />
      <div className="flex flex-wrap items-end gap-2">
        <Field label="Shift, s">
          <NumberInput value={offset} onChange={setOffset} className="w-28" />
        </Field>
        <Button
          aria-label="Earlier by 0.05 s"
          onClick={() => setOffset(Number((seconds - STEP_S).toFixed(3)))}
        >
          −{STEP_S}
        </Button>
        <Button aria-label="Later by 0.05 s" onClick={() => setOffset(Number((seconds + STEP_S).toFixed(3)))}>
          +{STEP_S}
        </Button>
        {foundOffsetS !== null && seconds !== foundOffsetS && (
          <Button onClick={() => setOffset(foundOffsetS)}>As it was found</Button>
        )}
      </div>
      <ProblemNote error={shifting.error ?? takingOff.error} />
      <div className="flex gap-2">
        <Button kind="main" disabled={!isOther || busy} onClick={() => void save()}>
          Keep this shift
        </Button>
        <Button kind="loss" disabled={busy} onClick={() => void remove()}>
          Take the log off
        </Button>
        <Button onClick={onClose}>Close</Button>
      </div>
    </div>
  );
}

/** Both engine speeds over the pull’s time. */
function Speeds({ shown: { pull, log }, offsetS }: { shown: PullLogShown; offsetS: number }) {
  const [from, to] = [pull.t[0], pull.t.at(-1)!];
  const rows = [
    ...pull.t.map((t, i) => ({ t, pull: pull.rpm[i] })),
    ...log.t
      .map((t, i) => ({ t: t + offsetS, log: log.rpm[i] }))
      .filter((r) => r.t >= from - 5 && r.t <= to + 5),
  ].sort((a, b) => a.t - b.t);
  const axis = { tick: { fontSize: 11, fill: 'var(--soft)' }, tickFormatter: (v: number) => number(v, 0) };
  return (
    <figure className="m-0" aria-label="Engine speed of pull and log over time">
      <figcaption className="text-[12.5px] text-soft">
        Engine speed, rpm, over time, s: the pull dashed, the log full
      </figcaption>
      <ResponsiveContainer width="100%" height={200} minWidth={200}>
        <LineChart data={rows} margin={{ top: 6, right: 8, bottom: 0, left: 0 }}>
          <XAxis dataKey="t" type="number" domain={['dataMin', 'dataMax']} {...axis} stroke="var(--rule)" />
          <YAxis {...axis} axisLine={false} tickLine={false} />
          <Line
            dataKey="pull"
            dot={false}
            connectNulls
            isAnimationActive={false}
            stroke="var(--ink)"
            strokeDasharray="6 4"
            strokeWidth={2}
          />
          <Line
            dataKey="log"
            dot={false}
            connectNulls
            isAnimationActive={false}
            stroke="var(--stands)"
            strokeWidth={1.6}
          />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}
