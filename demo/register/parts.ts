/** Parts of the demo with their revisions, and which fitments they fit; all invented. */
import type { z } from 'zod';
import type { PartInput, RevisionInput } from '../../contract/register/register.ts';

export interface DemoPart {
  readonly key: string;
  readonly part: z.input<typeof PartInput>;
  readonly revision: Omit<z.input<typeof RevisionInput>, 'needs' | 'conflicts'>;
  readonly needs?: {
    readonly parts?: readonly string[];
    readonly calibration?: boolean;
    readonly fuel?: string;
  };
  readonly fits: readonly string[];
}
const legal = (...markets: string[]): { market: string; class: 'road legal' }[] =>
  markets.map((market) => ({ market, class: 'road legal' }));

export const DEMO_PARTS: readonly DemoPart[] = [
  {
    key: 'manifold-c',
    part: {
      sku: 'TM-118',
      maker: 'Skerry & Vale',
      name: 'Tubular manifold',
      category: 'header',
      priceCents: 64_900,
      legal: legal('EU'),
      launchDate: '2026-03-01',
    },
    revision: {
      revision: 'C',
      releasedOn: '2026-02-02',
      changeNote: 'collector 2 mm wider than revision B',
      weightKg: 5.4,
      installHours: 1.5,
      removeHours: 1,
      specialTools: 'lambda socket',
      replaceOnInstall: ['manifold gasket', 'studs'],
    },
    fits: ['tern', 'tern-auto', 'tern92'],
  },
  {
    key: 'rear-b',
    part: {
      sku: 'RS-204',
      maker: 'Skerry & Vale',
      name: 'Rear silencer',
      category: 'exhaust section',
      priceCents: 28_900,
      legal: legal('EU'),
      promise: 'power',
    },
    revision: {
      revision: 'B',
      weightKg: 7.1,
      installHours: 0.6,
      removeHours: 0.4,
      replaceOnInstall: ['ring gasket', 'hangers'],
    },
    fits: ['tern', 'tern-auto', 'tern92', 'wren'],
  },
  {
    key: 'intake-a',
    part: {
      sku: 'IN-310',
      maker: 'Lowmoss',
      name: 'Cold-side intake',
      category: 'intake',
      priceCents: 31_500,
      legal: legal('EU', 'UK'),
    },
    revision: { revision: 'A', weightKg: 2.2, installHours: 0.5, removeHours: 0.4 },
    fits: ['sprat', 'sprat74', 'sprat-van'],
  },
  {
    key: 'downpipe-a',
    part: {
      sku: 'DP-550',
      maker: 'Lowmoss',
      name: 'Large-bore downpipe',
      category: 'downpipe',
      priceCents: 79_000,
      legal: [{ market: 'EU', class: 'competition only' }],
    },
    revision: {
      revision: 'A',
      weightKg: 6.8,
      installHours: 2.2,
      removeHours: 2,
      specialTools: 'long extension, lambda socket',
      replaceOnInstall: ['turbine gasket', 'clamps'],
    },
    fits: ['adder', 'adder-uk'],
  },
  {
    key: 'intercooler-b',
    part: {
      sku: 'IC-122',
      maker: 'Harrow End',
      name: 'Front intercooler',
      category: 'intercooler',
      priceCents: 56_000,
      legal: legal('EU'),
    },
    revision: {
      revision: 'B',
      weightKg: 9.6,
      installHours: 2.5,
      removeHours: 2,
      irreversibleSteps: 'the lower grille is cut',
      replaceOnInstall: ['hose clamps'],
    },
    fits: ['holm', 'holm-chassis', 'holm92'],
  },
  {
    key: 'blower-a',
    part: {
      sku: 'SC-900',
      maker: 'Harrow End',
      name: 'Supercharger kit',
      category: 'supercharger',
      priceCents: 620_000,
      legal: [{ market: 'EU', class: 'unknown' }],
    },
    revision: {
      revision: 'A',
      weightKg: 48,
      driveCrankMm: 172,
      mostDriveRpm: 12_500,
      installHours: 14,
      removeHours: 10,
      options: [{ name: 'pulley', settings: ['92 mm', '86 mm', '80 mm'] }],
      specialTools: 'crank pulley puller, fuel line tools',
      irreversibleSteps: 'crank pulley is drilled and pinned',
      replaceOnInstall: ['inlet gaskets', 'drive belt', 'spark plugs'],
    },
    needs: { calibration: true, fuel: '98 RON' },
    fits: ['moor'],
  },
  {
    key: 'cat-back-a',
    part: {
      sku: 'CB-077',
      maker: 'Skerry & Vale',
      name: 'Cat-back exhaust',
      category: 'exhaust section',
      priceCents: 49_900,
      legal: legal('EU'),
      promise: 'power',
    },
    revision: {
      revision: 'A',
      weightKg: 18,
      installHours: 1.2,
      removeHours: 0.8,
      options: [{ name: 'insert', settings: ['in', 'out'] }],
    },
    fits: ['ferry'],
  },
  {
    key: 'filter-a',
    part: {
      sku: 'PF-041',
      maker: 'Skerry & Vale',
      name: 'Panel filter',
      category: 'filter',
      priceCents: 4_900,
      legal: legal('EU', 'UK'),
    },
    revision: { revision: 'A', weightKg: 0.4, installHours: 0.1, removeHours: 0.1 },
    fits: [
      'tern',
      'tern-auto',
      'tern92',
      'sprat',
      'sprat74',
      'sprat-van',
      'wren',
      'holm',
      'holm92',
      'holm-chassis',
    ],
  },
  {
    key: 'adder-intake-b',
    part: {
      sku: 'IN-355',
      maker: 'Lowmoss',
      name: 'Twin-duct intake',
      category: 'intake',
      priceCents: 42_000,
      legal: legal('EU'),
    },
    revision: { revision: 'B', weightKg: 3.1, installHours: 0.8, removeHours: 0.6 },
    fits: ['adder', 'adder-uk'],
  },
  {
    key: 'throttle-a',
    part: {
      sku: 'TB-064',
      maker: 'Skerry & Vale',
      name: 'Throttle body, 64 mm',
      category: 'throttle body',
      priceCents: 21_900,
    },
    revision: {
      revision: 'A',
      weightKg: 1.2,
      installHours: 0.7,
      removeHours: 0.6,
      replaceOnInstall: ['throttle gasket'],
    },
    needs: { parts: ['inlet-a'] },
    fits: ['tern', 'tern92'],
  },
  {
    key: 'inlet-a',
    part: {
      sku: 'IL-018',
      maker: 'Skerry & Vale',
      name: 'Inlet adaptor',
      category: 'inlet',
      priceCents: 8_900,
    },
    revision: { revision: 'A', weightKg: 0.6, installHours: 0.5, removeHours: 0.4 },
    fits: ['tern', 'tern92'],
  },
  {
    key: 'wren-intake-a',
    part: {
      sku: 'IN-142',
      maker: 'Lowmoss',
      name: 'Short-ram intake',
      category: 'intake',
      priceCents: 18_900,
      legal: legal('EU'),
      launchDate: '2027-01-15',
    },
    revision: { revision: 'A', weightKg: 1.5, installHours: 0.4, removeHours: 0.3 },
    fits: ['wren'],
  },
  {
    key: 'proto',
    part: {
      sku: 'CX-771',
      maker: 'Lowmoss',
      name: 'Resonance inlet plenum',
      category: 'inlet',
      priceCents: 58_000,
      launchDate: '2027-03-01',
      embargoUntil: '2027-03-01',
      codeName: 'Project Corrie',
      note: 'Prototype; the shape of the plenum is the secret.',
    },
    revision: {
      revision: 'P2',
      changeNote: 'runners 12 mm longer',
      weightKg: 3.4,
      installHours: 1.4,
      removeHours: 1.2,
      replaceOnInstall: ['inlet gasket'],
    },
    fits: ['sprat', 'sprat74', 'sprat-van'],
  },
  {
    key: 'twoway-a',
    part: {
      sku: 'TX-215',
      maker: 'Harrow End',
      name: 'Two-way exhaust',
      category: 'exhaust section',
      priceCents: 71_500,
      legal: [{ market: 'EU', class: 'unknown' }],
    },
    revision: {
      revision: 'A',
      weightKg: 16.5,
      installHours: 1.1,
      removeHours: 0.8,
      options: [{ name: 'insert', settings: ['out', 'in'] }],
      replaceOnInstall: ['ring gasket'],
    },
    fits: ['ferry'],
  },
  {
    key: 'sound-a',
    part: {
      sku: 'RS-310',
      maker: 'Harrow End',
      name: 'Touring silencer',
      category: 'exhaust section',
      priceCents: 33_500,
      legal: legal('EU'),
      promise: 'sound',
    },
    revision: { revision: 'A', weightKg: 8.2, installHours: 0.6, removeHours: 0.4 },
    fits: ['tern', 'tern-auto', 'ferry'],
  },
];

export const DEMO_CALIBRATIONS = [
  {
    key: 'adder-stage-1',
    name: 'Adder touring',
    revision: '4',
    fileName: 'adder-touring-4.bin',
    fitment: 'adder',
    fuel: '98 RON',
    expects: ['downpipe-a'],
    note: 'Torque intervention unchanged; made for the large-bore downpipe',
  },
  {
    key: 'moor-blower',
    name: 'Moor kit, pump fuel',
    revision: '2',
    fileName: 'moor-kit-2.bin',
    fitment: 'moor',
    fuel: '98 RON',
    expects: ['blower-a'],
    note: 'For the kit with any of its pulleys',
  },
] as const;
