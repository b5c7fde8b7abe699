import { problemOf } from './api.ts';

/** What came of doing something with many records, each by itself: one that is refused bars no other. */
export interface Outcome<R> {
  readonly done: readonly R[];
  readonly refused: readonly { readonly row: R; readonly why: string }[];
}
export async function oneByOne<R>(
  rows: readonly R[],
  act: (row: R) => Promise<{ error?: unknown } | object>,
): Promise<Outcome<R>> {
  const done: R[] = [];
  const refused: { row: R; why: string }[] = [];
  for (const row of rows) {
    const answer = await act(row);
    if ('error' in answer && answer.error !== undefined)
      refused.push({ row, why: problemOf(answer.error).message });
    else done.push(row);
  }
  return { done, refused };
}
