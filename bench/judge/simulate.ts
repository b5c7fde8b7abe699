/**
 * The simulated bench: stands in for dyno, weather station and engine logger. From a seeded scenario
 * it writes the very files real ones write, and keeps the truth they were made from.
 */
import Papa from 'papaparse';
import type { TestFile } from '../../contract/judge/test-file.ts';
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { lp, powerW } from '../../core/base/units.ts';
import { airState } from '../../core/correct/air.ts';
import { correctionFactor } from '../../core/correct/standards.ts';
import { rpmGrid } from '../../core/correct/torque-curve.ts';
import { ENGINES, type EngineModel } from '../../core/capture/simulated/engines.ts';
import { mountShift, pullNoise } from '../../core/capture/simulated/noise.ts';
import { effectPercent, type Scenario } from '../capture/scenario.ts';

export interface SimulatedFile {
  readonly path: string;
  readonly text: string;
}
export interface SimulatedSession {
  readonly test: TestFile;
  readonly files: readonly SimulatedFile[];
  /** True gain of each part, per cent, on the band's grid: before noise. */
  readonly truth: {
    readonly rpm: readonly number[];
    readonly gainPct: Readonly<Record<string, readonly number[]>>;
  };
}

interface PlannedPull {
  id: string;
  arm: string;
  run: number;
  order: number;
  mount: number;
  counted: boolean;
  inRun: number;
  countedNumber: number;
}

/** Run order of a scenario: warm-up pulls before every run, re-mounted between runs when it says so. */
function planned(scenario: Scenario): PlannedPull[] {
  const { order: arms, pulls, warmUps, remount } = scenario.protocol;
  const out: PlannedPull[] = [];
  let counted = 0;
  arms.forEach((arm, run) => {
    for (let k = 0; k < warmUps + pulls; k++) {
      const isCounted = k >= warmUps;
      if (isCounted) counted += 1;
      const order = out.length + 1;
      out.push({
        id: isCounted ? `p${counted}` : `w${order}`,
        arm,
        run,
        order,
        mount: remount ? run + 1 : 1,
        counted: isCounted,
        inRun: k,
        countedNumber: counted,
      });
    }
  });
  return out;
}

/** Same seed, same bytes. */
// eslint-disable-next-line max-lines-per-function -- one simulated session, pull by pull
export function simulateSession(scenario: Scenario): SimulatedSession {
  const rng = seededRng(scenario.seed);
  // A source of its own: what is drawn for temperatures changes no curve.
  const heat = seededRng(scenario.seed + 1_000_003);
  const engine = ENGINES[scenario.engine];
  const knots = rpmGrid(500, engine.limitRpm + 500, 50);
  const noiseOf = pullNoise(knots, { ...scenario.noise, white: 0 });
  const mounts = new Map<number, number>();
  const files: SimulatedFile[] = [];
  const airRows: string[][] = [];
  const grid = rpmGrid(scenario.band.fromRpm, scenario.band.toRpm, scenario.band.stepRpm);

  // eslint-disable-next-line max-lines-per-function -- one pull: its air, its curve, its file
  const pulls = planned(scenario).map((pull) => {
    if (!mounts.has(pull.mount))
      mounts.set(pull.mount, scenario.protocol.remount ? mountShift(scenario.noise, rng) : 0);
    const arm = scenario.arms.find((a) => a.id === pull.arm);
    if (!arm) throw new RangeError(`The protocol names arm “${pull.arm}”, which the scenario does not have.`);
    const air = {
      temperatureC: round(
        scenario.air.temperatureC + scenario.air.temperaturePerPull * (pull.order - 1) + 0.05 * rng.normal(),
        1,
      ),
      pressureHpa: round(scenario.air.pressureHpa + 0.05 * rng.normal(), 1),
      humidityPct: round(scenario.air.humidityPct + 0.5 * rng.normal(), 0),
    };
    const curve = noiseOf(rng);
    const warmer = (scenario.starts.arms[pull.arm] ?? 0) + scenario.starts.sd * heat.normal();
    if (!pull.counted)
      return { id: pull.id, arm: pull.arm, order: pull.order, mount: pull.mount, counted: false };
    const factor = correctionFactor(
      scenario.standard,
      airState({
        temperatureC: air.temperatureC,
        pressureHpa: air.pressureHpa,
        humidity: { kind: 'relative', percent: air.humidityPct },
      }),
      engine,
    ).factor;
    const shift =
      mounts.get(pull.mount)! +
      scenario.drift * (pull.order - 1) +
      adaptation(scenario, pull, arm.role) +
      scenario.starts.lpPerK * warmer;
    const fault = scenario.faults.find((f) => f.pull === pull.countedNumber);
    const torqueNm = (rpm: number): number => {
      const noise = shift + interpolate(knots, curve, rpm) + (fault?.kind === 'slip' ? fault.amount : 0);
      return (
        (engine.torqueNm(rpm) * (1 + effectPercent(arm.effect, rpm) / 100) * Math.exp(noise / 100)) / factor
      );
    };
    const startRpm = scenario.roller.startRpm + (fault?.kind === 'late start' ? fault.amount : 0);
    const path = `pulls/${pull.id}.csv`;
    files.push({
      path,
      text: recordPull(scenario, engine, torqueNm, startRpm, air.temperatureC, rng, pull, warmer),
    });
    airRows.push([
      String(pull.order),
      pull.id,
      String(air.temperatureC),
      String(air.pressureHpa),
      String(air.humidityPct),
    ]);
    return {
      id: pull.id,
      arm: pull.arm,
      order: pull.order,
      mount: pull.mount,
      counted: true,
      file: path,
      air,
      applied: { standard: 'none' as const },
    };
  });

  files.push({
    path: 'air.csv',
    text:
      Papa.unparse(
        {
          fields: ['Position', 'Pull', 'Air temperature (°C)', 'Pressure (hPa)', 'Humidity (%)'],
          data: airRows,
        },
        { newline: '\n' },
      ) + '\n',
  });
  return {
    test: {
      format: 'evidentia-test/1',
      title: scenario.title,
      standard: scenario.standard,
      engine: { ignition: engine.ignition, aspiration: engine.aspiration },
      band: scenario.band,
      smoothingRpm: 200,
      confidence: 0.95,
      model: { drift: 'none', driftBound: 0.3 },
      ...(scenario.repeatability ? { repeatability: scenario.repeatability } : {}),
      ...(scenario.metric ? { metric: scenario.metric } : {}),
      arms: scenario.arms.map(({ id, role }) => ({ id, role })),
      pulls,
    },
    files,
    truth: {
      rpm: grid,
      gainPct: Object.fromEntries(
        scenario.arms
          .filter((a) => a.role === 'part')
          .map((a) => [a.id, grid.map((r) => effectPercent(a.effect, r))]),
      ),
    },
  };
}

function adaptation(scenario: Scenario, pull: PlannedPull, role: 'baseline' | 'part'): number {
  const a = scenario.adaptation;
  if (!a || (a.runs === 'first' && pull.run > 0) || (a.runs === 'part' && role !== 'part')) return 0;
  return a.shape[pull.inRun] ?? 0;
}

/** Runs one pull through time: steady, tip-in, ramp to the limiter, lift. */
// eslint-disable-next-line max-lines-per-function -- one recording, channel by channel
function recordPull(
  scenario: Scenario,
  engine: EngineModel,
  torqueNm: (rpm: number) => number,
  startRpm: number,
  airC: number,
  rng: Rng,
  pull: PlannedPull,
  warmer: number,
): string {
  const { rateHz, kind, rampRpmPerS, inertiaKgM2 } = scenario.roller;
  const dt = 1 / rateHz;
  const rows: string[][] = [];
  // A source of its own: a gauge more changes no other reading.
  const gauge = seededRng(scenario.seed + 2_000_003 + pull.order);
  const restriction = scenario.backPressure?.arms[pull.arm] ?? 1;
  const backKpa = (kw: number): number =>
    101.3 + restriction * scenario.backPressure!.kPa * (kw / scenario.backPressure!.atKw) ** 2;
  let rpm = startRpm;
  let since = -0.6;
  for (let i = 0; i < 60 * rateHz; i++, since += dt) {
    const lifted = rpm >= engine.limitRpm || (rows.length > 0 && rows.at(-1)![4] === '0.0');
    const throttle = since < 0 ? 18 : lifted ? 0 : 100;
    const build = since < 0 ? 0.25 : Math.min(1, 0.35 + since / 0.45);
    const shaft = lifted ? -18 : torqueNm(rpm) * build;
    const measured = shaft * (1 + (scenario.logger.torquePercent / 100) * rng.normal());
    const shown = rpm + scenario.logger.speedRpm * rng.normal();
    const kw = powerW(Math.max(shaft, 0), rpm) / 1000;
    rows.push([
      (i * dt).toFixed(3),
      shown.toFixed(1),
      (shown * 0.0312).toFixed(2),
      measured.toFixed(2),
      throttle.toFixed(1),
      (lifted ? 1.6 : since < 0 ? 1 : engine.lambda + 0.003 * rng.normal()).toFixed(3),
      (since < 0 || lifted ? 45 : engine.manifoldKpa * build + 0.4 * rng.normal()).toFixed(1),
      (kw * engine.airPerKw + 2 + 0.2 * rng.normal()).toFixed(1),
      (airC + 6 + 0.01 * i).toFixed(1),
      (scenario.starts.coolantC + warmer + 0.004 * i).toFixed(1),
      (scenario.starts.oilC + 1.3 * warmer + 0.006 * i).toFixed(1),
      ...(scenario.backPressure ? [(backKpa(Math.max(kw, 0)) + 0.15 * gauge.normal()).toFixed(2)] : []),
    ]);
    if (lifted && (rpm -= 900 * dt) < engine.limitRpm - 400) break;
    if (since >= 0 && !lifted)
      rpm +=
        dt *
        (kind === 'loaded'
          ? rampRpmPerS * (0.5 + 0.5 * build)
          : ((shaft / inertiaKgM2) * 60) / (2 * Math.PI));
  }
  const comma = scenario.logger.style === 'semicolon';
  const cells = comma ? rows.map((row) => row.map((cell) => cell.replace('.', ','))) : rows;
  const header = [
    'Time (s)',
    'Engine speed (rpm)',
    'Roller speed (km/h)',
    'Torque (N·m)',
    'Throttle (%)',
    'Lambda',
    'Manifold pressure (kPa)',
    'Air flow (g/s)',
    'Intake air temp (°C)',
    'Coolant temp (°C)',
    'Oil temp (°C)',
    ...(scenario.backPressure ? ['Exhaust back-pressure (kPa)'] : []),
  ];
  const delimiter = { comma: ',', semicolon: ';', tab: '\t' }[scenario.logger.style];
  return (
    `# Session: ${scenario.title}\n# Pull: ${pull.id}, position ` +
    `${pull.order}\n${Papa.unparse([header, ...cells], { delimiter, newline: '\n' })}\n`
  );
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));
function interpolate(x: readonly number[], y: Float64Array, at: number): number {
  const position = Math.min(Math.max((at - x[0]) / (x[1] - x[0]), 0), x.length - 1.000001);
  const i = Math.floor(position);
  return y[i] + (position - i) * (y[i + 1] - y[i]);
}

/** True gain in lp smoothed as the analysis smooths: what a 200 rpm band estimates. */
export const truthLp = (gainPct: readonly number[]): Float64Array =>
  Float64Array.from(gainPct, (g) => lp(1 + g / 100));
