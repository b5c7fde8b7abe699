import { describe, expect, it } from 'vitest';
import '../../__tests__/rendered.tsx';
import type { WatchedBench } from '../../../contract/correct/bench-watch.ts';
import type { TestDetail } from '../../../contract/overview.ts';
import { departureText } from '../../../core/capture/session/departure-words.ts';
import { NOTHING_HEARD, type Live } from './live.ts';
import { entryWords } from './session-log.tsx';
import { airNow, heldNow, liveValue, standingOf } from './standing.ts';

const link = (kind: 'dyno' | 'station' | 'logger', channels: [string, string][], connected = true) => ({
  kind,
  name: kind,
  connected,
  problem: null,
  begins: true,
  channels: channels.map(([name, unit]) => ({ name, unit })),
  clockOffMs: 0,
  faults: [],
});
const bench = (more: Partial<WatchedBench> = {}): WatchedBench => ({
  devices: [],
  linked: true,
  links: [],
  session: {
    id: 's',
    number: 1,
    day: '2026-11-24',
    openedAt: '2026-11-24T09:00:00Z',
    openedBy: 'somebody',
    closedAt: null,
    closingNote: null,
  },
  mountings: [{ number: 1, at: '2026-11-24T09:05:00Z', by: 'somebody', note: '' }],
  recordings: [],
  entries: [],
  now: '2026-11-24T10:00:00Z',
  rpm: [],
  notices: [],
  spread: null,
  historySd: null,
  missing: [],
  departures: [],
  ...more,
});
const pull = (n: number, arm: string, more: object = {}) => ({
  id: `p${n}`,
  label: `p${n}`,
  position: n,
  run: arm === 'stock' ? 1 : 2,
  arm,
  mount: 1,
  counted: true,
  file: null,
  excluded: null,
  ...more,
});
const detail = (controls: TestDetail['plan']['controls'] = [], pulls = [pull(1, 'stock'), pull(2, 'part')]) =>
  ({
    plan: { controls, coolDownMinutes: 4 },
    arms: [
      { key: 'stock', label: 'stock' },
      { key: 'part', label: 'Long runner intake' },
    ],
    pulls,
  }) as unknown as TestDetail;
const checks = ['straps', 'tyres', 'extraction', 'fan', 'hearing', 'clear', 'hot', 'fuel'].map(
  (check, k) => ({
    id: `c${k}`,
    pullId: null,
    recordingId: null,
    body: { kind: 'checked', check },
    saidAt: '2026-11-24T09:01:00Z',
    by: 'somebody',
  }),
) as WatchedBench['entries'];
const fitted = (arm: string) => ({
  id: `f-${arm}`,
  pullId: null,
  recordingId: null,
  body: { kind: 'fitted' as const, arm, minutes: null, difficulty: null, tools: '', broke: '', renewed: '' },
  saidAt: '2026-11-24T09:10:00Z',
});
const NOW = Date.parse('2026-11-24T10:00:00Z');

describe('where a session stands', () => {
  it('counts what this device has not sent yet as written, once', () => {
    const waiting = [fitted('stock')];
    const there = bench({ entries: [...checks] });
    const before = standingOf(detail(), there, NOTHING_HEARD, [], NOW);
    expect(before.action).toMatchObject({ is: 'fit', arm: 'stock' });
    const with1 = standingOf(detail(), there, NOTHING_HEARD, waiting, NOW);
    expect(with1.action.is).toBe('ready');
    expect(with1.written.filter((w) => w.waits)).toHaveLength(1);
    // It has arrived, and still waits here for the answer.
    const arrived = bench({ entries: [...checks, { ...waiting[0], by: 'somebody' }] });
    expect(standingOf(detail(), arrived, NOTHING_HEARD, waiting, NOW).written.filter((w) => w.waits)).toEqual(
      [],
    );
  });
  it('asks for the other arm once the pulls of the first are there, and calls it by its name', () => {
    const there = bench({ entries: [...checks, { ...fitted('stock'), by: 'somebody' }] });
    const half = detail([], [pull(1, 'stock', { file: { name: 'a' } }), pull(2, 'part')]);
    const { action } = standingOf(half, there, NOTHING_HEARD, [], NOW);
    expect(action).toMatchObject({ is: 'fit', arm: 'part', next: { armLabel: 'Long runner intake' } });
  });
});

describe('what is held equal', () => {
  const live: Live = { values: { logger: [3.2, 122, 95], station: [68, 29.53, 45] }, pull: null };
  const logger = link('logger', [
    ['Time', 's'],
    ['Intake air temp', '°F'],
    ['Oil temp', '°C'],
  ]);
  const control = (quantity: string, target: number | null, tolerance: number, unit = '°C') => ({
    quantity,
    target,
    tolerance,
    unit,
  });
  it('is read from whichever device says it, in whatever unit', () => {
    const there = bench({ links: [logger] });
    expect(liveValue(there, live, 'intakeAirTemperature')).toBeCloseTo(50, 9);
    expect(liveValue(there, live, 'coolantTemperature')).toBeNull();
    const away = bench({ links: [{ ...logger, connected: false }] });
    expect(liveValue(away, live, 'intakeAirTemperature')).toBeNull();
  });
  it('waits where it is off, is shown where nothing is asked, and stays as last written by hand', () => {
    const written = [
      {
        id: 'h',
        body: { kind: 'held' as const, quantity: 'tyre pressure', value: 2.38, unit: 'bar' },
        saidAt: '',
        by: null,
        pullId: null,
        recordingId: null,
        waits: false,
      },
    ];
    const plan = detail([control('intake air at start', 30, 3), control('tyre pressure', 2.4, 0.1, 'bar')]);
    expect(heldNow(plan, bench({ links: [logger] }), live, written)).toMatchObject([
      { quantity: 'intake air at start', from: 'live', fits: false },
      { quantity: 'tyre pressure', value: 2.38, from: 'written', fits: true },
      { quantity: 'oil temperature', value: 95, from: 'live', fits: null },
    ]);
  });
  it('has the air of a station that says what kind of pressure it reads, and of no other', () => {
    const named = (pressure: string) =>
      bench({
        links: [
          link('station', [
            ['Temp', '°F'],
            [pressure, 'inHg'],
            ['Humidity', '%'],
          ]),
        ],
      });
    expect(airNow(named('Station pressure'), live)).toMatchObject({ pressureKind: 'station' });
    expect(airNow(named('Station pressure'), live)!.temperatureC).toBeCloseTo(20, 9);
    expect(airNow(named('Pressure'), live)).toBeUndefined();
  });
});

describe('the record in words', () => {
  const label = (key: string) => (key === 'part' ? 'Long runner intake' : key);
  it('names arms as people do', () => {
    expect(entryWords(fitted('part').body, label)).toBe('on the car: Long runner intake');
    const d = { kind: 'other arm' as const, label: 'p4', arm: 'stock', planned: 'part' };
    expect(departureText(d, label)).toBe(
      'p4 was made with stock on the car, planned with Long runner intake',
    );
  });
  it.each([
    [{ kind: 'sound', db: 96, rpm: 3500, place: '0.5 m, 45°' }, '96 dB(A) at 3500 rpm, 0.5 m, 45°'],
    [{ kind: 'surface', part: 'heat shield', temperatureC: 180 }, 'heat shield 180 °C'],
    [{ kind: 'fuel', ethanolPct: 9.5, batch: 'tank 2' }, 'fuel: 9.5 % ethanol, tank 2'],
    [{ kind: 'held', quantity: 'tyre pressure', value: 2.4, unit: 'bar' }, 'tyre pressure 2.4 bar'],
  ] as const)('%o', (body, words) => expect(entryWords(body)).toBe(words));
});
