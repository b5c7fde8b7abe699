import { IMPORT_COLUMNS, type ImportKind } from '../../contract/register/import.ts';
import { readTable, type ReadRow, type ReadTable, type RowProblem } from '../../core/register/spreadsheet.ts';
import { inParts } from '../base/unhurried.ts';
import type { Task, Threads } from '../base/threads.ts';

/** A table on its way between threads: in parts, as text, so that no part holds up the thread that takes them. */
interface TableInParts {
  readonly columns: readonly string[];
  readonly unknownHeaders: readonly string[];
  readonly rows: readonly string[];
  readonly problems: readonly string[];
}
const PART = 2000;
const partsOf = (list: readonly unknown[]): string[] =>
  Array.from({ length: Math.ceil(list.length / PART) }, (_, i) =>
    JSON.stringify(list.slice(i * PART, (i + 1) * PART)),
  );

/** Reads a table of rows to be imported. */
export const readTableTask: Task<[kind: ImportKind, text: string], TableInParts> = {
  name: 'read table',
  work: (kind, text) => {
    const { rows, problems, columns, unknownHeaders } = readTable(text, IMPORT_COLUMNS[kind]);
    return { columns, unknownHeaders, rows: partsOf(rows), problems: partsOf(problems) };
  },
};

async function joined<T>(parts: readonly string[]): Promise<T[]> {
  const all: T[] = [];
  for await (const [part] of inParts(parts, 1)) all.push(...(JSON.parse(part) as T[]));
  return all;
}
/** Reads a table in another thread. */
export async function tableOf(threads: Threads, kind: ImportKind, text: string): Promise<ReadTable> {
  const { columns, unknownHeaders, rows, problems } = await threads.run(readTableTask, kind, text);
  return {
    columns,
    unknownHeaders,
    rows: await joined<ReadRow>(rows),
    problems: await joined<RowProblem>(problems),
  };
}
