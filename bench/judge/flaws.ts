/**
 * Sessions with a known truth and known flaws, alone and in pairs, and the verdict a careful reviewer wants of each. The
 * wanted verdicts were written before the first run; `flaws.test.ts` holds them, `npm run bench -- flaws` prints both.
 */
import Papa from 'papaparse';
import { readTestFile, type TestFile } from '../../contract/judge/test-file.ts';
import { analyseTest, isRefused, type TestResult } from '../../core/judge/analyse-test.ts';
import { ScenarioSchema } from '../capture/scenario.ts';
import { simulateSession, type SimulatedSession } from './simulate.ts';

type Given = Record<string, unknown>;
type Pull = TestFile['pulls'][number];
/** Makes a finished session untrue: what was written, measured or planned. */
export type Flaw = (made: Made) => Made;
export interface Made {
  readonly scenario: Record<string, unknown>;
  /** Changes the finished test file. */ readonly change: readonly ((test: TestFile) => TestFile)[];
  /** Changes the text of a pull's file. */ readonly rewrite: readonly ((
    text: string,
    pull: Pull,
    all: Texts,
  ) => string)[];
}
type Texts = (pull: string) => string;
export interface Wanted {
  /** What is to come of it: a claim, one that tells something, or none. */
  readonly outcome: 'claim' | 'told' | 'none';
  /** Of these findings one at least must be made; empty where it must only not be claimed. */
  readonly by?: readonly string[];
}
export interface FlawedSession {
  readonly name: string;
  /** True gain, per cent: what must not be exceeded by a claim. */ readonly truth: number | 'mixed';
  readonly wanted: Wanted;
  readonly flaws: readonly Flaw[];
}

/** Columns of a simulated file, by number. */
export const COLUMN = {
  time: 0,
  speed: 1,
  roller: 2,
  torque: 3,
  throttle: 4,
  lambda: 5,
  airFlow: 7,
  coolant: 9,
  oil: 10,
} as const;

export const nothing: Made = { scenario: {}, change: [], rewrite: [] };
export const given =
  (scenario: Given): Flaw =>
  (made) => ({ ...made, scenario: { ...made.scenario, ...scenario } });
export const changed =
  (change: (test: TestFile) => TestFile): Flaw =>
  (made) => ({ ...made, change: [...made.change, change] });
export const rewritten =
  (rewrite: Made['rewrite'][number]): Flaw =>
  (made) => ({ ...made, rewrite: [...made.rewrite, rewrite] });
export const pulls = (change: (pull: Pull) => Pull): Flaw =>
  changed((test) => ({ ...test, pulls: test.pulls.map(change) }));
/** Changes a column in the files of an arm. */
export const column = (
  arm: string,
  which: keyof typeof COLUMN,
  of: (value: number, row: readonly number[]) => number,
): Flaw =>
  rewritten((text, pull) =>
    pull.arm === arm ? cells(text, (row) => [[COLUMN[which], of(row[COLUMN[which]], row)]]) : text,
  );

/** Rows of a file with some cells changed; its comments and head stay. */
export function cells(
  text: string,
  change: (row: number[], i: number) => readonly (readonly [number, number])[],
): string {
  const lines = text.trimEnd().split('\n');
  const head = lines.findIndex((line) => !line.startsWith('#')) + 1;
  const rows = Papa.parse<string[]>(lines.slice(head).join('\n')).data;
  const out = rows.map((row, i) => {
    const next = [...row];
    for (const [at, value] of change(row.map(Number), i)) next[at] = String(Number(value.toFixed(3)));
    return next.join(',');
  });
  return `${[...lines.slice(0, head), ...out].join('\n')}\n`;
}

const LOCKED = { lockedAt: '2026-05-01T08:00:00Z', firstPullAt: '2026-05-01T10:00:00Z' };
/** A dyno whose history is known. */
const HISTORY = {
  curve: { variance: 0.55, df: 30 },
  bandAverage: { variance: 0.25, df: 30 },
  peak: { variance: 0.3, df: 30 },
};

export interface Judged {
  readonly session: SimulatedSession;
  readonly test: TestFile;
  readonly result: TestResult;
}
export function judged({ flaws }: FlawedSession, seed: number): Judged {
  const made = flaws.reduce((so, flaw) => flaw(so), nothing);
  const session = simulateSession(
    ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      title: 'flawed',
      engine: 'na4',
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      protocol: { order: ['stock', 'part', 'stock'] },
      noise: { level: 0.35, slow: 0.2, quick: 0.2 },
      repeatability: HISTORY,
      metric: 'bandAverage',
      ...made.scenario,
      seed,
    }),
  );
  const test = made.change.reduce((so, change) => change(so), { ...session.test, plan: LOCKED } as TestFile);
  const textOf = (path: string): string => session.files.find((f) => f.path === path)!.text;
  const read = (path: string): Uint8Array => {
    const pull = test.pulls.find((p) => p.file === path)!;
    const all: Texts = (id) => textOf(`pulls/${id}.csv`);
    return new TextEncoder().encode(
      made.rewrite.reduce((text, rewrite) => rewrite(text, pull, all), textOf(path)),
    );
  };
  return { session, test, result: analyseTest(readTestFile(test), read).result };
}

export interface CameOf {
  readonly outcome: Wanted['outcome'];
  readonly verdict: string;
  readonly grade: string;
  /** Codes of what is not a pass. */ readonly codes: readonly string[];
  /** Average and largest gain claimed at least, per cent; null where nothing is claimed. */
  readonly claimed: number | null;
}
/** Found of every session that the simulated bench writes, or of every third by chance: telling nothing of a flaw. */
const COMMON = new Set(['ENGINE_NOT_LOGGED', 'SCATTER_SOMEWHAT_HIGH']);

/** What came of it. Told: a claim beside which something stands that the reader must know. */
export function outcomeOfSession({ result }: Judged): CameOf {
  const open = result.findings.filter((f) => f.state !== 'pass' && !COMMON.has(f.code));
  const codes = [...new Set(open.map((f) => f.code))];
  const [contrast] = result.contrasts;
  const claims = result.verdict === 'claim' && result.grade !== 'indicative' && !isRefused(contrast);
  const lower = claims
    ? Math.min(
        contrast.relative.bandAverage.lower,
        contrast.withExcluded?.relative.bandAverage.lower ?? Infinity,
      )
    : null;
  const tells = open.length > 0;
  return {
    outcome: claims ? (tells ? 'told' : 'claim') : 'none',
    verdict: result.verdict,
    grade: result.grade,
    codes,
    claimed: lower,
  };
}

/** Whether what came is what was wanted: at least as careful, and for the cause that was wanted. */
export function asWanted({ wanted }: FlawedSession, came: CameOf): boolean {
  const named = !wanted.by || wanted.by.length === 0 || wanted.by.some((code) => came.codes.includes(code));
  if (wanted.outcome === 'claim') return came.outcome !== 'none';
  return named && (wanted.outcome === 'told' ? came.outcome !== 'claim' : came.outcome === 'none');
}
