/**
 * Whether the engine ran alike in both arms, by its own log (limits: the method's gate “engine state”). A difference of
 * mixture, ignition or boost may be the part's nature, and is told; torque taken back, knock in one arm or part
 * throttle are nothing a part does.
 */
import type { Engine } from '../../base/standards.ts';
import { median } from '../../base/robust.ts';
import type { EngineChannel } from '../../base/quantities.ts';
import { armLog, logContrast, type LogContrast, type LoggedPull } from '../../compare/arm-logs.ts';
import { ALIKE } from '../../correct/engine-limits.ts';
import { ignitionTakenBack, isDeep, type Hollow } from '../../correct/hollow.ts';
import { found, type Found } from '../finding.ts';

const gate = 'engine state' as const;
/** A pull this far below the others was not driven at full throttle, percentage points. */
const PART_PCT = 5;
/** A throttle that never reads more was not opened; many read less than 100 when they are (common practice). */
const OPEN_PCT = 70;
/** A hollow without a log is none if the arm's other pulls have it: so much deeper than theirs. */
const DEEPER = 0.04;
/** So many standard errors: less is scatter of the pulls. */
const BEYOND = 2;

export interface LoggedPair {
  readonly arm: string;
  readonly against: string;
  readonly pulls: readonly (LoggedPull & { readonly hollow: Hollow | null })[];
  readonly grid: readonly number[];
  readonly stepRpm: number;
  readonly aspiration: Engine['aspiration'];
}

export function engineStateGate(pair: LoggedPair): Found[] {
  const grave = [...torqueTakenBack(pair), ...partThrottle(pair), ...unequalKnock(pair)];
  const apart = unlike(pair);
  const missing = notLogged(pair);
  return [
    ...grave,
    ...apart,
    ...(missing.length > 0 ? [found(gate, 'caution', 'ENGINE_NOT_LOGGED', missing)] : []),
    ...(grave.length + apart.length + missing.length === 0 ? [found(gate, 'pass', 'ENGINE_ALIKE')] : []),
  ];
}

const contrastOf = (
  { pulls, arm, against, grid, stepRpm }: LoggedPair,
  channel: EngineChannel,
): LogContrast | undefined => {
  const [a, b] = [arm, against].map((id) => armLog(pulls, id, channel, grid));
  return a && b && logContrast(a, b, grid, stepRpm);
};
const isBeyond = ({ difference, error }: LogContrast, limit: number): boolean =>
  Math.abs(difference) > limit && Math.abs(difference) > BEYOND * (error ?? 0);

function torqueTakenBack({ pulls }: LoggedPair): Found[] {
  const taken = pulls.flatMap(({ id, arm, hollow }) => {
    if (!hollow || !isDeep(hollow)) return [];
    const others = pulls.flatMap((p) => (p.arm === arm && p.id !== id && p.hollow ? [p.hollow.share] : []));
    const isOwn = others.length > 0 && hollow.share - median(others) > DEEPER;
    return ignitionTakenBack(hollow) || isOwn ? [{ id, rpm: hollow.rpm, share: hollow.share }] : [];
  });
  return taken.length > 0 ? [found(gate, 'fail', 'TORQUE_INTERVENTION', taken)] : [];
}

function partThrottle({ pulls, grid }: LoggedPair): Found[] {
  const means = [...new Set(pulls.map((p) => p.arm))].flatMap(
    (arm) => armLog(pulls, arm, 'throttle', grid)?.pulls ?? [],
  );
  if (means.length === 0) return [];
  const most = Math.max(...means.map((p) => p.mean));
  const part = means.filter((p) => p.mean < most - PART_PCT);
  if (part.length > 0) return [found(gate, 'fail', 'PART_THROTTLE', part, most)];
  return most < OPEN_PCT ? [found(gate, 'caution', 'THROTTLE_NEVER_FULL', most)] : [];
}

function unequalKnock(pair: LoggedPair): Found[] {
  const knock = contrastOf(pair, 'knockRetard');
  return knock && isBeyond(knock, ALIKE.knock)
    ? [found(gate, 'fail', 'KNOCK_UNEQUAL', knock.difference)]
    : [];
}

/** Differences a part may make; each told with where it is largest. */
function unlike(pair: LoggedPair): Found[] {
  const [lambda, ignition, boost] = (['lambda', 'ignitionAdvance', 'manifoldPressure'] as const).map((q) =>
    contrastOf(pair, q),
  );
  const pressure = boost?.ratio == null ? 0 : boost.ratio - 1;
  return [
    ...(lambda && isBeyond(lambda, ALIKE.lambda)
      ? [found(gate, 'caution', 'MIXTURE_DIFFERS', lambda.difference, lambda.largest)]
      : []),
    ...(ignition && isBeyond(ignition, ALIKE.ignition)
      ? [found(gate, 'caution', 'IGNITION_DIFFERS', ignition.difference, ignition.largest)]
      : []),
    ...(boost && Math.abs(pressure) > ALIKE.boost && isBeyond(boost, 0)
      ? [found(gate, 'caution', 'BOOST_DIFFERS', pressure)]
      : []),
  ];
}

/** What one would have to know and the logs of one arm or both do not say. */
function notLogged({ pulls, arm, against, grid, aspiration }: LoggedPair): EngineChannel[] {
  const wanted: EngineChannel[] = ['throttle', 'lambda', 'ignitionAdvance'];
  if (aspiration !== 'natural') wanted.push('manifoldPressure');
  return wanted.filter((q) => [arm, against].some((id) => !armLog(pulls, id, q, grid)));
}
