/** Further plans of the demo: protocols that take more than one part arm, a series, a prototype. Most have no pulls yet. */
import type { z } from 'zod';
import { ScenarioSchema, type Scenario } from '../../bench/capture/scenario.ts';
import type { PlanRequest } from '../../contract/plan/test.ts';
import type { LedgerChange } from '../../core/register/ledger.ts';
import type { PartCategory } from '../../core/register/parts.ts';

type Draft = z.input<typeof PlanRequest>;
interface Ids {
  readonly of: (key: string) => string;
}
const fit = (
  category: PartCategory,
  partRevisionId: string,
  settings: Record<string, string> = {},
): LedgerChange => ({ kind: 'part fitted', category, partRevisionId, settings });
const arm = (
  key: string,
  label: string,
  changes: LedgerChange[],
  from: string | null = null,
): Draft['arms'][number] => ({
  key,
  label,
  role: key === 'stock' ? 'baseline' : 'part',
  from,
  changes: changes,
});
const usual = {
  standard: 'sae-j1349',
  pullsPerRun: 3,
  warmUps: 3,
  remount: false,
  coolDownMinutes: 4,
} as const;

export interface FurtherPlan {
  readonly key: string;
  readonly lock: boolean;
  readonly make: (ids: Ids) => Draft;
  /** What the simulated bench is to write for it; not captured without. */ readonly scenario?: Scenario;
}
export const FURTHER_PLANS: readonly FurtherPlan[] = [
  {
    key: 'ladder',
    lock: false,
    make: ({ of }) => ({
      ...usual,
      question: 'What does each step add on the Adder: intake, then downpipe, then the calibration?',
      fitmentId: of('adder'),
      vehicleId: of('adder-1'),
      dynoId: of('fell-road'),
      partnerId: of('partner'),
      band: { fromRpm: 2400, toRpm: 6400, stepRpm: 50 },
      metrics: ['bandAverage'],
      protocol: 'ladder',
      gear: '5th, 0.97:1',
      fuel: '98 RON pump',
      arms: [
        arm('stock', 'stock', []),
        arm('stage-1', 'twin-duct intake', [fit('intake', of('adder-intake-b'))]),
        arm('stage-2', '+ downpipe', [fit('downpipe', of('downpipe-a'))], 'stage-1'),
        arm(
          'stage-3',
          '+ calibration',
          [{ kind: 'calibration', calibrationId: of('adder-stage-1') }],
          'stage-2',
        ),
      ],
      order: ['stock', 'stage-1', 'stage-2', 'stage-3', 'stock'],
      priority: 6,
      logs: ['lambda', 'boost pressure', 'ignition advance', 'knock retard'],
    }),
  },
  {
    key: 'pulleys',
    lock: false,
    make: ({ of }) => ({
      ...usual,
      question: 'Which pulley of the supercharger kit is worth its heat on pump fuel?',
      fitmentId: of('moor'),
      vehicleId: of('moor-1'),
      dynoId: of('cell-1'),
      partnerId: null,
      band: { fromRpm: 2200, toRpm: 6000, stepRpm: 50 },
      metrics: ['upTo', 'bandAverage'],
      protocol: 'options',
      remount: true,
      gear: '4th, 1.14:1',
      fuel: '98 RON pump',
      arms: [
        arm('stock', 'stock', []),
        ...['92 mm', '86 mm', '80 mm'].map((size, i) =>
          arm(`option-${i + 1}`, `kit, pulley ${size}`, [
            fit('supercharger', of('blower-a'), { pulley: size }),
            { kind: 'calibration', calibrationId: of('moor-blower') },
          ]),
        ),
      ],
      order: ['stock', 'option-1', 'option-2', 'option-3', 'stock'],
      priority: 4,
      logs: ['lambda', 'knock retard', 'boost pressure', 'intake air temperature'],
      photographs: ['part fitted', 'strapping'],
    }),
  },
  {
    key: 'three Terns',
    lock: true,
    make: ({ of }) => ({
      ...usual,
      question: 'Does the manifold give on other Terns what it gives on ours?',
      fitmentId: of('tern'),
      vehicleId: of('tern-2'),
      dynoId: of('cell-1'),
      partnerId: null,
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      metrics: ['bandAverage'],
      protocol: 'vehicles',
      series: [{ vehicleId: of('tern-3'), dynoId: of('cell-1') }],
      gear: '4th, 1:1',
      fuel: '95 RON pump',
      arms: [arm('stock', 'stock', []), arm('part', 'tubular manifold', [fit('header', of('manifold-c'))])],
      order: ['stock', 'part', 'stock'],
      priority: 7,
    }),
  },
  {
    key: 'prototype',
    lock: true,
    make: ({ of }) => ({
      ...usual,
      question: 'Is the resonance inlet plenum, P2, worth taking to production?',
      fitmentId: of('sprat'),
      vehicleId: of('sprat-1'),
      dynoId: of('cell-1'),
      partnerId: null,
      band: { fromRpm: 2000, toRpm: 5800, stepRpm: 50 },
      metrics: ['bandAverage'],
      protocol: 'A-B-A',
      gear: '4th, 1.03:1',
      fuel: '95 RON pump',
      arms: [arm('stock', 'stock', []), arm('part', 'resonance inlet plenum', [fit('inlet', of('proto'))])],
      order: ['stock', 'part', 'stock'],
      priority: 8,
    }),
  },
  {
    key: 'insert',
    lock: true,
    make: ({ of }) => ({
      ...usual,
      question: 'Is the gain of the two-way exhaust still there with its quiet insert in?',
      fitmentId: of('ferry'),
      vehicleId: of('ferry-1'),
      dynoId: of('cell-1'),
      partnerId: null,
      band: { fromRpm: 2400, toRpm: 6000, stepRpm: 50 },
      metrics: ['bandAverage'],
      protocol: 'options',
      gear: '4th, 1.15:1',
      fuel: '95 RON pump',
      arms: [
        arm('stock', 'stock', []),
        arm('insert-out', 'insert out', [fit('exhaust section', of('twoway-a'), { insert: 'out' })]),
        arm('insert-in', 'insert in', [fit('exhaust section', of('twoway-a'), { insert: 'in' })]),
      ],
      order: ['stock', 'insert-out', 'insert-in', 'stock'],
    }),
    scenario: ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      seed: 15_151,
      title: 'insert',
      engine: 'v6',
      band: { fromRpm: 2400, toRpm: 6000, stepRpm: 50 },
      metric: 'bandAverage',
      arms: [
        { id: 'stock', role: 'baseline' },
        { id: 'insert-out', role: 'part', effect: [{ kind: 'constant', percent: 3.8 }] },
        { id: 'insert-in', role: 'part', effect: [{ kind: 'constant', percent: 0.1 }] },
      ],
      protocol: {
        order: ['stock', 'insert-out', 'insert-in', 'stock'],
        pulls: 3,
        warmUps: 3,
        remount: false,
      },
      noise: { level: 0.45, slow: 0.3, quick: 0.25, white: 0.1, remountStep: 0.9 },
      roller: { startRpm: 1800, kind: 'loaded' },
      air: { temperatureC: 19.5, pressureHpa: 1009, humidityPct: 55, temperaturePerPull: 0.04 },
    }),
  },
];
