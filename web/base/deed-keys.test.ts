import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createDeedKeys, deedOf } from './deed-keys.ts';

function tab() {
  const kept = new Map<string, string>();
  const store = {
    getItem: (name: string) => kept.get(name) ?? null,
    setItem: (name: string, value: string) => void kept.set(name, value),
  };
  const clock = { now: 0, made: 0 };
  const open = () =>
    createDeedKeys(
      store,
      () => clock.now,
      () => `key ${(clock.made += 1)}`,
    );
  return { open, clock, kept };
}

describe('the key of a deed', () => {
  it('is one for two clicks, and a new one when the deed is meant again', () => {
    const keys = tab().open();
    const first = keys.begin('a');
    expect(keys.begin('a')).toBe(first);
    keys.end('a', true);
    keys.end('a', true);
    expect(keys.begin('a')).not.toBe(first);
  });
  it('stays when no answer came, through a reload, for ten minutes', () => {
    const { open, clock } = tab();
    const keys = open();
    const first = keys.begin('a');
    keys.end('a', false);
    expect(keys.begin('a')).toBe(first);
    // The page is left while it is under way.
    const reloaded = open();
    expect(reloaded.begin('a')).toBe(first);
    reloaded.end('a', false);
    clock.now += 11 * 60 * 1000;
    expect(reloaded.begin('a')).not.toBe(first);
  });
  it('is given up when something else was done since: removed and placed again is a new deed', () => {
    const keys = tab().open();
    const first = keys.begin('place');
    keys.end('place', false);
    keys.begin('remove');
    keys.end('remove', true);
    expect(keys.begin('place')).not.toBe(first);
  });
  it('outlives a store that holds nonsense or is full', () => {
    const { open, kept } = tab();
    kept.set('evidentia-deeds', 'nonsense');
    expect(open().begin('a')).toBe('key 1');
    const full = createDeedKeys(
      {
        getItem: () => null,
        setItem: () => {
          throw new Error('full');
        },
      },
      () => 0,
      () => 'key',
    );
    expect(full.begin('a')).toBe('key');
  });
  it('never serves two deeds', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.constantFrom('begin', 'told', 'lost'))),
        (steps) => {
          const keys = tab().open();
          const owner = new Map<string, string>();
          for (const [deed, step] of steps) {
            if (step !== 'begin') {
              keys.end(deed, step === 'told');
              continue;
            }
            const key = keys.begin(deed);
            expect(owner.get(key) ?? deed).toBe(deed);
            owner.set(key, deed);
          }
        },
      ),
    ));
});

it('deeds differ by address, content and file', () => {
  const file = (text: string, lastModified: number) => new File([text], 'a.csv', { lastModified });
  const all = [
    deedOf('POST', '/a', { x: 1 }),
    deedOf('PUT', '/a', { x: 1 }),
    deedOf('POST', '/b', { x: 1 }),
    deedOf('POST', '/a', { x: 2 }),
    deedOf('POST', '/a', undefined),
    deedOf('POST', '/a', file('text', 1)),
    deedOf('POST', '/a', file('text', 2)),
    deedOf('POST', '/a', file('longer', 2)),
  ];
  expect(new Set(all).size).toBe(all.length);
  expect(deedOf('POST', '/a', file('text', 1))).toBe(deedOf('POST', '/a', file('same', 1)));
});
