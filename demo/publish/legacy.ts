/** What the demo's shop printed before it measured: a graph that contradicts itself, and a number that a test has overtaken. */
import { LegacyRequest } from '../../contract/publish/legacy.ts';

export const DEMO_LEGACY = (idOf: (key: string) => string): LegacyRequest[] =>
  [
    {
      fitmentId: idOf('tern'),
      partId: idOf('manifold-c part'),
      kind: 'number on a page',
      source: 'Shop page of the manifold, spring 2021',
      missing: 'Air, baseline and number of pulls; whether the calibration was changed.',
      figures: 'gain 14 hp\nstock 138 hp',
    },
    {
      fitmentId: idOf('sprat74'),
      partId: idOf('intake-a part'),
      kind: 'printed graph',
      source: 'Leaflet 7 of the maker, page 2, figure 1',
      missing: 'Which gear, which day; the axis of torque is hard to read.',
      figures: [
        'stock 117 N·m at 3000',
        'stock 128 N·m at 4000',
        'stock 95 hp at 5000',
        'stock 99 N·m at 5000',
        'part 119 N·m at 3000',
        'part 133 N·m at 4000',
        'part 100 hp at 5000',
        'part 142 N·m at 5000',
        'gain 5 hp at 5000',
      ].join('\n'),
    },
  ].map((entry) => LegacyRequest.parse(entry));
