import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { doubtsInWords, figuresInSentence, type MeasuredCurves } from './figures-in-words.ts';

const codes = (text: string, measured?: MeasuredCurves) => doubtsInWords(text, measured).map((d) => d.code);
/** Power of a torque at a speed by the definition of the horsepower, 550 ft·lbf/s (NIST SP 811): hp = lb·ft × rpm / 5252. */
const hpOf = (lbft: number, rpm: number): number => (lbft * 2 * Math.PI * rpm) / 60 / 550;

describe('figures in a sentence', () => {
  it.each([
    ['Stock made 131 hp at 5600 rpm, the part 137.5 bhp at 5,700.', 'stock 131 hp 5600; part 137.5 hp 5700'],
    ['from 131 hp to 138 hp, +7 hp', 'stock 131 hp -; part 138 hp -; gain 7 hp -'],
    ['It gained about 12 Nm at 3 000 rpm', 'gain 12 N·m 3000'],
    ['it lost 3,5 kW', 'gain -3.5 kW -'],
    ['155 lb-ft and 131 hp at 4400 rpm', 'part 155 lb·ft 4400; part 131 hp 4400'],
    ['−2 % at 2500', 'gain -2 % 2500'],
    ['5 hp more at 4000 rpm', 'gain 5 hp 4000'],
  ])('%s', (text, expected) => {
    const shown = figuresInSentence(text).map((f) => `${f.of} ${f.value} ${f.unit} ${f.rpm ?? '-'}`);
    expect(shown.join('; ')).toBe(expected);
  });
  it.each([
    'Humidity was 43 %, throttle at 100 %, pull 12 of 16.',
    'Strapped with 2.5 kN, 20 °C, 1013 hPa, 95 octane, fan at 1500 rpm.',
    'Limits of 3.2–6.1 kW were read out by phone.',
    'Part HP-20 was fitted at 14:30; bolts to the torque of the book.',
  ])('nothing is read into %s', (text) => expect(figuresInSentence(text)).toEqual([]));
  it('a height is no engine speed', () => {
    expect(figuresInSentence('131 hp at 400 m above the sea')[0].rpm).toBeNull();
  });
});

describe('figures that do not agree with each other', () => {
  it('power and torque at one speed, true and false', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 80, max: 500 }),
        fc.integer({ min: 1500, max: 7500 }),
        fc.boolean(),
        (lbft, rpm, right) => {
          const hp = hpOf(lbft, rpm) * (right ? 1 : 1.07);
          const text = `On the day it read ${hp.toFixed(1)} hp and ${lbft} lb·ft at ${rpm} rpm.`;
          expect(codes(text)).toEqual(right ? [] : ['POWER_IS_NOT_TORQUE']);
        },
      ),
    );
  });
  it('two sentences are two things', () => {
    expect(codes('It made 131 hp at 4000 rpm. Another car made 131 N·m at 4000 rpm.')).toEqual([]);
    expect(codes('It made 131 hp at 4000 rpm, and 131 N·m at 4000 rpm.')).toEqual(['POWER_IS_NOT_TORQUE']);
  });
  it('a gain is the difference of what stands beside it', () => {
    expect(codes('from 131 hp to 138 hp, +7 hp')).toEqual([]);
    expect(codes('from 131 hp to 138 hp, +12 hp')).toEqual(['NOT_THE_DIFFERENCE']);
  });
  it('a speed that no engine of a road car turns', () => {
    expect(codes('131 hp at 56000 rpm')).toEqual(['NO_SUCH_SPEED']);
  });
  it('no text throws', () => {
    fc.assert(fc.property(fc.string({ maxLength: 400 }), (text) => Array.isArray(doubtsInWords(text))));
    const pieces = fc.constantFrom(
      '131',
      ' ',
      'hp',
      'at',
      '+',
      '4000',
      'rpm',
      'from',
      'to',
      '.',
      'N·m',
      '%',
      '–',
    );
    fc.assert(fc.property(fc.array(pieces, { maxLength: 60 }), (all) => Array.isArray(codes(all.join('')))));
  });
});

describe('figures beside what was measured', () => {
  const speeds = [3000, 3500, 4000, 4500, 5000];
  const at = (rpm: number, stock: number, gain: number) => ({
    rpm,
    against: stock,
    arm: stock + gain,
    lower: gain - 1,
    upper: gain + 1,
  });
  const measured: MeasuredCurves = {
    power: speeds.map((rpm) => at(rpm, rpm / 50, rpm === 4000 ? 5 : 2)),
    torque: speeds.map((rpm) => at(rpm, 191, 4)),
    percent: speeds.map((rpm) => at(rpm, 100, 3)),
  };
  it.each([
    ['We saw +5 kW at 4000 rpm.', []],
    ['We saw +15 hp at 4000 rpm.', ['MEASURED_OTHERWISE']],
    ['It adds 9 kW somewhere.', ['MEASURED_OTHERWISE']],
    ['It adds 5 kW somewhere.', []],
    ['+3.5 % all over', []],
    ['+8 % all over', ['MEASURED_OTHERWISE']],
    ['+5 kW at 6500 rpm', ['MEASURED_OTHERWISE']],
    ['Stock read 80 kW at 4000 rpm.', []],
    ['Stock read 110 hp at 4000 rpm.', []],
    ['Stock read 96 kW at 4000 rpm.', ['MEASURED_OTHERWISE']],
    ['The part read 141 lb·ft at 3500 rpm.', []],
  ])('%s', (text, expected) => expect(codes(text, measured)).toEqual(expected));
  it('names an arm only where the words do', () => {
    expect(doubtsInWords('It made 131 hp and 131 N·m at 4000 rpm.')[0].message).toMatch(/^131 hp at 4000/);
    expect(doubtsInWords('The part made 131 hp and 131 N·m at 4000 rpm.')[0].message).toMatch(/^part 131 hp/);
    expect(doubtsInWords('Stock made 131 hp and 131 N·m at 4000 rpm.')[0].message).toMatch(/^stock 131 hp/);
  });
  it('is said in the unit that was written', () => {
    const [doubt] = doubtsInWords('We saw +15 hp at 4000 rpm.', measured);
    expect(doubt.message).toMatch(
      /supports \+5\.4 to \+8\.0 hp there, at the wheel and corrected as planned/,
    );
    const loss = { rpm: 4000, lower: -3, upper: -1, arm: 98, against: 100 };
    const [other] = doubtsInWords('We saw +5 kW at 4000 rpm.', { power: [loss], torque: [], percent: [] });
    expect(other.message).toMatch(/supports −3\.0 to −1\.0 kW/);
  });
});
