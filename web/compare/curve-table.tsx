import { signedGain, signedUpper } from '../../core/base/rounding.ts';
import type { Contrast } from '../../core/compare/result.ts';
import type { ComponentProps } from 'react';
import { toast } from 'sonner';
import { number, useUnits } from '../base/format.ts';
import { saveFile } from '../base/save-file.ts';
import { Button } from '../base/ui.tsx';
import { curveFile, curveText } from './comparison-file.ts';

/** The curve as numbers, every 250 rpm: for those who would rather read than look. */
export function CurveTable({
  contrast,
  conditions,
  name,
}: {
  contrast: Contrast;
  conditions: readonly string[];
  /** Of the file, without its ending. */
  name: string;
}) {
  const units = useUnits();
  const rows = contrast.relative.curve
    .map((p, j) => ({ p, power: contrast.power.curve[j], torque: contrast.torque.curve[j] }))
    .filter(({ p }) => p.rpm % 250 === 0);
  return (
    <div className="mb-4">
      <TakeAway contrast={contrast} conditions={conditions} name={name} />
      <div
        className="max-h-72 overflow-auto border-y border-rule"
        tabIndex={0}
        role="region"
        aria-label="Gain curve, table"
      >
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
    </div>
  );
}

function TakeAway({ contrast, conditions, name }: ComponentProps<typeof CurveTable>) {
  const copy = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(curveText(contrast));
      toast.success('Copied, every point of the curve, for a spreadsheet.');
    } catch {
      toast.error('The browser does not let the page copy. Take the CSV file instead.');
    }
  };
  return (
    <p className="mb-1 flex flex-wrap items-center gap-2 text-[12.5px] text-soft">
      Every 250 rpm here; the file has every point.
      <Button small onClick={() => saveFile(`${name}.csv`, curveFile(contrast, conditions))}>
        CSV file
      </Button>
      <Button small onClick={() => void copy()}>
        Copy
      </Button>
    </p>
  );
}
