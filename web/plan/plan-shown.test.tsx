import { describe, expect, it } from 'vitest';
import { madeArm, madeDetail } from '../__tests__/made.ts';
import { html, text } from '../__tests__/rendered.tsx';
import { api } from '../base/api.ts';
import { store } from '../base/store.ts';
import { Amendments } from './amendments.tsx';
import { PlanArms } from './plan-arms.tsx';
import { PlanFacts } from './plan-facts.tsx';

describe('the arms of a plan', () => {
  it('a baseline that is stock says so; one that is not says what it is, and that the claim will', () => {
    expect(text(<PlanArms arms={[madeArm('stock', { scope: 'yes' })]} />)).toContain(
      'stock baseline ● stock',
    );
    const other = text(
      <PlanArms arms={[madeArm('stock', { scope: 'no', scopeText: 'Front pipe fitted since 3 Nov' })]} />,
    );
    expect(other).toContain('◐ Front pipe fitted since 3 Nov');
    expect(other).toContain('The claim will say what the part was measured against.');
    expect(text(<PlanArms arms={[madeArm('stock', { scope: 'not known' })]} />)).toContain(
      '◐ not known to be stock',
    );
  });
  it('an arm tells what it changes, and a combination is marked', () => {
    const arms = [
      madeArm('stock'),
      madeArm('part', {
        label: 'Stage one',
        from: 'stock',
        scope: 'combination',
        scopeText: 'Part and calibration differ.',
        differences: [{ subject: 'intake', from: 'stock', to: 'Cold-side intake, revision A' }] as never,
      }),
    ];
    const shown = text(<PlanArms arms={arms} />);
    expect(shown).toContain('Stage one on stock');
    expect(shown).toContain('intake: stock → Cold-side intake, revision A');
    expect(shown).toContain('◐ combination Part and calibration differ.');
    const alone = [arms[0], { ...arms[1], scope: 'part alone' }];
    expect(text(<PlanArms arms={alone} />)).toContain('● part alone');
  });
});

describe('what a plan fixes', () => {
  const rows = (change: Parameters<typeof madeDetail>[0] = {}) =>
    text(<PlanFacts detail={madeDetail(change)} />);
  it('says window, standard and confidence in words', () => {
    expect(rows()).toContain('Rpm range 2\u202f500 to 6\u202f500 rpm, every 50');
    expect(rows()).toContain('Standard SAE J1349');
    expect(rows()).toContain('95 % for the whole curve');
    expect(rows()).not.toContain('shared by all that is named');
  });
  it('says when the confidence is shared: by several metrics, or several arms', () => {
    expect(rows({ plan: { metrics: ['upTo', 'bandAverage'] } })).toContain('shared by all that is named');
    expect(rows({ arms: [madeArm('stock'), madeArm('a'), madeArm('b')] })).toContain(
      'shared by all that is named',
    );
  });
  it('leaves out what is not said', () => {
    for (const name of ['Held equal', 'Logs', 'Photographs', 'Time', 'Assigned to'])
      expect(rows()).not.toContain(name);
    const said = rows({
      plan: {
        controls: [
          { quantity: 'oil temperature', target: 90, tolerance: 3, unit: '°C' },
          { quantity: 'tyre pressure', target: null, tolerance: 0.1, unit: 'bar' },
        ],
        logs: ['lambda'],
        partner: 'Fell Road Garage',
        hours: { dynoHours: 3, offDynoHours: 0.9, cost: 497 } as never,
      },
    });
    expect(said).toContain('oil temperature 90 ± 3 °C; tyre pressure equal ± 0.1 bar');
    expect(said).toContain('3.0 dyno hours, 0.9 h off the rollers; 497 EUR');
    expect(said).toContain('Assigned to Fell Road Garage');
  });
  it('leads to the calendar, to the day where there is one, and only those who may open it', async () => {
    expect(html(<PlanFacts detail={madeDetail()} />)).not.toContain('href="/schedule');
    const person = { id: 'p', name: 'Maren Holt', email: '', role: 'test manager' as const, clearance: true };
    await store.dispatch(api.util.upsertQueryData('session', undefined, { person, demo: true }));
    expect(html(<PlanFacts detail={madeDetail()} />)).toContain('href="/schedule"');
    const placed = madeDetail({ booking: { start: '2026-11-26T08:00:00Z', end: '2026-11-26T11:00:00Z' } });
    expect(html(<PlanFacts detail={placed} />)).toContain('href="/schedule?from=2026-11-26"');
  });
});

it('an amendment says what was changed, by whom and why, and leads to its version of the plan', () => {
  const amendments = [
    {
      number: 1,
      at: '2026-11-25T22:32:00Z',
      person: 'Maren Holt',
      reason: 'The limiter comes in earlier.',
      planHash: 'f'.repeat(64),
      changes: [{ field: 'band' as const, from: '2000 to 5800 rpm', to: '2000 to 5600 rpm' }],
    },
  ];
  const shown = html(<Amendments testId="the-test" amendments={amendments} />);
  expect(shown).toContain('href="/api/tests/the-test/plan-versions/2"');
  expect(text(<Amendments testId="the-test" amendments={amendments} />)).toContain(
    'rpm range: 2000 to 5800 rpm 2000 to 5600 rpm The limiter comes in earlier.',
  );
});
