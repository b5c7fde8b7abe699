import { describe, expect, it } from 'vitest';
import type { PullCounts } from '../capture/pull-counts.ts';
import type { Standing } from '../judge/standing.ts';
import type { TestRow } from '../plan/repository.ts';
import { stagesOf } from './stages.ts';

const LOCKED = { lockedAt: new Date(), amendmentCount: 0 } as TestRow['test'];
const WHOLE: PullCounts = { counted: 9, withFile: 9, withAir: 9, excluded: 0, missing: false };
const PASSES: Standing = {
  verdict: 'claim',
  grade: 'standard' as Standing['grade'],
  failing: 0,
  cautions: 0,
  design: 'A-B-A',
  refused: null,
  upTo: null,
  average: null,
  glyph: null,
};
/** Stage, state and note of each stage, as they are read. */
const read = (...[test, pulls, standing, claim]: Parameters<typeof stagesOf>): string[] =>
  stagesOf(test, pulls, standing, claim).map((s) => `${s.stage} ${s.state}: ${s.note}`);

describe('the stages of a test', () => {
  it('a plan that is not locked asks for it, and says how often it was amended since', () => {
    const note = (test: Partial<TestRow['test']>) =>
      read(test as TestRow['test'], WHOLE, undefined, undefined)[0];
    expect(note({ lockedAt: null, amendmentCount: 0 })).toBe('plan asks: not locked');
    expect(note(LOCKED)).toBe('plan done: locked');
    expect(note({ ...LOCKED, amendmentCount: 1 })).toBe('plan done: locked, amended once');
    expect(note({ ...LOCKED, amendmentCount: 3 })).toBe('plan done: locked, amended 3 times');
  });
  it('wait for pulls and air, and for an evaluation once they are there', () => {
    const half = { ...WHOLE, withFile: 5, withAir: 4, excluded: 1, missing: true };
    expect(read(LOCKED, half, undefined, undefined).slice(1)).toEqual([
      'pulls open: 5 of 9, 1 excluded',
      'air open: 4 of 9 readings',
      'compare waits: waits for pulls and air',
      'judge waits: waits for a result',
      'claim waits: not drafted',
    ]);
    expect(read(LOCKED, WHOLE, undefined, undefined).slice(3)).toEqual([
      'compare open: to be evaluated',
      'judge open: to be evaluated',
      'claim waits: not drafted',
    ]);
  });
  it('a result of pulls that are no longer whole is not told', () =>
    expect(read(LOCKED, { ...WHOLE, missing: true }, PASSES, undefined)[4]).toBe(
      'judge waits: waits for a result',
    ));
  it.each<[string, Partial<Standing>, string, string]>([
    ['passes', {}, 'done: all gates pass', 'open: not drafted'],
    ['passes with a caution', { cautions: 1 }, 'done: passes, 1 caution', 'open: not drafted'],
    ['passes with cautions', { cautions: 2 }, 'done: passes, 2 cautions', 'open: not drafted'],
    [
      'fails a gate',
      { failing: 2, verdict: 'not yet' as Standing['verdict'] },
      'asks: 2 failing',
      'waits: not yet',
    ],
    ['shows no gain', { verdict: 'no gain shown' }, 'done: no gain shown', 'open: no gain shown'],
    ['is indicative', { grade: 'indicative' }, 'done: all gates pass', 'waits: not drafted'],
  ])('a result that %s', (_what, change, judge, claim) => {
    const stages = read(LOCKED, WHOLE, { ...PASSES, ...change }, undefined);
    expect(stages.slice(3)).toEqual(['compare done: A-B-A', `judge ${judge}`, `claim ${claim}`]);
  });
  it('a comparison that was refused asks for a person', () =>
    expect(read(LOCKED, WHOLE, { ...PASSES, refused: 'no return' }, undefined)[3]).toBe(
      'compare asks: cannot be compared',
    ));
  it.each(['draft', 'in review', 'returned', 'stale', 'in question', 'withdrawn'] as const)(
    'a claim that is %s asks for a person; a published one does not',
    (state) => {
      expect(read(LOCKED, WHOLE, PASSES, state)[5]).toBe(`claim asks: ${state}`);
      expect(read(LOCKED, WHOLE, PASSES, 'published')[5]).toBe('claim done: published');
    },
  );
});
