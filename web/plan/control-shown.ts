import type { TestDetail } from '../../contract/overview.ts';
import { number, type Units } from '../base/format.ts';
import { retold } from '../base/retold.ts';

const written = (value: number): string => number(value, (/\.(\d+)/.exec(String(value))?.[1] ?? '').length);
/** What is held equal, with its tolerance, in the reader's units. */
export const controlShown = (c: TestDetail['plan']['controls'][number], units: Units): string =>
  retold(`${c.target === null ? 'equal' : written(c.target)} ± ${written(c.tolerance)} ${c.unit}`, units);
