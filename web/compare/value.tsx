import type { TestDetail } from '../../contract/overview.ts';
import type { Contrast, Interval } from '../../core/compare/result.ts';
import { valueOf } from '../../core/compare/value.ts';
import { number, signed, useUnits } from '../base/format.ts';

/** What the average gain costs in money and in hours of work. */
export function Value({ detail, contrast }: { detail: TestDetail; contrast: Contrast }) {
  const { power } = useUnits();
  const cost = detail.arms.find((a) => a.key === contrast.arm)?.cost;
  if (!cost) return null;
  const { gain, lower, upper } = contrast.power.bandAverage;
  const { perHundred, perHour } = valueOf(
    { gain: power.of(gain), lower: power.of(lower), upper: power.of(upper) },
    cost,
  );
  const price = cost.priceCents === null ? null : `${number(cost.priceCents / 100, 2)} ${cost.currency}`;
  return (
    <section aria-label="Value" className="mt-3 text-[12.5px]">
      <h3>Value of the average gain</h3>
      <ul className="mt-1">
        <Line
          what={`for 100 ${cost.currency ?? 'of money'}`}
          of={perHundred}
          unit={power.unit}
          none="no price entered"
        />
        <Line what="for an hour of fitting" of={perHour} unit={power.unit} none="no time entered" />
      </ul>
      <p className="mt-1 text-soft">
        {price ?? 'Price not known'}, {number(cost.installHours)} h to fit, as the register has it today
        {cost.calibration && '; the calibration has no price there and is not in it'}.
      </p>
    </section>
  );
}

function Line({ what, of, unit, none }: { what: string; of: Interval | null; unit: string; none: string }) {
  return (
    <li className="flex justify-between gap-3 border-b border-rule py-0.5">
      <span className="text-soft">{what}</span>
      {of ? (
        <span className="whitespace-nowrap text-right">
          <b className="block">
            {signed(of.gain, 2)} {unit}
          </b>
          <span className="text-soft">
            {signed(of.lower, 2)} to {signed(of.upper, 2)}
          </span>
        </span>
      ) : (
        <span className="text-soft">{none}</span>
      )}
    </li>
  );
}
