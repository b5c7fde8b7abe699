import { describe, expect, it } from 'vitest';
import '../../__tests__/rendered.tsx';
import type { EntryRequest } from '../../../contract/capture/bench.ts';
import { afterSending, sendWaiting, type Sent, type Waiting } from './entry-queue.ts';
import { hearing, momentOf, NOTHING_HEARD } from './live.ts';
import { wordsOf } from './next-panel.tsx';

const entry = (id: string): Waiting => ({
  id,
  saidAt: '2026-11-24T10:00:00Z',
  pullId: null,
  recordingId: null,
  body: { kind: 'note', text: id },
});
const OK: Sent = { ok: true };
const AWAY: Sent = { ok: false, refused: null };

describe('entries that wait', () => {
  const sending = async (answers: readonly Sent[], list: readonly Waiting[]) => {
    const sent: string[] = [];
    const left = await sendWaiting(list, (e: EntryRequest) => {
      sent.push(e.id);
      return Promise.resolve(answers[sent.length - 1] ?? OK);
    });
    return { sent, left };
  };
  const list = ['a', 'b', 'c'].map(entry);
  it('go in the order in which they were written, and are gone', async () =>
    expect(await sending([], list)).toEqual({ sent: ['a', 'b', 'c'], left: [] }));
  it('stay behind one that nobody answered: what comes later must not come first', async () => {
    const { sent, left } = await sending([OK, AWAY], list);
    expect(sent).toEqual(['a', 'b']);
    expect(left.map((e) => e.id)).toEqual(['b', 'c']);
  });
  it('do not stay behind one that was refused, which keeps why and is not sent again', async () => {
    const { sent, left } = await sending([OK, { ok: false, refused: 'no' }], list);
    expect(sent).toEqual(['a', 'b', 'c']);
    expect(left).toEqual([{ ...entry('b'), refused: 'no' }]);
    expect((await sending([], left)).sent).toEqual([]);
  });
  it('that were added while others were sent stay', () => {
    const now = [...list, entry('d')];
    expect(afterSending(now, list, [entry('b')]).map((e) => e.id)).toEqual(['b', 'd']);
  });
});

describe('a pull as it runs', () => {
  const rows = (from: number, to: number) =>
    Array.from({ length: to - from }, (_, k) => [from + k, (from + k) / 40, 2000 + 10 * (from + k), 150]);
  const news = (from: number, to: number, recordingId = 'r') => ({
    type: 'samples' as const,
    recordingId,
    rows: rows(from, to),
    at: 0,
  });
  it('is where its last sample is, whatever order they came in, and tells how long it takes', () => {
    let live = hearing(NOTHING_HEARD, news(40, 100));
    live = hearing(live, news(0, 40));
    live = hearing(live, news(40, 60));
    expect(live.pull!.rows.size).toBe(100);
    // 400 rpm/s, from 2 990 rpm to 5 000.
    expect(momentOf(live.pull!, 5000)).toMatchObject({ rpm: 2990, torqueNm: 150 });
    expect(momentOf(live.pull!, 5000)!.secondsLeft).toBeCloseTo(2010 / 400, 6);
    expect(momentOf(live.pull!, 2500)!.secondsLeft).toBeNull();
  });
  it('begins anew with another recording', () => {
    const live = hearing(hearing(NOTHING_HEARD, news(0, 50)), news(0, 5, 'other'));
    expect(live.pull).toMatchObject({ recordingId: 'other' });
    expect(live.pull!.rows.size).toBe(5);
    expect(momentOf({ recordingId: 'x', rows: new Map() }, 5000)).toBeNull();
  });
});

describe('the next action in words', () => {
  const place = {
    id: 'p',
    label: 'p1',
    position: 2,
    run: 1,
    arm: 'stock',
    armLabel: 'stock',
    mount: 1,
    counted: true,
    settled: false,
  };
  it('counts the cool-down, and says what is not where it should be', () => {
    const words = wordsOf(
      { is: 'cool', secondsLeft: 100, waits: ['intake air at start'], next: place },
      [place],
      [],
    );
    expect(words.deed).toBe('Cool down, 1:40');
    expect(words.after).toContain('intake air at start');
    expect(words.before).toBe('Next: p1, place 2 of 1, stock, counted pull 1 of 1');
  });
  it('forbids to unstrap while anything is missing, and only then', () => {
    expect(wordsOf({ is: 'done' }, [place], ['No air reading for p1.']).deed).toBe('Do not unstrap yet');
    expect(wordsOf({ is: 'done' }, [place], []).deed).toBe('All is there');
  });
});
