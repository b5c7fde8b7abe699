/**
 * Whether the arms started equally warm: by the sensor the plan names, or where it names none by the coolant, else the
 * oil. A registered slope allows more, because what the difference does is then known.
 */
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { ComparedPull } from '../../compare/compared-pull.ts';
import { meanOf } from '../../compare/means.ts';
import type { SensorStarts } from '../../correct/starts.ts';
import { START_LIMITS, type StartSensor, type TemperatureSlope } from '../../register/temperature-slope.ts';
import { found, type Found } from '../finding.ts';

const gate = 'start temperatures' as const;
const ENGINE: readonly StartSensor[] = ['coolant', 'oil'];

export interface StartFacts {
  readonly named: StartSensor | null;
  readonly slope: TemperatureSlope | null;
  readonly startsOf: (pull: string) => SensorStarts;
}

type Compared = Pick<AnalysedContrast, 'pulls' | 'result' | 'heat'>;

export function startTemperaturesGate(contrast: Compared, facts: StartFacts): Found[] {
  const { pulls } = contrast;
  const { named, startsOf } = facts;
  const has = (sensor: StartSensor): boolean => pulls.every((p) => startsOf(p.id)[sensor] !== undefined);
  const isNamed = named !== null && has(named);
  // Air of the cell says nothing of an engine that was left to cool: what was logged of it is judged too.
  const engine = !isNamed || named === 'cell air' ? ENGINE.find(has) : undefined;
  const without = named ? pulls.filter((p) => startsOf(p.id)[named] === undefined).map((p) => p.id) : [];
  return [
    ...((named ? !isNamed : !engine)
      ? [found(gate, 'caution', 'START_TEMPERATURE_NOT_RECORDED', named, without)]
      : []),
    ...(isNamed ? [ofSensor(named, contrast, facts)] : []),
    ...(engine ? [ofSensor(engine, contrast, facts)] : []),
    ...(named && contrast.heat?.check?.disagrees
      ? [
          found(
            gate,
            'caution',
            'TEMPERATURE_SLOPE_DISAGREES',
            named,
            contrast.heat.check.b,
            contrast.heat.slope.b,
          ),
        ]
      : []),
  ];
}

/** The difference of the arms by one sensor: by its effect where it is named and has a slope, else by itself. */
function ofSensor(
  sensor: StartSensor,
  { pulls, result, heat }: Compared,
  { named, slope, startsOf }: StartFacts,
): Found {
  const mean = (arm: string): number =>
    meanOf(pulls.filter((p: ComparedPull) => p.arm === arm).map((p) => startsOf(p.id)[sensor]!));
  const own = sensor === named;
  const dT = own && heat ? heat.term.dT : mean(result.arm) - mean(result.against);
  const effect = own && slope !== null && slope.b !== 0 ? Math.abs(slope.b * dT) : null;
  const [size, [pass, most]] =
    effect === null ? [Math.abs(dT), START_LIMITS.apartK] : [effect, START_LIMITS.effectLp];
  const tooFar = effect !== null && Math.abs(dT) > START_LIMITS.mostK[sensor];
  const state = tooFar || size > most ? 'fail' : size > pass ? 'caution' : 'pass';
  return state === 'pass'
    ? found(gate, state, 'STARTED_ALIKE', sensor, dT, effect)
    : found(gate, state, 'STARTED_UNEQUALLY_WARM', sensor, dT, effect);
}
