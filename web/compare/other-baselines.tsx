import { Link } from 'react-router';
import type { OtherBaselines as Baselines } from '../../contract/compare/baselines.ts';
import { useOtherBaselinesQuery } from '../base/endpoints.ts';
import { day, number, signed } from '../base/format.ts';
import { ProblemNote } from '../base/ui.tsx';

/**
 * The baseline of this test against those of other days and cars: where they differ by more than the gain, only pulls
 * of one session can tell the gain.
 */
export function OtherBaselines({ testId, gain }: { testId: string; gain: number }) {
  const { data, error, refetch } = useOtherBaselinesQuery(testId);
  if (error) return <ProblemNote error={error} again={() => void refetch()} />;
  if (!data || data.baselines.length === 0) return null;
  const most = Math.max(Math.abs(gain), ...data.baselines.map((b) => Math.abs(b.pct)), 1);
  const own = data.baselines.filter((b) => b.sameVehicle);
  const beyond = own.filter((b) => Math.abs(b.pct) > Math.abs(gain)).length;
  return (
    <section aria-labelledby="baselines" className="mb-6">
      <h2 id="baselines" className="mb-1">
        This baseline on other days
      </h2>
      <p className="mb-2 max-w-prose text-[12.5px] text-soft">
        Baselines of other tests of this fitment under the same standard, over the rpm both have. The average
        gain here is {signed(gain)} %.{' '}
        {beyond > 0 && (
          <b className="text-ask">
            In {beyond} of {own.length} {own.length === 1 ? 'test' : 'tests'} of this car the baseline lies
            further away than that: compared over days, the part could not be told from the day.
          </b>
        )}
      </p>
      <div
        className="overflow-x-auto"
        tabIndex={0}
        role="region"
        aria-label="This baseline on other days, table"
      >
        <table className="ledger">
          <thead>
            <tr>
              <th className="num">Test</th>
              <th>Day</th>
              <th>Vehicle</th>
              <th>Dyno</th>
              <th className="num">This baseline over that one</th>
              <th aria-hidden />
            </tr>
          </thead>
          <tbody>
            {data.baselines.map((b) => (
              <BaselineRow key={b.testId} baseline={b} gain={gain} most={most} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function BaselineRow({
  baseline: b,
  gain,
  most,
}: {
  baseline: Baselines['baselines'][number];
  gain: number;
  most: number;
}) {
  return (
    <tr>
      <td className="num">
        <Link to={`/tests/${b.testId}/compare`}>{b.number}</Link>
      </td>
      <td>{b.at ? day(b.at) : 'not known'}</td>
      <td>{b.sameVehicle ? <b>{b.vehicle}</b> : b.vehicle}</td>
      <td>{b.sameDyno ? b.dyno : <i>{b.dyno}</i>}</td>
      <td className="num">
        <b>{signed(b.pct)} %</b>{' '}
        <span className="text-soft">
          {number(b.fromRpm, 0)} to {number(b.toRpm, 0)}
        </span>
      </td>
      <td className="w-40">
        <Strip pct={b.pct} gain={gain} most={most} />
      </td>
    </tr>
  );
}

const WIDTH = 150;
/** The difference as a mark on a line, between the bars that the gain reaches to either side. */
function Strip({ pct, gain, most }: { pct: number; gain: number; most: number }) {
  const x = (v: number): number => WIDTH / 2 + (v / most) * (WIDTH / 2 - 6);
  const [from, to] = [x(-Math.abs(gain)), x(Math.abs(gain))];
  const isBeyond = Math.abs(pct) > Math.abs(gain);
  return (
    <svg width={WIDTH} height="16" aria-hidden className="block">
      <rect x={from} y="5" width={to - from} height="6" fill="var(--faint)" />
      <line x1={WIDTH / 2} x2={WIDTH / 2} y1="1" y2="15" stroke="var(--line)" />
      <circle cx={x(pct)} cy="8" r="4.5" fill={isBeyond ? 'var(--ask)' : 'var(--ink)'} />
    </svg>
  );
}
