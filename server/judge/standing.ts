import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Glyph } from '../../core/compare/glyph.ts';
import type { Grade, Verdict } from '../../core/judge/verdict.ts';
import type { Queryable } from '../base/db.ts';
import { tests } from '../plan/tables.ts';
import { analyses, contrasts } from './tables.ts';

type ContrastRow = typeof contrasts.$inferSelect;

/** What stands of a test in a list: read from rows, without opening the result. */
export interface Standing {
  readonly verdict: Verdict;
  readonly grade: Grade;
  readonly failing: number;
  readonly cautions: number;
  /** Of the first contrast: with pulls left out, what says less. */
  readonly design: string;
  readonly refused: string | null;
  readonly upTo: { readonly kw: number; readonly rpm: number } | null;
  readonly average: { readonly gain: number; readonly lower: number; readonly upper: number } | null;
  readonly glyph: Glyph | null;
}

/** The analysis that stands for each test; none where the inputs have changed since. */
export async function standingOf(db: Queryable, testIds: readonly string[]): Promise<Map<string, Standing>> {
  if (testIds.length === 0) return new Map();
  const rows = await db
    .select({
      testId: tests.id,
      verdict: analyses.verdict,
      grade: analyses.grade,
      failing: analyses.failing,
      cautions: analyses.cautions,
      glyphs: analyses.glyphs,
      contrast: contrasts,
    })
    .from(tests)
    .innerJoin(analyses, eq(analyses.id, tests.currentAnalysisId))
    .innerJoin(contrasts, and(eq(contrasts.analysisId, analyses.id), eq(contrasts.position, 0)))
    .where(inArray(tests.id, [...testIds]))
    .orderBy(asc(contrasts.withExcluded));
  const byTest = new Map<string, (typeof rows)[number][]>();
  for (const row of rows) byTest.set(row.testId, [...(byTest.get(row.testId) ?? []), row]);
  return new Map(
    [...byTest].map(([testId, own]): [string, Standing] => {
      const [{ verdict, grade, failing, cautions, glyphs, contrast }] = own;
      const both = own.map((row) => row.contrast);
      const upTo = least(both, (c) => c.upToKw);
      const average = least(both, (c) => c.averagePctLower);
      return [
        testId,
        {
          verdict: verdict as Verdict,
          grade: grade as Grade,
          failing: failing ?? 0,
          cautions: cautions ?? 0,
          design: contrast.design,
          refused: contrast.refused,
          upTo: upTo && { kw: upTo.upToKw!, rpm: upTo.upToKwRpm! },
          average: average && {
            gain: average.averagePct!,
            lower: average.averagePctLower!,
            upper: average.averagePctUpper!,
          },
          glyph: glyphs?.[contrast.arm] ?? null,
        },
      ];
    }),
  );
}

/** Of a contrast and the same with excluded pulls put back, the one that says less by a measure; the first of equals. */
function least(both: readonly ContrastRow[], measure: (c: ContrastRow) => number | null): ContrastRow | null {
  const measured = both.filter((c) => measure(c) !== null);
  return measured.length === 0 ? null : measured.reduce((a, b) => (measure(b)! < measure(a)! ? b : a));
}
