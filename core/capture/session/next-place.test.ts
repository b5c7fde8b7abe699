import { describe, expect, it } from 'vitest';
import { nextAction, type BenchStanding } from './next-action.ts';
import { departures, nextPlace, type DoneRecording, type SheetPull } from './next-place.ts';
import { stillMissing } from './still-missing.ts';

const place = (n: number, arm: string, more: Partial<SheetPull> = {}): SheetPull => ({
  id: `p${n}`,
  label: String(n),
  position: n,
  run: arm === 'stock' ? 1 : 2,
  arm,
  mount: 1,
  counted: true,
  settled: false,
  ...more,
});
const SHEET = [place(1, 'stock'), place(2, 'stock'), place(3, 'part'), place(4, 'part')];
const done = (order: number, pullId: string | null, more: Partial<DoneRecording> = {}): DoneRecording => ({
  id: `r${order}`,
  pullId,
  arm: SHEET.find((p) => p.id === pullId)?.arm ?? 'stock',
  state: 'complete',
  order,
  mounting: 1,
  ...more,
});

describe('the next place on the sheet', () => {
  it('is the first that is open; an aborted pull leaves its place open, a broken one does not', () => {
    expect(nextPlace(SHEET, [])!.id).toBe('p1');
    expect(nextPlace(SHEET, [done(1, 'p1', { state: 'aborted' })])!.id).toBe('p1');
    expect(nextPlace(SHEET, [done(1, 'p1', { state: 'incomplete' })])!.id).toBe('p2');
    expect(
      nextPlace(
        SHEET.map((p) => ({ ...p, settled: true })),
        [],
      ),
    ).toBeUndefined();
  });
});

describe('what departs from the sheet', () => {
  it('is nothing where all was done as planned', () => {
    expect(
      departures(
        SHEET,
        SHEET.map((p, i) => done(i + 1, p.id)),
      ),
    ).toEqual([]);
    expect(departures(SHEET, [done(1, 'p1')])).toEqual([]);
  });
  it('is told: another order, another arm, extra, aborted, strapped anew, passed over', () => {
    const kinds = (list: DoneRecording[]) => departures(SHEET, list).map((d) => d.kind);
    expect(kinds([done(1, 'p1'), done(2, 'p3'), done(3, 'p2')])).toEqual(['order']);
    expect(kinds([done(1, 'p1'), done(2, 'p3', { arm: 'stock' })])).toEqual(['other arm', 'not made']);
    expect(kinds([done(1, null)])).toEqual(['extra']);
    expect(kinds([done(1, 'p1', { state: 'aborted' }), done(2, 'p1')])).toEqual(['aborted']);
    expect(kinds([done(1, 'p1'), done(2, 'p2', { mounting: 2 })])).toEqual(['strapped anew']);
    const remount = [place(1, 'stock'), place(2, 'part', { mount: 2 })];
    expect(departures(remount, [done(1, 'p1'), done(2, 'p2', { arm: 'part' })])).toEqual([
      { kind: 'not strapped anew', label: '2' },
    ]);
  });
});

describe('what to do next', () => {
  const standing = (more: Partial<BenchStanding> = {}): BenchStanding => ({
    isOpen: true,
    unchecked: [],
    mountings: 1,
    onCar: 'stock',
    sheet: SHEET,
    recordings: [],
    coolDownMinutes: 4,
    warmUpCoolDownMinutes: 2,
    waits: [],
    now: 1_000_000,
    ...more,
  });
  const withEnd = (r: DoneRecording, endedAt: number) => ({ ...r, endedAt });
  it.each([
    ['open', standing({ isOpen: false })],
    ['check', standing({ unchecked: ['straps'] })],
    ['strap', standing({ mountings: 0 })],
    ['fit', standing({ onCar: 'part' })],
    ['fit', standing({ onCar: null })],
    ['ready', standing()],
    ['cool', standing({ waits: ['intake air'] })],
    ['cool', standing({ recordings: [withEnd(done(1, 'p1'), 900_000)] })],
    ['ready', standing({ recordings: [withEnd(done(1, 'p1'), 700_000)] })],
    ['running', standing({ recordings: [withEnd(done(1, 'p1', { state: 'running' }), 0)] })],
    ['done', standing({ recordings: SHEET.map((p, i) => withEnd(done(i + 1, p.id), 0)) })],
  ])('%s', (is, s) => expect(nextAction(s).is).toBe(is));
  it('counts the seconds down to the end of the cool-down, a shorter one before a warm-up pull', () => {
    const recordings = [withEnd(done(1, 'p1'), 900_000)];
    expect(nextAction(standing({ recordings }))).toMatchObject({ secondsLeft: 140 });
    const sheet = SHEET.map((p) => ({ ...p, counted: false }));
    expect(nextAction(standing({ recordings, sheet }))).toMatchObject({ secondsLeft: 20 });
  });
  it('asks for another strapping where the sheet plans one', () => {
    const sheet = [place(1, 'stock'), place(2, 'stock', { mount: 2 })];
    const recordings = [withEnd(done(1, 'p1'), 0)];
    expect(nextAction(standing({ sheet, recordings }))).toMatchObject({ is: 'strap', again: true });
    expect(nextAction(standing({ sheet, recordings, mountings: 2 })).is).toBe('ready');
  });
});

describe('what is still missing', () => {
  const missing = SHEET.map((p) => ({ ...p, hasFile: false, hasAir: false, excluded: false }));
  it('is told by kind, and nothing is once all is there', () => {
    expect(stillMissing(missing, [], [])).toEqual(['4 counted pulls are still to come: 1, 2, 3, 4.']);
    const there = missing.map((p) => ({ ...p, settled: true, hasFile: true, hasAir: p.id !== 'p2' }));
    expect(stillMissing(there, [], ['Pull 3'])).toEqual([
      'No air reading for 2.',
      'Channels or log missing: Pull 3.',
    ]);
    expect(
      stillMissing(
        there.map((p) => ({ ...p, hasAir: true })),
        [],
        [],
      ),
    ).toEqual([]);
    expect(stillMissing(missing, [done(1, 'p1', { state: 'incomplete' })], [])[0]).toBe(
      'A recording is not whole: 1.',
    );
  });
});
