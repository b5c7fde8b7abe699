import { describe, expect, it } from 'vitest';
import type { TogetherShown } from '../../contract/compare/together.ts';
import { html, text } from '../__tests__/rendered.tsx';
import { BetweenDays } from '../register/repeatability.tsx';
import { Forest } from './forest.tsx';
import { TogetherTable } from './together.tsx';

const gain = (middle: number, half: number) => ({ gain: middle, lower: middle - half, upper: middle + half });
const session = (number: number, vehicle: string, middle: number, left: string | null = null) => ({
  testId: `id-${number}`,
  number,
  vehicle,
  dyno: 'Cell 1',
  at: '2026-05-04T10:00:00.000Z',
  gain: gain(middle, 1),
  left,
});
const SHOWN: TogetherShown = {
  sessions: [
    session(11, 'SV-1', 3),
    session(14, 'SV-1', 4),
    session(15, 'SV-2', 2),
    session(16, 'SV-3', 9, 'a gate fails'),
  ],
  vehicles: [
    { vehicle: 'SV-1', tests: [11, 14], gain: gain(3.5, 0.9), disagree: true },
    { vehicle: 'SV-2', tests: [15], gain: gain(2, 1), disagree: null },
  ],
  grade: 'two vehicles',
  mean: gain(2.7, 9),
  another: null,
  differ: { share: 20, chance: 0.4 },
  day: { sd: 0.6, registered: false },
};

describe('all tests of a part', () => {
  it('names every session, what is left out and why, and says no more than two vehicles allow', () => {
    const shown = text(<TogetherTable shown={SHOWN} testId="id-11" />);
    for (const words of [
      'Test 11, this one',
      'Test 16 : SV-3',
      'not put together: a gate fails',
      'never for how they came out',
      'one degree of freedom and says little',
      'Days are taken to differ by 0.6 %, until enough repeats are registered',
    ])
      expect(shown).toContain(words);
    expect(shown).not.toContain('Another vehicle is expected');
  });
  it('tells where another vehicle is expected from three on, and that they are few', () => {
    const three = {
      ...SHOWN,
      grade: 'fleet' as const,
      vehicles: [...SHOWN.vehicles, { vehicle: 'SV-4', tests: [17], gain: gain(3, 1), disagree: null }],
      another: { lower: -0.4, upper: 6.1 },
    };
    expect(text(<TogetherTable shown={three} testId="id-11" />)).toContain(
      'Another vehicle is expected between −0.4 and +6.1 %, from few vehicles',
    );
  });
  it('is drawn with single sessions under their vehicle, in words for those who hear it', () => {
    const markup = html(
      <Forest
        rows={[
          { label: 'SV-1', gain: gain(3, 1), kind: 'vehicle' },
          { label: 'test 11', gain: gain(-3, 1), kind: 'session' },
          { label: 'mean', gain: gain(1, 0.5), kind: 'mean' },
        ]}
      />,
    );
    expect(markup).toContain('aria-label="SV-1: +3.0 %, +2.0 to +4.0; test 11: −3.0 %');
    expect(markup).toContain('var(--loss)');
  });
});

describe('gains from day to day', () => {
  const days = {
    registered: false,
    repeats: 2,
    variance: 0.09,
    df: 1.2,
    tests: [
      [3, 9],
      [4, 12],
    ],
  };
  it('are taken until enough parts were repeated, and told with the tests they come from', () => {
    expect(text(<BetweenDays days={null} />)).toContain('taken to differ by 0.6 % from day to day');
    expect(text(<BetweenDays days={days} />)).toContain(
      '2 repeated sessions (tests 3 and 9; 4 and 12); from 6 on',
    );
    expect(text(<BetweenDays days={{ ...days, registered: true, repeats: 7 }} />)).toContain(
      'Gains differ by 0.30 % from day to day, by 7 repeated sessions',
    );
  });
});
