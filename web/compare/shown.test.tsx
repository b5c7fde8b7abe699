import { describe, expect, it } from 'vitest';
import { attributes, html, text } from '../__tests__/rendered.tsx';
import { GainRibbon } from './gain-ribbon.tsx';
import { Glyph } from './glyph.tsx';

/** A loss, a stretch that is not shown either way, and a gain. */
const CURVE = Array.from({ length: 81 }, (_, i) => {
  const gain = -4 + i / 8;
  return { rpm: 2500 + 50 * i, gain, lower: gain - 1, upper: gain + 1 };
});
const GLYPH = {
  rpm: CURVE.map((p) => p.rpm),
  gain: CURVE.map((p) => p.gain),
  lower: CURVE.map((p) => p.lower),
  upper: CURVE.map((p) => p.upper),
};

describe('the gain ribbon', () => {
  const ribbon = (curve = CURVE, upTo: { gain: number; rpm: number } | null = { gain: 5, rpm: 6500 }) => (
    <GainRibbon curve={curve} unit="%" upTo={upTo} height={338} />
  );
  it('says in words which stretch stands, which is lost, and which is neither', () => {
    const shown = text(ribbon());
    for (const words of [
      'proven loss',
      'not shown either way',
      'substantiated',
      'up to +5.0 %',
      '% of stock',
    ])
      expect(shown).toContain(words);
  });
  it('is a slider for keys and for those who hear it, over the window', () => {
    const markup = html(ribbon());
    expect(markup).toContain('role="slider"');
    expect(attributes(markup, 'aria-valuemin')).toEqual(['2500']);
    expect(attributes(markup, 'aria-valuemax')).toEqual(['6500']);
    expect(attributes(markup, 'aria-valuetext')).toEqual(['Use the arrow keys to read the curve']);
  });
  it('tells a proven loss by its pattern too, not by colour alone', () => {
    const fills = attributes(html(ribbon()), 'fill').filter((f) => f.startsWith('url('));
    expect(fills.some((f) => f.includes('loss)'))).toBe(true);
    expect(fills.some((f) => f.includes('open)'))).toBe(true);
  });
  it('marks nothing as “up to” where no gain stands', () => {
    expect(text(ribbon(CURVE, { gain: -0.3, rpm: 4000 }))).not.toContain('up to');
    expect(text(ribbon(CURVE, null))).not.toContain('up to');
  });
  it('names the unit it tells in', () => {
    expect(text(<GainRibbon curve={CURVE} unit="kW" upTo={null} />)).toContain('kW over stock, at the wheel');
  });
  it('two on a page keep their patterns apart', () => {
    const ids = attributes(
      html(
        <>
          {ribbon()}
          {ribbon()}
        </>,
      ),
      'id',
    );
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toHaveLength(4);
  });
});

describe('the ribbon in small', () => {
  it('says what it shows', () => {
    expect(attributes(html(<Glyph glyph={GLYPH} />), 'aria-label')).toEqual([
      'Gain ribbon: gain shown, with a proven loss',
    ]);
    const flat = { ...GLYPH, lower: GLYPH.rpm.map(() => -1), upper: GLYPH.rpm.map(() => 1) };
    expect(attributes(html(<Glyph glyph={flat} />), 'aria-label')).toEqual(['Gain ribbon: no gain shown']);
    expect(attributes(html(<Glyph glyph={null} />), 'aria-label')).toEqual(['no result yet']);
  });
  it('draws a band and a line for each stretch, inside its frame', () => {
    const paths = attributes(html(<Glyph glyph={GLYPH} width={66} height={30} />), 'd');
    expect(paths).toHaveLength(6);
    const numbers = paths.flatMap((d) =>
      [...d.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)].map((m) => [Number(m[1]), Number(m[2])]),
    );
    expect(numbers.length).toBeGreaterThan(100);
    for (const [x, y] of numbers) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(66);
      expect(y).toBeGreaterThanOrEqual(0);
      expect(y).toBeLessThanOrEqual(30);
    }
  });
  it('a small gain does not fill the height: two per cent are always in view', () => {
    const small = { rpm: [2500, 6500], gain: [0.1, 0.1], lower: [0.05, 0.05], upper: [0.15, 0.15] };
    const [band] = attributes(html(<Glyph glyph={small} width={66} height={30} />), 'd');
    const heights = [...band.matchAll(/,(-?[\d.]+)/g)].map((m) => Number(m[1]));
    expect(Math.max(...heights) - Math.min(...heights)).toBeLessThan(2);
  });
});
