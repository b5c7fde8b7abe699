import { describe, expect, it } from 'vitest';
import type { Dyno } from '../../contract/register/register.ts';
import { html, text } from '../__tests__/rendered.tsx';
import { DynoFacts } from './dyno-facts.tsx';
import { ScatterTable } from './repeatability.tsx';
import { Facts } from './layout.tsx';

const dyno = (change: Partial<Dyno> = {}): Dyno =>
  ({
    id: 'd',
    version: 1,
    name: 'Cell 1',
    site: 'Skerry & Vale, coast',
    kind: 'loaded roller',
    drive: 'two-wheel',
    cell: 'enclosed',
    fan: '',
    samplingHz: null,
    siteHeightM: 8,
    appliesStandard: 'none',
    lastCalibratedOn: null,
    rollerRadiusM: null,
    driftBound: null,
    repeatability: {},
    opening: [],
    timeZone: 'Europe/Oslo',
    hourlyRate: 140,
    labourRate: 85,
    currency: 'EUR',
    ...change,
  }) as unknown as Dyno;

describe('a dyno', () => {
  it('what nobody entered is said, not left blank and not made up', () => {
    const shown = text(<DynoFacts dyno={dyno()} />);
    for (const row of [
      'Fan not entered',
      'Samples not entered',
      'Last calibrated not entered',
      'Radius of the roller not on record',
      'Drift bound house policy',
      'Open no hours entered: nothing can be placed',
    ])
      expect(shown).toContain(row);
  });
  it('what was entered has its unit', () => {
    const shown = text(
      <DynoFacts
        dyno={dyno({
          fan: 'duct fan, 60 km/h',
          samplingHz: 50,
          rollerRadiusM: 0.25,
          driftBound: 0.3,
          lastCalibratedOn: '2026-09-14',
          opening: [{ day: 1, from: '08:00', to: '16:30' }],
        })}
      />,
    );
    for (const row of [
      'Fan duct fan, 60 km/h',
      'Samples 50 a second',
      'Radius of the roller 0.25 m',
      'Drift bound 0.3 % a pull',
      'Last calibrated 14 Sep 2026',
      'Monday 08:00 to 16:30',
      '140 EUR a dyno hour, 85 labour',
    ])
      expect(shown).toContain(row);
  });
  it('tells its scatter as a standard deviation, and each source that is not known', () => {
    const shown = text(
      <ScatterTable
        own={{
          curve: { variance: 0.25, df: 8 },
          bandAverage: { variance: 0.16, df: 9 },
          peak: { variance: 0.2, df: 9 },
          sessions: 6,
          dfTotal: 36,
        }}
        dyno={dyno({
          repeatability: { curve: { variance: 0.36, df: 10 }, mount: { variance: 0.405, df: 9.3 } },
        })}
      />,
    );
    expect(shown).toContain('0.60 % 10.0 0.50 % (8.0)');
    expect(shown).toContain('not registered 0.40 % (9.0)');
    expect(shown).toContain('0.64 % 9.3');
    expect(shown.match(/not registered/g)!.length).toBeGreaterThanOrEqual(2);
  });
});

it('facts are a list of terms and what they are', () => {
  const markup = html(
    <Facts
      rows={[
        ['Weight', '0.6 kg'],
        ['Price', '89.00 EUR'],
      ]}
    />,
  );
  expect(markup.match(/<dt/g)).toHaveLength(2);
  expect(text(<Facts rows={[['Weight', '0.6 kg']]} />)).toBe('Weight 0.6 kg');
});
