import { powerW } from '../base/units.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import { corroboration, type EvidencePull } from '../compare/corroboration.ts';
import type { AnalysedContrast } from '../compare/contrast-analysis.ts';
import { meanOf } from '../compare/means.ts';
import type { Corroboration } from '../compare/result.ts';
import { fuelPower } from '../correct/fuel-power.ts';
import type { PreparedTest } from '../correct/prepare-test.ts';
import { signalRoughness } from '../correct/signal-roughness.ts';

/** The gain of an arm held against the logs of its pulls; nothing where one of them has no log. */
export function logEvidence(
  test: TestDefinition,
  prepared: PreparedTest,
  { pulls, common, ofLog, result }: AnalysedContrast,
): Corroboration | null {
  const range = { from: common.from, to: common.from + common.rpm.length };
  const own = pulls.map(({ id }) => evidenceOf(id, prepared, range));
  if (own.some((pull) => pull === null)) return null;
  const told = corroboration({
    pulls: own as EvidencePull[],
    range,
    categories: test.arms.find((arm) => arm.id === result.arm)?.parts ?? [],
    scalar: ofLog,
  });
  const fuel = told && fuelPowers(test, prepared, { pulls, result }, range);
  return told && { ...told, ...(fuel ? { fuelPower: fuel } : {}) };
}

interface Range {
  readonly from: number;
  readonly to: number;
}

function evidenceOf(
  id: string,
  { logs, corrected, files, grid }: PreparedTest,
  { from, to }: Range,
): EvidencePull | null {
  const [log, curve, file] = [logs.get(id), corrected.get(id), files.get(id)];
  if (!log || !curve || !file) return null;
  const powers = grid
    .slice(from, to)
    .map((rpm, k) => 100 * Math.log(powerW(curve.torqueNm[from + k] / curve.factor.factor, rpm)))
    .filter(Number.isFinite);
  const { massAirFlow } = file.channels;
  return {
    curves: log.curves,
    power: meanOf(powers),
    airRoughness: massAirFlow && signalRoughness(massAirFlow, curve.sweep.indices),
  };
}

/** Mean crank power over the range that the fuel of each arm could make, kW. */
function fuelPowers(
  test: TestDefinition,
  { logs, engine }: PreparedTest,
  { pulls, result }: Pick<AnalysedContrast, 'pulls' | 'result'>,
  { from, to }: Range,
): Corroboration['fuelPower'] {
  const of = (arm: string) => {
    const flows = pulls
      .filter((pull) => pull.arm === arm)
      .flatMap(({ id }) => logs.get(id)?.curves.fuelFlow?.slice(from, to) ?? []);
    const known = flows.filter((v) => v !== null);
    if (known.length === 0) return undefined;
    const power = fuelPower(meanOf(known), engine, test.reading?.fuel);
    return power && { low: power.low / 1000, high: power.high / 1000 };
  };
  const [arm, against] = [of(result.arm), of(result.against)];
  return arm && against && { arm, against };
}
