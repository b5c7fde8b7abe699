import { describe, expect, it } from 'vitest';
import { ONE_WAY_DAYS, oneWayRates } from './one-way-study.ts';

const SESSIONS = 1500;
const dayOf = (name: string) => ONE_WAY_DAYS.find((day) => day.name.includes(name))!;

describe('a comparison without return, simulated', () => {
  it.each(['nothing moves', 'SD of a day 0.6', 'dyno moves 1 lp', 'dyno moves 2 lp'])(
    'claims in few sessions what is not there: %s',
    (name) => {
      const { tooMuch } = oneWayRates(dayOf(name), 0, SESSIONS, 771);
      // 2.5 % asked; two and a half standard errors of so many sessions are one per cent.
      expect(tooMuch).toBeLessThan(3.5);
    },
  );
  it('shows a gain of 4 lp in most sessions in which the dyno stands still', () => {
    const { shown, held } = oneWayRates(dayOf('nothing moves'), 4, SESSIONS, 772);
    expect(shown).toBeGreaterThan(84);
    expect(held).toBeLessThan(8);
  });
  it('is kept back where the dyno has moved far', () => {
    expect(oneWayRates(dayOf('dyno moves 3 lp'), 0, SESSIONS, 773).held).toBeGreaterThan(85);
  });
});
