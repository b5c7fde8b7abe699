import { describe, expect, it } from 'vitest';
import { madeArm, madeDetail, madeFile, madePull } from '../__tests__/made.ts';
import { html, inUnits, text } from '../__tests__/rendered.tsx';
import { Accounting } from './accounting.tsx';
import { PullsTable, type PullDeeds } from './pulls-table.tsx';
import { ReadAs } from './read-as.tsx';
import { RefusedFiles } from './refused-files.tsx';
import { asksForColumns, type Refused } from './use-sending.ts';

const nothing = (): void => undefined;
const deeds = (change: Partial<PullDeeds> = {}): PullDeeds => ({
  mayCapture: true,
  mayExclude: true,
  mayRepeat: true,
  onAttach: nothing,
  onReread: nothing,
  onLog: nothing,
  onLeaveOut: nothing,
  ...change,
});
const left = {
  reason: 'wheel slip',
  note: '',
  by: 'Tobias Rask',
  at: '2026-11-05T09:00:00Z',
  seenResult: false,
};
const pulls = [
  ...[1, 2, 3].map((n) => madePull(`w${n}`, { counted: false })),
  madePull('p1', { file: madeFile() }),
  madePull('p2', { file: madeFile(), excluded: left }),
  ...[4, 5].map((n) => madePull(`w${n}`, { counted: false, run: 2, arm: 'part', mount: 2 })),
  madePull('p3', { run: 2, arm: 'part' }),
];
const detail = madeDetail({
  arms: [madeArm('stock'), madeArm('part', { label: 'Tubular manifold' })],
  pulls,
});
const table = (change: Partial<PullDeeds> = {}, results = new Map()) => (
  <PullsTable detail={detail} results={results} deeds={deeds(change)} />
);

describe('the pulls of a test', () => {
  it('stand in order, warm-ups of a run as one line with their number', () => {
    const shown = text(table());
    expect(shown).toContain('w × 3 stock warm-up pulls of run 1, mounting 1');
    expect(shown).toContain('w × 2 Tubular manifold warm-up pulls of run 2, mounting 2');
    expect(shown.indexOf('p1')).toBeLessThan(shown.indexOf('w × 2'));
    expect(html(table()).match(/<tr/g)).toHaveLength(1 + 2 + 3);
  });
  it('say what a file holds, and lead to its bytes', () => {
    expect(html(table())).toContain('href="/api/tests/the-test/pulls/id of p1/file"');
    expect(text(table())).toContain('35 kB · 1\u202f626 samples · ababababab…');
    expect(text(table())).toContain('2\u202f100 to 6\u202f400 rpm');
    expect(text(table())).toContain('p3 Tubular manifold not captured');
  });
  it('show peaks in the units of the person', () => {
    const results = new Map([
      ['p1', { factor: 0.98765, peakPower: { kw: 88.4, rpm: 5800 }, peakTorque: { nm: 160, rpm: 4800 } }],
    ]);
    expect(text(table({}, results))).toMatch(/0\.9877 88\.4 kW 5\u202f800 rpm 160\.0 N·m 4\u202f800 rpm/);
    const other = inUnits({ power: 'hp', torque: 'lb·ft' }, () => text(table({}, results)));
    // 88.4 kW = 118.5 hp (745.7 W), 160 N·m = 118.0 lb·ft (1.3558 N·m).
    expect(other).toMatch(/118\.5 hp .* 118\.0 lb·ft/);
  });
  it('offer what the person may do, and nothing else', () => {
    const all = text(table());
    expect(all).toContain('Replace file of p1');
    expect(all).toContain('Attach file of p3');
    expect(all).toContain('Exclude p1');
    expect(all).not.toContain('Exclude p2');
    const reader = text(table({ mayCapture: false, mayExclude: false, mayRepeat: false }));
    for (const deed of ['Replace', 'Attach', 'Exclude', 'Restore', 'Repeat', 'change'])
      expect(reader).not.toContain(deed);
  });
  it('a left-out pull is repeated once', () => {
    expect(text(table())).toContain('Repeat');
    const again = madeDetail({ ...detail, pulls: [...pulls, madePull('p9', { repeats: 'p2' })] });
    expect(text(<PullsTable detail={again} results={new Map()} deeds={deeds()} />)).not.toMatch(/Repeat\b/);
    expect(text(<PullsTable detail={again} results={new Map()} deeds={deeds()} />)).toContain(
      'p9 repeats p2',
    );
  });
});

describe('the account of the pulls', () => {
  it('counts every pull once', () => {
    const accounted = pulls.map(({ counted, file, excluded }) => ({
      counted,
      captured: file !== null,
      excluded: excluded?.reason ?? null,
    }));
    expect(text(<Accounting pulls={accounted} analysed={0} />)).toMatch(
      new RegExp(
        '^3 planned 5 warm-ups beside them → 2 captured 1 still to come → 1 usable 1 excluded → ' +
          '0 analysed waits for pulls and air Left out: .+ 1\\.$',
      ),
    );
    const never = { counted: true, captured: false, excluded: 'never recorded' };
    expect(text(<Accounting pulls={[never]} analysed={0} />)).toContain('0 captured 1 without a recording');
    expect(text(<Accounting pulls={[accounted[3]]} analysed={1} />)).toContain(
      '1 captured none missing → 1 usable none excluded',
    );
  });
});

describe('how a file was read', () => {
  const shown = (change: Parameters<typeof madeFile>[0]) => madePull('p1', { file: madeFile(change) });
  it('names the units of what the result rests on', () => {
    expect(text(<ReadAs pull={shown({})} />)).toBe('read in rpm, N·m');
    expect(html(<ReadAs pull={shown({})} />)).toContain('title="RPM, read in rpm; Torque, read in N·m"');
  });
  it('tells what was found odd, each with its words, but not a line end that some loggers leave out', () => {
    const findings = [
      { code: 'COLUMNS_REMEMBERED', message: 'Columns and units are read as Tobias Rask said of p1.csv.' },
      { code: 'STUCK', message: 'Torque rests.' },
      { code: 'STUCK', message: 'Speed rests.' },
      { code: 'NO_FINAL_LINE_END', message: 'No line end.' },
    ];
    const told = text(<ReadAs pull={shown({ findings })} />);
    expect(told.match(/◐/g)).toHaveLength(3);
    expect(told).not.toContain('No line end.');
  });
});

describe('files that were not taken', () => {
  const refused = (code: string): Refused => ({
    file: { name: 'bad.csv' } as File,
    pull: pulls[3],
    problem: { code, message: 'bad.csv: the unit of torque is not stated.', details: {} },
  });
  it('say for which pull and why; a question about columns can be answered', () => {
    const shown = text(<RefusedFiles list={[refused('UNIT_UNKNOWN')]} onAsk={nothing} />);
    expect(shown).toContain('1 file was not taken; nothing of it is stored');
    expect(shown).toContain('For p1. bad.csv: the unit of torque is not stated.');
    expect(shown).toContain('Say which columns');
  });
  it('others cannot: they are mended in the file', () => {
    const list = [refused('ROWS_DIFFER'), refused('TRUNCATED_FILE')];
    expect(text(<RefusedFiles list={list} onAsk={nothing} />)).not.toContain('Say which columns');
    expect(text(<RefusedFiles list={list} onAsk={nothing} />)).toContain(
      '2 files were not taken; nothing of them',
    );
    expect([...list, refused('AMBIGUOUS_COLUMNS')].map(asksForColumns)).toEqual([false, false, true]);
  });
});
