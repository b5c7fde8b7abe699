import type { GateName } from '../../core/judge/finding.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { madeDetail } from '../__tests__/made.ts';
import { attributes, html, text } from '../__tests__/rendered.tsx';
import type { Role } from '../../contract/base/roles.ts';
import { ASSUMED } from '../../core/plan/sample-size.ts';
import type { ContrastResult } from '../../core/compare/result.ts';
import { api } from '../base/api.ts';
import { store } from '../base/store.ts';
import { Mending } from './mending.tsx';

const contrast = (gain: number): ContrastResult =>
  ({
    relative: { bandAverage: { gain }, upTo: { largestMeanGain: gain } },
    power: { peakToPeak: { gainPct: gain } },
  }) as never;
const detail = madeDetail({
  plan: {
    metrics: ['bandAverage'],
    warmUps: 3,
    coolDownMinutes: 4,
    confidence: 0.95,
    order: ['stock', 'part'],
    hours: null,
  },
});
const mending = (gain: number, failing: readonly GateName[] = []) => (
  <Mending detail={detail} contrast={contrast(gain)} failing={failing} />
);
const shown = (gain: number): string => text(mending(gain));
const signedInAs = (role: Role) => {
  const person = { id: 'p', name: 'Maren Holt', email: '', role, clearance: true };
  return store.dispatch(api.util.upsertQueryData('session', undefined, { person, demo: true }));
};

beforeAll(() => signedInAs('test manager'));
afterAll(() => {
  store.dispatch(api.util.resetApiState());
});

describe('what would decide a test', () => {
  it('says how many pulls for which chance, and leads to that plan', () => {
    const told = shown(1.5);
    expect(told).toMatch(/80 % chance: A-B-(B-)?A, \d+ pulls a run, one mounting \d+ pulls driven, \d\.\d h/);
    expect(told).toMatch(/90 % chance/);
    const [link] = attributes(html(mending(1.5)), 'href');
    const asked = new URLSearchParams(link.split('?')[1].replaceAll('&amp;', '&'));
    expect(asked.get('like')).toBe(detail.summary.id);
    expect(told).toContain(`${asked.get('order')}, ${asked.get('pulls')} pulls a run`);
  });
  it('asks for another vehicle where the part stays on this one', () => {
    const stays = madeDetail({ plan: { ...detail.plan, protocol: 'one-way' } });
    const told = text(<Mending detail={stays} contrast={contrast(1.5)} failing={[]} />);
    expect(told).toContain('Another vehicle of the fitment, measured stock before its own install');
    expect(told).not.toMatch(/A-B-A|chance/);
  });
  it('offers other mountings and two days, each as a plan of its own', () => {
    const told = shown(6);
    expect(told).toContain('Other ways with 90 %');
    const links = attributes(html(mending(6)), 'href').map((link) => link.replaceAll('&amp;', '&'));
    expect(links.some((link) => link.includes('remount=yes'))).toBe(true);
    expect(links.some((link) => link.includes('days=2'))).toBe(true);
  });
  it('tells one session that has both chances once', () => {
    expect(shown(20)).toContain('80 and 90 % chance: A-B-A, 3 pulls a run');
  });
  it('names the gates that a session like it would fail again', () => {
    expect(text(mending(1.5, ['factor', 'design', 'repeats', 'factor']))).toContain(
      'More pulls alone do not mend: factor.',
    );
    expect(text(mending(1.5, ['design', 'repeats']))).not.toContain('do not mend');
  });
  it('where no session of twelve pulls a run would show it says so, and plans nothing', () => {
    // A tenth of a pull’s scatter.
    const small = 0.1 * Math.sqrt(ASSUMED.bandAverage);
    for (const gain of [small, 0, -2]) expect(shown(gain)).toContain('No session of up to 12 pulls a run');
    expect(html(mending(0))).not.toContain('href');
  });
  it('is planned by the test manager; others read it', async () => {
    await signedInAs('reviewer');
    expect(html(mending(1.5))).not.toContain('href');
    expect(shown(1.5)).toContain('% chance');
    await signedInAs('test manager');
  });
});
