import { describe, expect, it } from 'vitest';
import { likeName, likePart, nearTo, tellsChange, type NearRevision } from './near-parts.ts';

const revision = (id: string, partId: string, partName: string, changeNote = ''): NearRevision => ({
  id,
  partId,
  partName,
  maker: 'Lowmoss',
  category: 'intake',
  revision: id,
  changeNote,
});

describe('what may be the same thing', () => {
  it.each([
    ['Rear silencer', 'Rear silencer II', true],
    ['Rear silencer', 'Silencer, rear, 63 mm', true],
    ['Throttle body, 64 mm', 'Throttle body, 68 mm', true],
    ['Intake', 'Twin-duct intake', true],
    ['Twin-duct intake', 'Cold-side intake', false],
    ['Two-way exhaust', 'Touring silencer', false],
    ['Mild cam', 'Cam', true],
    ['No. 4', '17', false],
    ['4', '17', true],
    ['17', 'Intake', false],
  ])('%s and %s: %s', (a, b, alike) => {
    expect(likeName(a, b)).toBe(alike);
    expect(likeName(b, a)).toBe(alike);
  });

  it.each([
    '',
    ' ',
    '–',
    'none',
    'None.',
    'no change',
    'unchanged',
    'same as A',
    'As B',
    'imported from a table',
  ])('a note “%s” tells of no change', (note) => expect(tellsChange(note)).toBe(false));
  it.each([
    'collector 2 mm wider',
    'another gasket',
    'as A, with a longer runner',
    'none of the old brackets',
  ])('a note “%s” does', (note) => expect(tellsChange(note)).toBe(true));

  it.each([
    [{ maker: 'Skerry & Vale Ltd.' }, true],
    [{ maker: 'SKERRY AND VALE' }, true],
    [{ maker: 'Skerry' }, false],
    [{ category: 'header' }, true],
    [{ category: 'header', partName: 'Twin-duct intake, short' }, false],
    [{ partName: 'Twin-duct intake, short' }, true],
  ])('beside a twin-duct intake of Skerry & Vale, one that differs by %o: %s', (change, alike) => {
    const own = { maker: 'Skerry & Vale', category: 'intake', partName: 'Twin-duct intake' };
    expect(likePart(own, { ...own, ...change })).toBe(alike);
  });

  it('a revision is another thing once any note between the two tells a change, whichever is the later', () => {
    const all = [
      revision('A', 'p', 'Manifold'),
      revision('B', 'p', 'Manifold', 'wider collector'),
      revision('C', 'p', 'Manifold', 'no change'),
    ];
    expect(nearTo('C', all).get('B')).toEqual({ why: 'other revision', revision: 'B', isChangeKnown: false });
    expect(nearTo('C', all).get('A')).toMatchObject({ isChangeKnown: true });
    expect(nearTo('A', all).get('C')).toMatchObject({ isChangeKnown: true });
    expect(nearTo('B', all).get('C')).toMatchObject({ isChangeKnown: false });
  });

  it('a part much like it is named; one that is not, and one that is not registered, are not', () => {
    const all = [
      revision('A', 'p', 'Rear silencer'),
      revision('X', 'q', 'Rear silencer 2'),
      revision('Y', 'r', 'Manifold'),
    ];
    expect([...nearTo('A', all)]).toEqual([['X', { why: 'like part', partId: 'q' }]]);
    expect(nearTo('Z', all).size).toBe(0);
  });
});
