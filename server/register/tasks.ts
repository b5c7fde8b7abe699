import { IMPORT_COLUMNS, type ImportKind } from '../../contract/register/import.ts';
import { readTable } from '../../core/register/spreadsheet.ts';
import type { Task } from '../base/threads.ts';

/** Reads a table of rows to be imported. */
export const readTableTask: Task<[kind: ImportKind, text: string], ReturnType<typeof readTable>> = {
  name: 'read table',
  work: (kind, text) => readTable(text, IMPORT_COLUMNS[kind]),
};
