import clsx from 'clsx';
import { Link } from 'react-router';
import type { PullCurve, PullResult } from '../../core/compare/pull-results.ts';
import { pctFromLp } from '../../core/base/units.ts';
import { number, rpm as rpmText, signed, useUnits } from '../base/format.ts';
import { useCursor } from './shared-cursor.ts';

interface Arm {
  readonly key: string;
  readonly label: string;
}
interface Shown {
  readonly testId: string;
  readonly arms: readonly Arm[];
  readonly curves: readonly PullCurve[];
  readonly pulls: readonly PullResult[];
}

/** Single pulls of the arms compared: one that is picked out is drawn heavy everywhere, with its own numbers. */
export function PullPicks({ testId, arms, curves, pulls }: Shown) {
  const cursor = useCursor();
  if (!cursor) return null;
  const analysed = curves.filter((p) => p.counted && !p.excluded);
  const picked = pulls.find((p) => p.id === cursor.picked);
  return (
    <div className="mt-1 text-[12.5px]">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1" role="group" aria-label="Single pulls">
        {arms.map((arm) => (
          <span key={arm.key} className="flex flex-wrap items-center gap-1">
            <span className="text-soft">{arm.label}</span>
            {analysed
              .filter((pull) => pull.arm === arm.key)
              .map(({ id }) => (
                <button
                  key={id}
                  type="button"
                  aria-pressed={id === cursor.picked}
                  onClick={() => cursor.onPick(id === cursor.picked ? null : id)}
                  className={clsx(
                    'min-h-6 rounded border px-1.5 tabular-nums',
                    id === cursor.picked
                      ? 'border-ink bg-ink text-on-ink'
                      : 'border-rule text-soft hover:text-ink',
                  )}
                >
                  {id}
                </button>
              ))}
          </span>
        ))}
      </div>
      <p aria-live="polite" className="mt-1 min-h-5 text-soft">
        {picked ? (
          <Picked testId={testId} pull={picked} others={othersOf(picked, analysed, pulls)} />
        ) : (
          'Pick a pull to see it among the others.'
        )}
      </p>
    </div>
  );
}

/** The pulls of its arm, without itself. */
function othersOf(
  pull: PullResult,
  analysed: readonly PullCurve[],
  pulls: readonly PullResult[],
): PullResult[] {
  const arm = analysed.find((p) => p.id === pull.id)?.arm;
  const same = new Set(analysed.filter((p) => p.arm === arm && p.id !== pull.id).map((p) => p.id));
  return pulls.filter((p) => same.has(p.id) && p.averageLp !== undefined);
}

function Picked({
  testId,
  pull,
  others,
}: {
  testId: string;
  pull: PullResult;
  others: readonly PullResult[];
}) {
  const { power, torque } = useUnits();
  const mean = others.reduce((sum, p) => sum + p.averageLp!, 0) / others.length;
  return (
    <>
      <b className="text-ink">{pull.id}</b>
      {pull.averageLp !== undefined && others.length > 0 && (
        <>
          {' '}
          on average <b className="text-ink">{signed(pctFromLp(pull.averageLp - mean), 2)} %</b> from the mean
          of its arm’s {others.length} other {others.length === 1 ? 'pull' : 'pulls'}
        </>
      )}
      {pull.peakPower &&
        ` · peak ${number(power.of(pull.peakPower.kw))} ${power.unit} at ${rpmText(pull.peakPower.rpm)}`}
      {pull.peakTorque &&
        ` · ${number(torque.of(pull.peakTorque.nm))} ${torque.unit} at ${rpmText(pull.peakTorque.rpm)}`}
      {` · factor ${number(pull.factor, 4)} · `}
      <Link to={`/tests/${testId}/pulls`}>the pulls</Link>
    </>
  );
}
