import { describe, expect, it } from 'vitest';
import { FELL_BY, type Correction } from '../../contract/publish/corrections.ts';
import type { Legacy } from '../../contract/publish/legacy.ts';
import { attributes, html, text } from '../__tests__/rendered.tsx';
import { CorrectionRow } from './corrections-page.tsx';
import { Figures } from './legacy-page.tsx';

const fallen = (change: Partial<Correction> = {}): Correction => ({
  code: 'old1',
  fitmentSlug: 'oriel-tern',
  fitment: 'Oriel Tern 1.8 estate',
  subject: 'Rear silencer, revision B',
  tells: 'gain',
  wording: 'Up to +3 kW at the wheel, SAE J1349, at 5500 rpm.',
  publishedAt: '2026-11-03T09:00:00.000Z',
  fellAt: '2026-11-20T09:00:00.000Z',
  fellBy: 'wrong',
  reason: 'The sensor was read in the wrong unit.',
  instead: null,
  ...change,
});

describe('a claim that fell', () => {
  it('says what was said, since when, why it fell and that nothing is said instead', () => {
    const shown = text(<CorrectionRow correction={fallen()} />);
    for (const said of [
      'Rear silencer, revision B on Oriel Tern 1.8 estate',
      'Said since 3 Nov 2026: Up to +3 kW',
      '20 Nov 2026',
      'found wrong',
      'The sensor was read in the wrong unit.',
      'Nothing is said instead today.',
    ])
      expect(shown).toContain(said);
  });
  it('leads to its evidence, and to what is said today where something is', () => {
    const instead = { code: 'new1', wording: 'Up to +2 kW at the wheel.', publishedAt: null };
    const shown = html(<CorrectionRow correction={fallen({ instead })} />);
    expect(attributes(shown, 'href')).toEqual(['/catalogue/oriel-tern', '/evidence/old1', '/evidence/new1']);
    expect(shown).not.toContain('Nothing is said instead');
  });
  it.each([...FELL_BY])('by “%s” is a word with a mark', (fellBy) => {
    expect(text(<CorrectionRow correction={fallen({ fellBy })} />)).toMatch(
      /[▼◐○] (found|its|grew|withdrawn)/,
    );
  });
});

describe('figures from before', () => {
  const of = (figures: Legacy['figures']): string => text(<Figures entry={{ figures } as Legacy} />);
  const point = (value: number, rpm: number | null, change: object = {}) =>
    ({ of: 'stock', unit: 'N·m', value, rpm, within: 0.5, ...change }) as Legacy['figures'][number];
  it('stand as they are printed, a gain with its sign, a decimal only where one is printed', () => {
    const shown = of([
      point(131, 5600, { unit: 'hp' }),
      point(7, null, { of: 'gain', unit: 'hp' }),
      point(3.5, null, { of: 'gain', unit: '%', within: 0.05 }),
    ]);
    expect(shown).toMatch(/stock 131 hp 5.600 rpm/);
    expect(shown).toMatch(/gain \+7 hp/);
    expect(shown).toMatch(/gain \+3\.5 %/);
  });
  it('of a graph are told by the highest of their points', () => {
    const shown = of([101, 128, 117, 99, 90, 88, 80].map((nm, i) => point(nm, 1000 * (i + 1))));
    expect(shown).toMatch(/128 N·m 2.000 rpm highest of 7 points/);
    expect(shown).not.toContain('101');
  });
});
