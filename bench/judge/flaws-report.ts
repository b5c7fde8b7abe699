import { FLAWED_SESSIONS } from './flawed-sessions.ts';
import { asWanted, judged, outcomeOfSession, type FlawedSession, type CameOf } from './flaws.ts';

export interface Told {
  readonly session: FlawedSession;
  readonly given: readonly CameOf[];
  /** Of them so many came out as wanted, claimed more than there was, were refused though nothing is wrong. */
  readonly asWanted: number;
  readonly tooMuch: number;
  readonly refused: number;
}
const trueAverage = (
  { truth }: Pick<FlawedSession, 'truth'>,
  rpm: readonly number[],
  gains: readonly number[],
): number => (truth === 'mixed' ? gains.reduce((a, b) => a + b, 0) / rpm.length : truth);

/** Every flawed session, each with so many seeds. */
export function flawsTable(seeds: number, first = 7100): Told[] {
  return FLAWED_SESSIONS.map((session, s) => {
    const made = Array.from({ length: seeds }, (_, k) => judged(session, first + 100 * s + k));
    const given = made.map(outcomeOfSession);
    const truths = made.map(({ session: { truth } }) => trueAverage(session, truth.rpm, truth.gainPct.part));
    return {
      session,
      given,
      asWanted: given.filter((g) => asWanted(session, g)).length,
      tooMuch: given.filter((g, k) => g.claimed !== null && g.claimed > truths[k]).length,
      refused: session.wanted.outcome === 'none' ? 0 : given.filter((g) => g.outcome === 'none').length,
    };
  });
}

export function flawsReport(seeds: number): string {
  const table = flawsTable(seeds);
  const sum = (of: (told: Told) => number): number => table.reduce((n, told) => n + of(told), 0);
  const rows = table.map(({ session, given, asWanted: held, tooMuch, refused }) => {
    const verdicts = [...new Set(given.map((g) => `${g.verdict}, ${g.grade}`))].join('; ');
    const codes = [...new Set(given.flatMap((g) => g.codes))].slice(0, 6).join(', ');
    const { outcome, by } = session.wanted;
    const wanted = `${outcome}${by?.length ? ` (${by.join(' or ')})` : ''}`;
    return `| ${session.name} | ${wanted} | ${verdicts}: ${codes} | ${held}/${given.length} | ${tooMuch} | ${refused} |`;
  });
  return [
    '| session | wanted | given | as wanted | claims too much | wrongly refused |',
    '|---|---|---|---|---|---|',
    ...rows,
    `\n${table.length} sessions, ${seeds} seeds each: ${sum((t) => t.asWanted)} of ${table.length * seeds} as wanted, ` +
      `${sum((t) => t.tooMuch)} claim too much, ${sum((t) => t.refused)} wrongly refused.`,
  ].join('\n');
}
