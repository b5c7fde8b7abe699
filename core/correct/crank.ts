/**
 * What the engine may give at the crank, estimated from wheel figures. Nothing of it is measured but a coast-down, so
 * every figure goes with the assumption it rests on, and none is ever claimed.
 */
import { grouped } from '../base/grouped.ts';

export type CrankModel =
  | { readonly kind: 'share'; readonly sharePct: number }
  | { readonly kind: 'fixed plus share'; readonly fixedKw: number; readonly sharePct: number }
  | {
      readonly kind: 'coast-down';
      /** Power the driveline and rollers took while coasting, kW, by rpm ascending. */
      readonly losses: readonly { readonly rpm: number; readonly kw: number }[];
    };

/** Largest share anybody could mean; a loss above it is a typing error. */
const MOST_SHARE_PCT = 40;
export const MOST_LOSSES = 20;

/** Why a model cannot be used, for whoever typed it; undefined where it can. */
export function crankProblem(model: CrankModel): string | undefined {
  if (model.kind !== 'coast-down') {
    if (!(model.sharePct >= 0 && model.sharePct <= MOST_SHARE_PCT))
      return `A loss of 0 to ${MOST_SHARE_PCT} % can be meant.`;
    if (model.kind === 'fixed plus share' && !(model.fixedKw >= 0 && model.fixedKw <= 100))
      return 'A fixed loss of 0 to 100 kW can be meant.';
    return undefined;
  }
  const { losses } = model;
  if (losses.length < 2) return 'Give the loss at two engine speeds or more.';
  if (losses.some(({ kw }) => !(kw >= 0))) return 'A loss is zero or more.';
  if (losses.some(({ rpm }, i) => i > 0 && !(rpm > losses[i - 1].rpm)))
    return 'Give every engine speed once, the lowest first.';
  return undefined;
}

/**
 * Power at the crank, kW; null where a measured coast-down does not reach: nothing is extrapolated.
 * @param wheelKw power at the wheel at that rpm, kW
 */
export function crankKw(model: CrankModel, wheelKw: number, rpm: number): number | null {
  if (model.kind === 'share') return wheelKw / (1 - model.sharePct / 100);
  if (model.kind === 'fixed plus share') return (wheelKw + model.fixedKw) / (1 - model.sharePct / 100);
  const { losses } = model;
  const above = losses.findIndex((loss) => loss.rpm >= rpm);
  if (above < 0 || (above === 0 && losses[0].rpm > rpm)) return null;
  const [b, a] = [losses[above], losses[Math.max(0, above - 1)]];
  const share = b.rpm === a.rpm ? 0 : (rpm - a.rpm) / (b.rpm - a.rpm);
  return wheelKw + a.kw + share * (b.kw - a.kw);
}

const inKw = (kw: number): string => `${Number(kw.toFixed(1))} kW`;
/** The assumption in words, to stand beside every figure. @param power how a power is written, kW where nobody says */
export function crankWords(model: CrankModel, power: (kw: number) => string = inKw): string {
  switch (model.kind) {
    case 'share':
      return `estimate: the driveline is assumed to take ${model.sharePct} % of the engine’s power at every speed and load`;
    case 'fixed plus share':
      return `estimate: the driveline is assumed to take ${power(model.fixedKw)} and ${model.sharePct} % of the engine’s power`;
    case 'coast-down':
      return (
        `estimate: losses measured while coasting (${model.losses.map((l) => `${power(l.kw)} at ${grouped(l.rpm)} rpm`).join(', ')}); ` +
        'under load a driveline takes more'
      );
  }
}
