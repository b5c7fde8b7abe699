import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { theirChanges } from './merged.ts';

const record = { name: 'Tern', cylinders: 4, gears: [{ name: '4th', ratio: 1.14 }], note: null };

describe('what somebody else has changed', () => {
  it('is nothing where the record is the same', () => {
    expect(theirChanges(record, { ...record }, { ...record, name: 'Tern II' })).toEqual([]);
  });
  it('is taken over where nothing was typed here', () => {
    expect(theirChanges(record, { ...record, cylinders: 6 }, { ...record, name: 'Tern II' })).toEqual([
      { name: 'cylinders', was: 4, now: 6, both: false },
    ]);
  });
  it('is asked about where both have changed it, and not where both wrote the same', () => {
    expect(theirChanges(record, { ...record, name: 'Tern III' }, { ...record, name: 'Tern II' })).toEqual([
      { name: 'name', was: 'Tern', now: 'Tern III', both: true },
    ]);
    expect(theirChanges(record, { ...record, name: 'Tern II' }, { ...record, name: 'Tern II' })[0].both).toBe(
      false,
    );
  });
  it('looks into lists, and takes an empty field for none', () => {
    const now = { ...record, gears: [{ name: '4th', ratio: 1.15 }], note: undefined };
    expect(theirChanges(record, now, record).map((t) => t.name)).toEqual(['gears']);
  });
  it('every field of the new record is either as it was, taken over, or asked about', () => {
    const any = fc.record({ a: fc.nat(2), b: fc.nat(2), c: fc.nat(2) });
    fc.assert(
      fc.property(any, any, any, (begun, now, here) => {
        const found = theirChanges(begun, now, here);
        const merged = {
          ...here,
          ...Object.fromEntries(found.filter((t) => !t.both).map((t) => [t.name, t.now])),
        };
        for (const name of ['a', 'b', 'c'] as const) {
          const theyDid = begun[name] !== now[name];
          const weDid = begun[name] !== here[name];
          expect(merged[name]).toBe(weDid ? here[name] : now[name]);
          expect(found.some((t) => t.name === name && t.both)).toBe(
            theyDid && weDid && now[name] !== here[name],
          );
        }
      }),
    );
  });
});
