import { pctFromLp } from '../../core/base/units.ts';
import type { Contrast } from '../../core/compare/result.ts';
import { number, signed, useUnits } from '../base/format.ts';
import { Term } from '../base/term.tsx';

/** The three intervals of a single number, as people read them. */
const INTERVALS = {
  pooled: 'the arms’ scatter taken together',
  ratio: 'the arms’ scatter by its ratio',
  apart: 'each arm’s scatter by itself',
} as const;

/** Where the uncertainty of the average comes from, relative and absolute; and what no interval holds. */
export function UncertaintyBudget({ contrast }: { contrast: Contrast }) {
  const { budget, relative, power } = contrast;
  const inPower = useAbsolute(power);
  return (
    <section className="mt-6" aria-label="Uncertainty budget">
      <h2>Uncertainty budget</h2>
      <p className="mb-2 text-[12.5px] text-soft">
        Of the average over the rpm range: standard uncertainties, and shares of the variance.{' '}
        {relative.bandAverage.interval &&
          `Of three intervals the widest: ${INTERVALS[relative.bandAverage.interval]}.`}
      </p>
      {budget.map(({ source, variance, share }) => (
        <div key={source} className="mb-2">
          <div className="flex justify-between gap-2">
            <SourceName source={source} />
            <span className="whitespace-nowrap text-soft">{number(100 * share, 0)} %</span>
          </div>
          <div className="h-1.5 bg-faint">
            <div className="h-full bg-stands" style={{ width: `${100 * share}%` }} />
          </div>
          <div className="text-[12.5px] text-soft">{inPower(pctFromLp(Math.sqrt(variance)))}</div>
        </div>
      ))}
      <CorrectionLeft correction={contrast.correction} inPower={inPower} />
      <p className="mt-3 text-[12.5px] text-soft">
        Outside every interval here: what is common to both arms, such as a sensor that reads high throughout,
        the operator and the gear.
      </p>
    </section>
  );
}

function SourceName({ source }: { source: string }) {
  if (source === 'drift') return <Term name="drift bound" />;
  return source === 'mount' ? <Term name="mounting" /> : <span>{source}</span>;
}

/** A standard uncertainty in per cent, and as power of the baseline's average. */
function useAbsolute(measured: Contrast['power']): (pct: number) => string {
  const units = useUnits();
  const against = measured.curve.reduce((sum, p) => sum + p.against, 0) / measured.curve.length;
  return (pct) => {
    if (pct < 0.005) return 'less than ±0.01 %';
    const power = units.power.of((against * pct) / 100);
    const shown = power < 0.005 ? `less than ±${number(0.01, 2)}` : `±${number(power, 2)}`;
    return `±${number(pct, 2)} %, ${shown} ${units.power.unit}`;
  };
}

/** What the air leaves open beside the interval: the rule by which it was corrected, and the sensors. */
function CorrectionLeft({
  correction,
  inPower,
}: {
  correction: Contrast['correction'];
  inPower: (pct: number) => string;
}) {
  if (!correction) return null;
  const { difference, least, most, rule, sensors } = correction;
  return (
    <div className="mt-3 border-t border-rule pt-2 text-[12.5px]">
      <h3>Beside the interval</h3>
      <dl className="mt-1">
        <dt>
          <Term name="factor difference" />
        </dt>
        <dd className="mb-1.5 text-soft">
          {signed(difference, 2)} % between the arms; by other standards {signed(least, 2)} to{' '}
          {signed(most, 2)} %. As an uncertainty of the rule {inPower(rule)}.
        </dd>
        <dt>air sensors</dt>
        <dd className="text-soft">
          {sensors === null
            ? 'None registered for this dyno, so nothing can be said.'
            : `${inPower(sensors)}: an offset of a sensor is in both arms, and all but this cancels.`}
        </dd>
      </dl>
    </div>
  );
}
