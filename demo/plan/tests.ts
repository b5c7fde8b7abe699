/** Tests of the demo: each shows one thing a test manager meets. Pulls come from the simulated bench. */
import type { Effect } from '../../bench/capture/scenario.ts';
import type { EngineKind } from '../../core/capture/simulated/engines.ts';
import type { PlanRequest } from '../../contract/plan/test.ts';
import type { ProtocolKey } from '../../core/plan/protocols.ts';
import type { Metric } from '../../core/plan/metrics.ts';

export interface DemoTest {
  readonly key: string;
  readonly question: string;
  readonly fitment: string;
  readonly vehicle: string;
  readonly part: string;
  readonly dyno: string;
  readonly partner?: string;
  readonly engine: EngineKind;
  readonly seed: number;
  readonly band: PlanRequest['band'];
  readonly metric: Metric;
  readonly protocol: ProtocolKey;
  readonly remount: boolean;
  readonly gear: string;
  readonly fuel: string;
  readonly startRpm: number;
  readonly effect: readonly Effect[];
  readonly drift?: number;
  readonly pressureHpa?: number;
  readonly backPressure?: { kPa: number; atKw: number; arms: Readonly<Record<string, number>> };
  readonly faults?: readonly { pull: number; kind: 'late start' | 'slip'; amount: number }[];
  /** How many counted pulls have been captured; all when left out. */
  readonly captured?: number;
  readonly locked?: boolean;
  /** How far the claim has come. */
  readonly claim?: 'draft' | 'in review' | 'published' | 'stale';
  readonly unit?: 'kW' | '%';
  /** Calibration the part arm is run with. */
  readonly calibration?: string;
}

export const DEMO_TESTS: readonly DemoTest[] = [
  {
    key: 'clean gain',
    question: 'How much does the tubular manifold give on the stock Tern, at the top and over the range?',
    fitment: 'tern',
    vehicle: 'tern-1',
    part: 'manifold-c',
    dyno: 'cell-1',
    engine: 'na4',
    seed: 1187,
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    metric: 'upTo',
    protocol: 'A-B-A',
    remount: false,
    gear: '4th, 1:1',
    fuel: '95 RON pump',
    startRpm: 1900,
    effect: [
      { kind: 'bump', percent: 5.4, centreRpm: 5750, widthRpm: 1900 },
      { kind: 'constant', percent: 0.4 },
    ],
    claim: 'published',
  },
  {
    key: 'no gain',
    question: 'Does the cat-back exhaust add power on the Ferry, or only sound?',
    fitment: 'ferry',
    vehicle: 'ferry-1',
    part: 'cat-back-a',
    dyno: 'cell-1',
    engine: 'v6',
    seed: 2255,
    band: { fromRpm: 2400, toRpm: 6000, stepRpm: 50 },
    metric: 'bandAverage',
    protocol: 'A-B-A',
    remount: false,
    gear: '4th, 1.15:1',
    fuel: '95 RON pump',
    startRpm: 1800,
    effect: [],
  },
  {
    key: 'gain with a loss below',
    question: 'What does the rear silencer give at the top, and what does it cost below?',
    fitment: 'tern',
    vehicle: 'tern-1',
    part: 'rear-b',
    dyno: 'cell-1',
    engine: 'na4',
    seed: 3361,
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    metric: 'upTo',
    protocol: 'A-B-A',
    remount: false,
    gear: '4th, 1:1',
    fuel: '95 RON pump',
    startRpm: 1900,
    effect: [{ kind: 'ramp', fromRpm: 2900, toRpm: 5000, fromPercent: -3.6, toPercent: 5.2 }],
    backPressure: { kPa: 14, atKw: 90, arms: { part: 0.74 } },
    claim: 'in review',
  },
  {
    key: 're-mounted',
    question: 'What does the intake give when the car has to come off the rollers for the swap?',
    fitment: 'sprat',
    vehicle: 'sprat-1',
    part: 'intake-a',
    dyno: 'cell-1',
    engine: 'turbo3',
    seed: 4411,
    band: { fromRpm: 2000, toRpm: 5800, stepRpm: 50 },
    metric: 'bandAverage',
    protocol: 'A-B-A',
    remount: true,
    gear: '4th, 1.03:1',
    fuel: '95 RON pump',
    startRpm: 1500,
    effect: [{ kind: 'constant', percent: 5.6 }],
    claim: 'draft',
    unit: '%',
  },
  {
    key: 'no return to baseline',
    question: 'First look: is the downpipe worth a full test?',
    fitment: 'adder',
    vehicle: 'adder-1',
    part: 'downpipe-a',
    dyno: 'fell-road',
    partner: 'partner',
    engine: 'turbo5',
    seed: 5511,
    band: { fromRpm: 2400, toRpm: 6400, stepRpm: 50 },
    metric: 'upTo',
    protocol: 'A-B',
    remount: false,
    gear: '5th, 0.97:1',
    fuel: '98 RON pump',
    startRpm: 1900,
    pressureHpa: 921,
    effect: [{ kind: 'bump', percent: 6, centreRpm: 5600, widthRpm: 2400 }],
  },
  {
    key: 'half captured',
    question: 'Does the larger intercooler hold power when the van is warm?',
    fitment: 'holm',
    vehicle: 'holm-1',
    part: 'intercooler-b',
    dyno: 'cell-1',
    engine: 'diesel4',
    seed: 6613,
    band: { fromRpm: 1800, toRpm: 4200, stepRpm: 50 },
    metric: 'bandAverage',
    protocol: 'A-B-A',
    remount: false,
    gear: '4th, 1:1',
    fuel: 'EN 590 diesel',
    startRpm: 1300,
    effect: [{ kind: 'constant', percent: 3 }],
    captured: 5,
  },
  {
    key: 'sweep begun late',
    question: 'What does the intake give over the whole range, spool included?',
    fitment: 'sprat',
    vehicle: 'sprat-1',
    part: 'intake-a',
    dyno: 'cell-1',
    engine: 'turbo3',
    seed: 7719,
    band: { fromRpm: 2000, toRpm: 5800, stepRpm: 50 },
    metric: 'upTo',
    protocol: 'A-B-A',
    remount: false,
    gear: '4th, 1.03:1',
    fuel: '95 RON pump',
    startRpm: 1500,
    effect: [{ kind: 'bump', percent: 4.5, centreRpm: 4600, widthRpm: 2200 }],
    faults: [{ pull: 3, kind: 'late start', amount: 640 }],
    claim: 'stale',
  },
  {
    key: 'ready to capture',
    question: 'Does a second test of the manifold, another day, say the same?',
    fitment: 'tern',
    vehicle: 'tern-1',
    part: 'manifold-c',
    dyno: 'cell-1',
    engine: 'na4',
    seed: 8826,
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    metric: 'upTo',
    protocol: 'A-B-A',
    remount: false,
    gear: '4th, 1:1',
    fuel: '95 RON pump',
    startRpm: 1900,
    effect: [
      { kind: 'bump', percent: 3.4, centreRpm: 5750, widthRpm: 1900 },
      { kind: 'constant', percent: 0.3 },
    ],
    captured: 0,
  },
  {
    key: 'not locked',
    question: 'How much does the supercharger kit give on pump fuel with the standard pulley?',
    fitment: 'moor',
    vehicle: 'moor-1',
    part: 'blower-a',
    dyno: 'cell-1',
    calibration: 'moor-blower',
    engine: 'v8',
    seed: 9923,
    band: { fromRpm: 2200, toRpm: 6000, stepRpm: 50 },
    metric: 'upTo',
    protocol: 'A-B-A',
    remount: true,
    gear: '4th, 1.14:1',
    fuel: '98 RON pump',
    startRpm: 1700,
    effect: [{ kind: 'ramp', fromRpm: 2000, toRpm: 5800, fromPercent: 28, toPercent: 41 }],
    captured: 0,
    locked: false,
  },
];
