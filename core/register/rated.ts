/** Whether a rated power and a rated torque can belong to one engine. */

/**
 * Engine speeds at which an engine makes its largest power, rpm: lowest and highest that are believed (common
 * practice; racing engines with spark ignition turn higher than any that is sold on a road car).
 */
const SPEEDS = { spark: [1800, 16_000], compression: [900, 6500] } as const;

/**
 * The least speed, rpm, at which the rated power can be made: P = T·2π·n/60, and torque is nowhere larger than rated.
 */
export const leastSpeed = (powerKw: number, torqueNm: number): number =>
  ((1000 * powerKw) / torqueNm) * (60 / (2 * Math.PI));

/** The speed that the two would take, where no engine of the kind makes its largest power there; else null. */
export function ratedDoubt(
  powerKw: number,
  torqueNm: number,
  ignition: keyof typeof SPEEDS,
): { readonly rpm: number; readonly side: 'high' | 'low' } | null {
  const rpm = leastSpeed(powerKw, torqueNm);
  const [low, high] = SPEEDS[ignition];
  // Below the speed of the largest torque power only grows: a low one says too much torque, or too little power.
  return rpm > high ? { rpm, side: 'high' } : rpm < low / 2 ? { rpm, side: 'low' } : null;
}
