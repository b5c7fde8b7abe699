import type { TestDetail } from '../../contract/overview.ts';
import type { Contrast } from '../../core/compare/result.ts';
import { number, signed } from '../base/format.ts';
import { SENSOR_NAMES } from '../register/slope-words.ts';

/** How the arms' start temperatures entered, and what the result is without. */
export function StartTemperature({ detail, contrast }: { detail: TestDetail; contrast: Contrast }) {
  const heat = contrast.startTemperature;
  const { startSensor, startSlope } = detail.plan;
  if (!heat || !startSensor) return null;
  const { apartK, slope, own, unadjusted } = heat;
  return (
    <section aria-label="Start temperature" className="mt-3 text-[12.5px]">
      <h3>Start temperature</h3>
      <p className="mt-1 text-soft">
        By the {SENSOR_NAMES[startSensor]} this arm started {number(Math.abs(apartK), 1)} K{' '}
        {apartK < 0 ? 'colder' : 'warmer'}.{' '}
        {slope === 0
          ? 'No slope was registered when the plan was locked: nothing is adjusted, and the band carries what the difference may do.'
          : `Adjusted by ${number(slope, 2)} %/K, from ${startSlope?.tests.length ?? 0} tests of ${startSlope?.subject ?? 'this dyno'}.`}
      </p>
      {slope !== 0 && (
        <p className="mt-1 text-soft">
          Without it the average would be {signed(unadjusted.gain, 1)} % ({number(unadjusted.lower, 1)} to{' '}
          {number(unadjusted.upper, 1)}).
        </p>
      )}
      {own?.disagrees && (
        <p className="mt-1 text-ask">
          This session’s own slope is {number(own.slope, 2)} %/K: the smaller of both results is what may be
          claimed.
        </p>
      )}
    </section>
  );
}
