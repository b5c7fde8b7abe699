/** What counts as alike, and as safe, of an engine at full load: for the watch at the bench and for the gates. */
import type { Engine } from '../base/standards.ts';

/** Largest differences between arms (method, gate “engine state”): λ, ° of ignition, ° of knock retard, share of pressure. */
export const ALIKE = { lambda: 0.02, ignition: 1, knock: 1, boost: 0.03 };

/** Leanest full-load mixture on petrol, λ, and retard that says knock, ° (common practice). */
const SAFE_LAMBDA = { boosted: 0.85, natural: 0.92 };
export const KNOCK_DEG = 2;
export const safeLambda = ({ aspiration }: Engine): number =>
  aspiration === 'natural' ? SAFE_LAMBDA.natural : SAFE_LAMBDA.boosted;
