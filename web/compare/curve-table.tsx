import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import type { Contrast } from '../../core/compare/result.ts';
import { number, useUnits } from '../base/format.ts';

/** The curve as numbers, every 250 rpm: for those who would rather read than look. */
export function CurveTable({ contrast }: { contrast: Contrast }) {
  const units = useUnits();
  const rows = contrast.relative.curve
    .map((p, j) => ({ p, power: contrast.power.curve[j], torque: contrast.torque.curve[j] }))
    .filter(({ p }) => p.rpm % 250 === 0);
  return (
    <div className="mb-4 max-h-72 overflow-auto border-y border-rule">
      <table className="ledger">
        <thead>
          <tr>
            <th className="num">rpm</th>
            <th className="num">Gain, %</th>
            <th className="num">Band, %</th>
            <th className="num">Stock, {units.power.unit}</th>
            <th className="num">Part, {units.power.unit}</th>
            <th className="num">Gain, {units.power.unit}</th>
            <th className="num">Stock, {units.torque.unit}</th>
            <th className="num">Gain, {units.torque.unit}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ p, power, torque }) => (
            <tr key={p.rpm}>
              <td className="num">{number(p.rpm, 0)}</td>
              <td className="num">{signedGain(p.gain)}</td>
              <td className="num">
                {signedGain(p.lower)} to {signedUpper(p.upper)}
              </td>
              <td className="num">{number(units.power.of(power.against))}</td>
              <td className="num">{number(units.power.of(power.arm))}</td>
              <td className="num">{signedGain(units.power.of(power.gain))}</td>
              <td className="num">{number(units.torque.of(torque.against))}</td>
              <td className="num">{signedGain(units.torque.of(torque.gain))}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
