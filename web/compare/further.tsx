import type { ReactNode } from 'react';
import type { TestDetail } from '../../contract/overview.ts';
import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import type { Contrast, Dip, FurtherMetrics, Interval, Reached } from '../../core/compare/result.ts';
import { number, rpm, signed, useUnits } from '../base/format.ts';
import { Told } from '../base/told.tsx';

/** What the curves and logs show beside the metrics that may be claimed. */
export function Further({ detail, contrast }: { detail: TestDetail; contrast: Contrast }) {
  if (!contrast.further) return null;
  const label = (key: string) => detail.arms.find((a) => a.key === key)?.label ?? key;
  return (
    <section aria-labelledby="further" className="mb-6">
      <h2 id="further" className="mb-1">
        What else the curves show
      </h2>
      <p className="mb-2 max-w-prose text-[12.5px] text-soft">
        Told beside the gain, and never claimed by itself. Differences with the limits that hold in{' '}
        {Math.round(100 * detail.plan.confidence)} of 100 tests
        {detail.arms.length > 2 ? ', for all parts together' : ''}, each line for itself.
      </p>
      <div
        className="overflow-x-auto"
        tabIndex={0}
        role="region"
        aria-label="What else the curves show, table"
      >
        <table className="ledger">
          <thead>
            <tr>
              <th>What</th>
              <th className="num">
                <Told>{label(contrast.against)}</Told>
              </th>
              <th className="num">
                <Told>{label(contrast.arm)}</Told>
              </th>
              <th className="num">Difference</th>
            </tr>
          </thead>
          <tbody>
            <Rows further={contrast.further} />
          </tbody>
        </table>
      </div>
    </section>
  );
}

// eslint-disable-next-line max-lines-per-function -- the rows of one table, in the order they are read
function Rows({ further }: { further: FurtherMetrics }) {
  const { torque, pressure } = useUnits();
  const { reaching, boost, sweepTime, spread, dips, fuelPerWork } = further;
  const span = `${number(sweepTime.fromRpm, 0)} to ${rpm(sweepTime.toRpm)}`;
  const { logged } = sweepTime;
  return (
    <>
      {reaching.map((r) => (
        <ReachedRow key={r.share} at={r}>
          {number(torque.of(r.level), 0)} {torque.unit} first reached, {number(100 * r.share, 0)} % of the
          baseline’s most
        </ReachedRow>
      ))}
      {reaching.length === 0 && (
        <Row what="Where a torque is reached">
          <td colSpan={3} className="text-soft">
            not told: the curves begin above it, or are flat there
          </td>
        </Row>
      )}
      {boost && (
        <ReachedRow at={boost}>
          {number(pressure.of(boost.level / 100), pressure.digits)} {pressure.unit} of boost first reached,{' '}
          {number(100 * boost.share, 0)} % of the baseline’s most
        </ReachedRow>
      )}
      <Row what={`Time of the sweep, ${span}, by the curves`} note="at one inertia">
        <td className="num text-soft">–</td>
        <td className="num text-soft">–</td>
        <Difference of={sweepTime.byCurves} unit="%" />
      </Row>
      {logged && (
        <Row
          what={`The same by the clock`}
          note="where a brake holds the rate, the clock says nothing of the part"
        >
          <td className="num">{number(logged.against, 2)} s</td>
          <td className="num">{number(logged.arm, 2)} s</td>
          <Difference of={logged.change} unit="%" />
        </Row>
      )}
      <Row what="How even the gain is over the range" note="scatter of the mean gain over rpm, its ends">
        <td className="num" colSpan={2}>
          {signed(spread.least.gain)} % at {rpm(spread.least.rpm)}, {signed(spread.most.gain)} % at{' '}
          {rpm(spread.most.rpm)}
        </td>
        <td className="num">
          ± <b>{number(spread.sd)} %</b>
        </td>
      </Row>
      <Row what="Torque dips" note="deeper than the noise of the pulls">
        <td className="num">{dipsOf(dips.against)}</td>
        <td className="num">{dipsOf(dips.arm)}</td>
        <td />
      </Row>
      {fuelPerWork && (
        <Row what="Fuel per work at the wheel" note="as observed, by the logged flow">
          <td className="num">{number(fuelPerWork.against, 3)} L/kWh</td>
          <td className="num">{number(fuelPerWork.arm, 3)} L/kWh</td>
          <Difference of={fuelPerWork.change} unit="%" />
        </Row>
      )}
    </>
  );
}

function Row({ what, note, children }: { what: ReactNode; note?: string; children: ReactNode }) {
  return (
    <tr>
      <td>
        {what}
        {note && <span className="block text-[12px] text-soft">{note}</span>}
      </td>
      {children}
    </tr>
  );
}
function ReachedRow({ at, children }: { at: Reached; children: ReactNode }) {
  return (
    <Row what={children}>
      <td className="num">{rpm(at.againstRpm)}</td>
      <td className="num">{rpm(at.armRpm)}</td>
      <Difference of={at.shift} unit="rpm" digits={0} />
    </Row>
  );
}

/** Limits are rounded outwards, so that none says more than was found. */
function Difference({ of, unit, digits = 1 }: { of: Interval; unit: string; digits?: 0 | 1 }) {
  const shown =
    digits === 1
      ? { gain: signed(of.gain), lower: signedGain(of.lower), upper: signedUpper(of.upper) }
      : {
          gain: signed(of.gain, 0),
          lower: signed(Math.floor(of.lower), 0),
          upper: signed(Math.ceil(of.upper), 0),
        };
  return (
    <td className="num whitespace-nowrap">
      <b>
        {shown.gain} {unit}
      </b>{' '}
      <span className="text-soft">
        ({shown.lower} to {shown.upper})
      </span>
    </td>
  );
}

const dipsOf = (dips: readonly Dip[]): string =>
  dips.length === 0 ? 'none' : dips.map((d) => `${number(d.depth)} % at ${rpm(d.rpm)}`).join(', ');
