import { describe, expect, it } from 'vitest';
import {
  warmingExtras,
  type RecordedPull,
  type SessionRecord,
} from '../../capture/session/session-record.ts';
import { asDoneGates } from './as-done.ts';

const record = (more: Partial<SessionRecord> = {}): SessionRecord => ({
  departures: [],
  changes: [],
  renewed: [],
  ...more,
});
const states = (done: SessionRecord | undefined) =>
  asDoneGates(done).map((f) => `${f.gate} ${f.state} ${f.code}`);

describe('what was done outranks what was planned', () => {
  it('says nothing of a test whose pulls came as files', () => expect(asDoneGates(undefined)).toEqual([]));
  it('passes a session run by its sheet', () =>
    expect(states(record())).toEqual(['as planned pass DONE_AS_PLANNED', 'same setting pass SETTING_KEPT']));
  it('bears another order, and tells it', () => {
    const done = record({ departures: [{ kind: 'order', label: 'p3', before: 'p5' }] });
    expect(states(done)[0]).toBe('as planned caution DONE_OTHERWISE');
    expect(asDoneGates(done)[0].words().message).toContain('p3 was made after p5');
  });
  it('fails a pull made with the other arm on the car', () => {
    const done = record({ departures: [{ kind: 'other arm', label: 'p4', arm: 'stock', planned: 'part' }] });
    expect(states(done)[0]).toBe('as planned fail OTHER_ARM_ON_CAR');
  });
  it.each([
    ['hood', 'fail SETTING_CHANGED'],
    ['fan', 'fail SETTING_CHANGED'],
    ['tyre pressure', 'fail SETTING_CHANGED'],
    ['refuelled', 'caution SETTING_TOUCHED'],
  ])('%s between counted pulls: %s; before the first it is nothing', (what, wanted) => {
    const change = (amongCounted: boolean) => record({ changes: [{ what, text: 'as said', amongCounted }] });
    expect(states(change(true))).toContain(`same setting ${wanted}`);
    expect(states(change(false))).toContain('same setting pass SETTING_KEPT');
  });
  it('fails a file from elsewhere in the place of a recording', () =>
    expect(states(record({ replaced: ['p3'] }))[0]).toBe('as planned fail REPLACED_RECORDING'));
  it('tells what else was renewed with the part', () => {
    const done = record({ renewed: [{ arm: 'part', text: 'air filter' }] });
    expect(asDoneGates(done).at(-1)!.words().message).toContain('air filter');
  });
});

describe('extra pulls', () => {
  const pull = (order: number, more: Partial<RecordedPull> = {}): RecordedPull => ({
    pullId: `p${order}`,
    arm: 'stock',
    order,
    mount: 'm1',
    counted: true,
    ...more,
  });
  const extra = (order: number, more: Partial<RecordedPull> = {}) =>
    pull(order, { pullId: null, counted: false, ...more });
  it('before the first counted one of a run warm it up; among counted ones they do not', () => {
    const all = [extra(1), pull(2), extra(3), pull(4), extra(5, { arm: 'part' }), pull(6, { arm: 'part' })];
    expect(warmingExtras(all).map((r) => r.order)).toEqual([1, 5]);
  });
  it('after another strapping begin anew', () => {
    expect(
      warmingExtras([pull(1), extra(2, { mount: 'm2' }), pull(3, { mount: 'm2' })]).map((r) => r.order),
    ).toEqual([2]);
  });
});
