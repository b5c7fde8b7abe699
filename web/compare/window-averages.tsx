import { useAddress } from './address.ts';
import type { InWindowShown } from '../../contract/compare/in-window.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import { testsApi, useInWindowQuery } from '../base/endpoints.ts';
import { number, rpm, useUnits } from '../base/format.ts';
import { Computing } from '../base/computing.tsx';
import { Button, ProblemNote } from '../base/ui.tsx';

/** A stretch of the curve that somebody drew, rpm. */
export interface DrawnWindow {
  readonly fromRpm: number;
  readonly toRpm: number;
}
const LEAST_RPM = 1000;

/** The drawn stretch stands in the address: it can be sent to somebody else. */
export function useDrawnWindow(): [DrawnWindow | null, (window: DrawnWindow | null) => void] {
  const [params, change] = useAddress();
  const [fromRpm, toRpm] = [Number(params.get('from')), Number(params.get('to'))];
  const window = params.has('from') && fromRpm < toRpm ? { fromRpm, toRpm } : null;
  const set = (next: DrawnWindow | null): void =>
    change((now) => {
      now.delete('from');
      now.delete('to');
      if (next) {
        now.set('from', String(next.fromRpm));
        now.set('to', String(next.toRpm));
      }
    });
  return [window, set];
}

/** What the gain is on the average of a stretch; chosen after the result was seen, it cannot be claimed. */
export function WindowAverages({
  testId,
  arm,
  window,
  onDrop,
}: {
  testId: string;
  arm: string;
  window: DrawnWindow;
  onDrop: () => void;
}) {
  const isLong = window.toRpm - window.fromRpm >= LEAST_RPM;
  const { currentData, error, refetch } = useInWindowQuery({ testId, ...window }, { skip: !isLong });
  return (
    <section
      aria-label="Average over a stretch"
      className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-l-4 border-ask bg-sheet px-4 py-2"
    >
      <b>
        {number(window.fromRpm, 0)} to {rpm(window.toRpm)}
      </b>
      {!isLong ? (
        <span className="text-soft">Draw at least {number(LEAST_RPM, 0)} rpm: less tells too little.</span>
      ) : error ? (
        <ProblemNote error={error} again={() => void refetch()} />
      ) : currentData ? (
        <Averages shown={currentData} arm={arm} />
      ) : (
        <Computing
          what="the average"
          path={`/tests/${testId}/window`}
          running={testsApi.util.getRunningQueryThunk('inWindow', { testId, ...window })}
        />
      )}
      <span className="text-ask">Chosen after the result was seen: it cannot be claimed.</span>
      <Button small onClick={onDrop}>
        Drop it
      </Button>
    </section>
  );
}

function Averages({ shown, arm }: { shown: InWindowShown; arm: string }) {
  const { power, torque } = useUnits();
  const own = shown.averages.find((a) => a.arm === arm);
  if (!own) return <span className="text-soft">This arm cannot be compared in it.</span>;
  const text = ({ gain, lower, upper }: typeof own.pct, unit: string, of = (v: number): number => v) =>
    `${signedGain(of(gain))} ${unit} (${signedGain(of(lower))} to ${signedUpper(of(upper))})`;
  return (
    <span>
      on average <b>{text(own.pct, '%')}</b>, {text(own.kw, power.unit, power.of)},{' '}
      {text(own.nm, torque.unit, torque.of)}
    </span>
  );
}
