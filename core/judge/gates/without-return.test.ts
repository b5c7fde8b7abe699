import { describe, expect, it } from 'vitest';
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { OneWay } from '../../compare/one-way.ts';
import { designOf, runsOf } from '../../plan/design.ts';
import { told } from '../finding.ts';
import { controlVehicleGate } from './control-vehicle.ts';
import { designGate } from './design.ts';
import { mountingGate } from './mounting.ts';

const HELD: OneWay = {
  control: 'C',
  forGood: ['the crank is drilled'],
  gaps: [],
  moved: { difference: 0.2, limit: 1.1, own: { variance: 0.3, df: 10 } },
  unused: 0,
  day: { variance: 0.2, df: 8 },
};
/** Two mountings of each arm; only what the gates read. */
function contrast(oneWay: OneWay | null, lastRun = 3, difference = 0.1): AnalysedContrast {
  let order = 0;
  const pulls = (['A', 'A', 'B', 'B'] as const).flatMap((arm, mount) =>
    Array.from({ length: mount === 3 ? lastRun : 3 }, () => ({ arm, mount, counted: true, order: ++order })),
  );
  return {
    design: designOf(runsOf(pulls), 'A'),
    average: { parts: [] },
    result: { rule: 'pooled, guarded' },
    returned: { difference, limit: 0.5 },
    oneWay,
  } as unknown as AnalysedContrast;
}
const known = { mount: { variance: 0.4, df: 9 } };

describe('gates of a test without return', () => {
  it.each([
    ['caution', 'ONE_WAY_HELD', HELD, 3],
    ['fail', 'ONE_WAY_UNEQUAL', HELD, 2],
    ['fail', 'ONE_WAY_NOT_HELD', { ...HELD, gaps: ['check after the part'] }, 3],
    ['fail', 'ONE_WAY_CONTROL_MOVED', { ...HELD, moved: { ...HELD.moved!, difference: -1.3 } }, 3],
    ['fail', 'AB_REMOUNTED', null, 3],
  ] as const)('%s %s', (state, code, oneWay, lastRun) => {
    expect(designGate(contrast(oneWay, lastRun), 'none')).toMatchObject({ state, code });
  });

  it('say what cannot be undone and what the control vehicle did, and nowhere that the baseline returned', () => {
    const words = [designGate(contrast(HELD), 'none'), mountingGate(contrast(HELD), known)].map(
      (f) => told(f).message,
    );
    expect(words[0]).toContain('the crank is drilled');
    expect(words[0]).toContain('moved by +0.20 %');
    expect(words[1]).toContain('not measured again');
    expect(words.join(' ')).not.toMatch(/returned|closing/);
  });

  it('tell of checks that were made and are not the nearest', () => {
    const more = told(designGate(contrast({ ...HELD, unused: 2 }), 'none')).message;
    expect(more).toContain('2 more checks around the arms were made and not used');
    expect(told(designGate(contrast(HELD), 'none')).message).not.toContain('not used');
  });

  it('find mountings of the baseline that lie apart', () => {
    expect(mountingGate(contrast(HELD, 3, 0.9), known)).toMatchObject({
      state: 'caution',
      code: 'BASELINE_MOUNTINGS_APART',
    });
  });
});

describe('the control vehicle of the dyno', () => {
  it('says nothing where it is within limits and nothing was crossed out', () =>
    expect(controlVehicleGate({})).toEqual([]));
  it('fails out of its limits, and tells with their reasons the checks that were crossed out', () => {
    const found = controlVehicleGate({
      control: { control: 'C', when: 'after', off: -0.8, limit: 0.5 },
      setAside: [
        { control: 'C', what: 'crossed out', day: '2026-11-12', reason: 'Driven in the wrong gear.' },
        { control: 'D', what: 'begun anew', day: '2026-11-13', reason: 'New straps.' },
      ],
    });
    expect(found.map((f) => `${f.state} ${f.code}`)).toEqual([
      'fail CONTROL_OUT_OF_LIMITS',
      'caution CONTROL_SET_ASIDE',
    ]);
    expect(told(found[0]).message).toMatch(/first check after the session.*−0\.80 %.*±0\.50 %/);
    expect(told(found[1]).message).toMatch(
      /C, check of 2026-11-12 crossed out: Driven in the wrong gear; D, begun anew on 2026-11-13 while out of its limits: New straps\./,
    );
  });
});
