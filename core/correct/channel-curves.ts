/** Every channel a logger recorded, on the grid on which pulls are compared. As observed: nothing is corrected here. */
import { DIMENSION_OF, QUANTITIES, type Quantity } from '../base/quantities.ts';
import { INTERNAL_UNIT } from '../base/units.ts';

/** Channels by what they hold, in internal units, one value a sample. */
export type Channels = Readonly<Partial<Record<Quantity, Float64Array>>>;

/** The unit channels of this kind are held in: SI, rpm for rotation, °C, %, λ and ° of angle. */
export const channelUnit = (quantity: Quantity): string => INTERNAL_UNIT[DIMENSION_OF[quantity][0]];

/** Curves by quantity: one value a grid point, `null` where too few samples lie around it. */
export type ChannelCurves = Partial<Record<Quantity, (number | null)[]>>;

/**
 * Channels of one pull over engine speed, by the same local regression as the torque curve, so that a channel and the
 * gain it is held against were smoothed alike.
 *
 * @param curveOf reads a channel off at the grid (`curveReader`)
 */
export function channelCurves(
  channels: Channels,
  curveOf: (values: Float64Array) => Float64Array,
): ChannelCurves {
  const curves: ChannelCurves = {};
  for (const quantity of QUANTITIES) {
    const values = channels[quantity];
    if (!values || quantity === 'engineSpeed') continue;
    const curve = curveOf(values);
    curves[quantity] = Array.from(curve, (v) => (Number.isFinite(v) ? v : null));
  }
  return curves;
}
