/** Fuel per litre of displacement and cycle of a diesel, from the logged fuel flow: the engine factor rests on it. */
import { median } from '../base/robust.ts';
import type { Engine } from '../base/standards.ts';
import { FUEL_DENSITY, type Fuel } from '../base/units.ts';
import type { PullFile } from '../capture/pull-file-types.ts';

const MG_PER_KG = 1e6;
/** Seconds of a cycle of a four-stroke engine times its speed in rpm. */
const CYCLE = 120;
const STANDARD_PA = 101_325;

/**
 * The engine with the fuel rate and boost ratio of its full-load pulls over the band (medians of samples, mean of
 * pulls), where nobody stated them and the log has both flow and engine speed. ISO 1585 wants them at the declared
 * speed; the band stands for it.
 */
export function withFuelRate(
  engine: Engine,
  pulls: readonly {
    readonly file: PullFile;
    /** Pressure of the cell. */ readonly ambientPa: number | null;
  }[],
  band: { readonly fromRpm: number; readonly toRpm: number },
  fuel: Fuel | undefined,
): Engine {
  if (engine.ignition !== 'compression' || engine.fuelMgPerLitreCycle !== undefined) return engine;
  if (engine.displacementL === undefined) return engine;
  const density = FUEL_DENSITY[fuel ?? 'diesel'];
  const rates = pulls.flatMap(({ file, ambientPa }) => {
    const at = samplesIn(file, band);
    const flow = file.channels.fuelFlow;
    if (!flow || at.length === 0) return [];
    const litre = engine.displacementL!;
    const rate = at
      .map((i) => (flow[i] * density * MG_PER_KG * CYCLE) / (litre * file.rpm[i]))
      .filter((v) => v > 0);
    return rate.length > 0
      ? [{ rate: median(rate), boost: boostRatio(file, at, ambientPa ?? STANDARD_PA) }]
      : [];
  });
  if (rates.length === 0) return engine;
  const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
  const boosts = rates.flatMap((r) => (r.boost === null ? [] : [r.boost]));
  return {
    ...engine,
    fuelMgPerLitreCycle: mean(rates.map((r) => r.rate)),
    boostRatio: engine.boostRatio ?? (boosts.length > 0 ? mean(boosts) : undefined),
  };
}

/** At full load within the band. */
function samplesIn(file: PullFile, { fromRpm, toRpm }: { fromRpm: number; toRpm: number }): number[] {
  const { throttle } = file.channels;
  const most = throttle ? throttle.reduce((a, b) => (b > a ? b : a), 0) : 0;
  return [...file.rpm.keys()].filter(
    (i) => file.rpm[i] >= fromRpm && file.rpm[i] <= toRpm && (!throttle || throttle[i] >= 0.95 * most),
  );
}

/** Manifold over ambient pressure; never below 1. */
function boostRatio({ channels }: PullFile, at: readonly number[], ambientPa: number): number | null {
  const { manifoldPressure } = channels;
  if (!manifoldPressure) return null;
  const ratio = median(at.map((i) => manifoldPressure[i])) / ambientPa;
  return Number.isFinite(ratio) ? Math.max(1, ratio) : null;
}
