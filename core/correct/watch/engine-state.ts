/** Checks of the engine: its temperatures before the pull, mixture, knock, ignition and boost in it. */
import { QUANTITY_NAMES, type Quantity } from '../../base/quantities.ts';
import { ALIKE, KNOCK_DEG, safeLambda } from '../engine-limits.ts';
import { signed } from '../../base/signed.ts';
import { rpm, usual, type Check } from './among.ts';

const CONTROLLED: readonly [RegExp, Quantity][] = [
  [/intake/i, 'intakeAirTemperature'],
  [/coolant/i, 'coolantTemperature'],
  [/oil/i, 'oilTemperature'],
];
export const starts: Check = ({ recording, about, others, plan }) =>
  plan.controls.map(({ quantity, target, tolerance, unit }) => {
    const of = CONTROLLED.find(([name]) => name.test(quantity))?.[1];
    const value = of && recording.summary.starts[of];
    if (!of || value === undefined || unit !== '°C') return null;
    const counted = others.filter((o) => o.counted && o.order < recording.order);
    const wanted = target ?? usual(counted, (o) => o.starts[of] ?? null);
    return (
      recording.counted &&
      wanted !== null &&
      Math.abs(value - wanted) > tolerance &&
      about(
        'START_TEMPERATURE',
        'ask',
        `${recording.label} started with ${QUANTITY_NAMES[of]} at ${value.toFixed(1)} °C, ` +
          `${signed(value - wanted, 1)} K from ${target === null ? 'the others' : 'the plan'}.`,
        'Wait longer before the next pull; repeat this one where the arms would differ.',
      )
    );
  });

export const mixture: Check = ({ recording: { label, summary: s, arm }, about, alike, plan }) => {
  const { lambda, knockRetard, ignitionAdvance, manifoldPressure } = s.channels;
  const boosted = plan.engine.aspiration !== 'natural';
  const limit = safeLambda(plan.engine);
  const meanOf = (q: Quantity) => usual(alike, (o) => o.channels[q]?.mean ?? null);
  const [l, i, m] = [meanOf('lambda'), meanOf('ignitionAdvance'), meanOf('manifoldPressure')];
  const spark = plan.engine.ignition === 'spark';
  return [
    spark &&
      lambda &&
      !lambda.stuck &&
      lambda.most > limit &&
      about(
        'LEAN',
        'stop',
        `${label}: the mixture reaches λ ${lambda.most.toFixed(2)} at ${rpm(lambda.mostRpm)}; λ ${limit} is as lean ` +
          `as a ${boosted ? 'boosted' : 'naturally aspirated'} petrol engine should run at full load.`,
        'Do not go on: find out why before the engine is harmed.',
      ),
    spark &&
      knockRetard &&
      knockRetard.most > KNOCK_DEG &&
      about(
        'KNOCK',
        'stop',
        `${label}: ignition was taken back for knock by up to ${knockRetard.most.toFixed(1)}°, most at ${rpm(knockRetard.mostRpm)}.`,
        'Do not go on: check fuel, temperatures and calibration first.',
      ),
    lambda &&
      l !== null &&
      Math.abs(lambda.mean - l) > ALIKE.lambda &&
      about(
        'MIXTURE_UNLIKE',
        'ask',
        `${label}: λ ${lambda.mean.toFixed(3)}, the other pulls of arm ${arm} ${l.toFixed(3)}.`,
        'Check for a leak and that the engine was warm.',
      ),
    ignitionAdvance &&
      i !== null &&
      Math.abs(ignitionAdvance.mean - i) > ALIKE.ignition &&
      about(
        'IGNITION_UNLIKE',
        'ask',
        `${label}: ignition ${signed(ignitionAdvance.mean - i, 1)}° from the other pulls of its arm.`,
        'Check temperatures and fuel; an engine that pulls timing is not comparable.',
      ),
    manifoldPressure &&
      m !== null &&
      Math.abs(manifoldPressure.mean / m - 1) > ALIKE.boost &&
      about(
        'BOOST_UNLIKE',
        'ask',
        `${label}: manifold pressure ${(manifoldPressure.mean / 1000).toFixed(1)} kPa, ` +
          `the other pulls of its arm ${(m / 1000).toFixed(1)}.`,
        'Look for a leak or a valve that hangs.',
      ),
  ];
};
