import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIGURE_OF, FIGURE_UNITS, figureDoubts, readFigures, type LegacyFigure } from './legacy-figures.ts';

const RATED = { powerKw: 103, torqueNm: 175 };
const doubts = (text: string, measured: Parameters<typeof figureDoubts>[2] = []) => {
  const read = readFigures(text);
  expect(read.wrong).toEqual([]);
  return figureDoubts(read.figures, RATED, measured);
};

describe('figures as they are printed', () => {
  it('are read with unit, engine speed and how finely they are printed', () => {
    const text =
      'Stock 131 hp @ 5600\n\npart: 137.5 bhp at 5,700 rpm\ngain +6 hp\nstock 210 Nm at 4000\ngain 3,5 %';
    expect(readFigures(text)).toEqual({
      figures: [
        { of: 'stock', value: 131, unit: 'hp', rpm: 5600, within: 0.5 },
        { of: 'part', value: 137.5, unit: 'hp', rpm: 5700, within: 0.05 },
        { of: 'gain', value: 6, unit: 'hp', rpm: null, within: 0.5 },
        { of: 'stock', value: 210, unit: 'N·m', rpm: 4000, within: 0.5 },
        { of: 'gain', value: 3.5, unit: '%', rpm: null, within: 0.05 },
      ],
      wrong: [],
    });
  });
  it.each([
    ['131 hp', /Write a line as/],
    ['stock 131', /no unit/],
    ['stock 131 furlongs', /no unit/],
    ['part 5 %', /Only a gain/],
    ['stock -5 kW', /above zero/],
    ['stock 131 hp at 56', /no engine speed/],
    ['stock 1.2.3.4,5 hp', /no number/],
  ])('%s is told by its line', (line, why) => {
    const { figures, wrong } = readFigures(`gain 1 hp\n${line}`);
    expect(figures).toHaveLength(1);
    expect(wrong).toEqual([{ line: 2, why: expect.stringMatching(why) as string }]);
  });
  it('come back as they were written, and no text at all throws', () => {
    const figure = fc.record({
      of: fc.constantFrom(...FIGURE_OF),
      value: fc.integer({ min: 1, max: 9999 }).map((n) => n / 10),
      unit: fc.constantFrom(...FIGURE_UNITS.filter((u) => u !== '%')),
      rpm: fc.option(fc.integer({ min: 300, max: 20_000 })),
    });
    fc.assert(
      fc.property(fc.array(figure, { maxLength: 8 }), (all) => {
        const text = all.map(
          (f) => `${f.of} ${f.value.toFixed(1)} ${f.unit}${f.rpm === null ? '' : ` at ${f.rpm}`}`,
        );
        const read = readFigures(text.join('\n'));
        expect(read.wrong).toEqual([]);
        expect(read.figures).toEqual(all.map((f) => ({ ...f, within: 0.05 })));
      }),
    );
    fc.assert(fc.property(fc.string({ unit: 'binary' }), (text) => void readFigures(text)));
    fc.assert(
      fc.property(fc.string(), (tail) => {
        const { figures, wrong } = readFigures(`stock 100 kW${tail.replace(/[\r\n;]/g, ' ')}`);
        expect(figures.length + wrong.length).toBe(1);
      }),
    );
  });
});

describe('figures against each other', () => {
  it('power is torque times speed: a worked pair agrees, and in hp and lb·ft they meet at 5 252 rpm', () => {
    // 1 hp = 550 ft·lbf/s exactly, so both are one number at 60 · 550 / 2π = 5 252.1 rpm.
    expect(doubts('part 200 hp at 5252\npart 200 lb·ft at 5252')).toEqual([]);
    expect(doubts('stock 85 kW at 5500\nstock 147.6 N·m at 5500')).toEqual([]);
    const [doubt] = doubts('part 150 hp at 5252\npart 200 lb·ft at 5252');
    expect(doubt).toMatchObject({ code: 'POWER_IS_NOT_TORQUE' });
    expect(doubt.message).toContain('200.0 hp');
    // Another speed or another arm says nothing of it.
    expect(doubts('part 150 hp at 5252\npart 200 lb·ft at 4000\nstock 100 lb·ft at 5252')).toEqual([]);
  });
  it('tells which unit would make them fit', () => {
    // 100 kW at 5 000 rpm are 191.0 N·m, 140.9 lb·ft, 134.1 hp.
    expect(doubts('part 134 kW at 5000\npart 191 N·m at 5000')[0].message).toContain('the power in hp');
    expect(doubts('part 100 hp at 5000\npart 191 N·m at 5000')[0].message).toContain('the power in kW');
    expect(doubts('part 100 kW at 5000\npart 141 N·m at 5000')[0].message).toContain('the torque in lb·ft');
    expect(doubts('part 100 kW at 5000\npart 191 lb·ft at 5000')[0].message).toContain('the torque in N·m');
  });
  it('a gain is the difference of its arms, as finely as they are printed', () => {
    expect(doubts('stock 100 kW\npart 104 kW\ngain 5 kW')).toEqual([]);
    expect(doubts('stock 100 kW\npart 104 kW\ngain 4 %')).toEqual([]);
    expect(doubts('stock 100 kW\npart 104 kW\ngain 7 kW')[0]).toMatchObject({
      code: 'NOT_THE_DIFFERENCE',
      message: expect.stringContaining('4.0 kW') as string,
    });
    expect(doubts('stock 100 kW\npart 104 kW\ngain 9 %')[0].code).toBe('NOT_THE_DIFFERENCE');
    // In another unit than its arms it is still their difference.
    expect(doubts('stock 100 kW\npart 104 kW\ngain 5.4 hp')).toEqual([]);
  });
  it('stock is near what the engine is rated at', () => {
    expect(doubts('stock 85 kW')).toEqual([]);
    expect(doubts('stock 140 kW')[0].code).toBe('BEYOND_RATED');
    expect(doubts('stock 30 kW')[0].code).toBe('BEYOND_RATED');
    // A point low on a curve is no top.
    expect(doubts('stock 30 kW at 1800')).toEqual([]);
  });
  it('what was measured since is told where it says otherwise', () => {
    const measured = [{ test: 7, gain: 1.9, lower: 0.9, upper: 3 }];
    expect(doubts('gain 4 %', measured)).toEqual([]);
    expect(doubts('stock 100 kW\ngain 12 kW', measured)[0]).toMatchObject({
      code: 'MEASURED_OTHERWISE',
      message: expect.stringContaining('test 7 measured 1.9 %') as string,
    });
    expect(doubts('gain 0.4 %', measured)[0].code).toBe('MEASURED_OTHERWISE');
    // Without a stock figure beside it a gain in hp is no share of anything.
    expect(doubts('gain 30 hp', measured)).toEqual([]);
  });
  it('two figures that follow from one another are never doubted, whatever they are', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 400, noNaN: true }),
        fc.integer({ min: 1000, max: 9000 }),
        fc.constantFrom('hp' as const, 'kW' as const, 'PS' as const),
        (torque, rpm, unit) => {
          const nm = Number(torque.toFixed(1));
          const watts = (nm * rpm * Math.PI) / 30;
          const power = Number((watts / { kW: 1000, hp: 745.69987, PS: 735.49875 }[unit]).toFixed(1));
          const figures: LegacyFigure[] = [
            { of: 'part', value: power, unit, rpm, within: 0.05 },
            { of: 'part', value: nm, unit: 'N·m', rpm, within: 0.05 },
          ];
          expect(figureDoubts(figures, RATED, [])).toEqual([]);
        },
      ),
    );
  });
});
