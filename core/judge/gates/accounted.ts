import { found, type Found } from '../finding.ts';

const gate = 'accounted' as const;

/** Causes by which a pull has no file; anything else keeps a claim waiting for the file. */
const NO_FILE = new Set(['never recorded', 'log lost in transfer']);
/** Causes by which a pull has no air reading. */
const NO_AIR = new Set([...NO_FILE, 'air not read']);

export interface LeftOut {
  readonly id: string;
  readonly excluded: string;
  readonly hasFile: boolean;
  readonly hasAir: boolean;
  /** Whether its curve could be worked out, so that the result is also known with it. */
  readonly comparable: boolean;
  readonly afterResult: boolean;
}

/**
 * Every counted pull is analysed, or left out for a recorded cause and still known: the result is computed with it
 * too, and the smaller is claimed. What is missing of it keeps a claim waiting unless its loss has a cause.
 */
export function accountedGate(leftOut: readonly LeftOut[]): Found[] {
  const incomplete = leftOut.filter(isIncomplete);
  if (incomplete.length > 0) return incomplete.map((p) => found(gate, 'fail', 'EXCLUDED_INCOMPLETE', p));
  if (leftOut.length === 0) return [found(gate, 'pass', 'ALL_ANALYSED')];
  const late = leftOut.filter((p) => p.afterResult);
  if (late.length > 0) return [found(gate, 'caution', 'EXCLUDED_AFTER_RESULT', late.map(idOf))];
  const unknown = leftOut.filter((p) => p.hasFile && !p.comparable);
  return unknown.length > 0
    ? [found(gate, 'caution', 'EXCLUDED_NOT_COMPARABLE', unknown.map(idOf))]
    : [found(gate, 'pass', 'LEFT_OUT_WITH_CAUSE', leftOut)];
}

const idOf = ({ id }: LeftOut): string => id;
const isIncomplete = (p: LeftOut): boolean =>
  (!p.hasFile && !NO_FILE.has(p.excluded)) ||
  // What was recorded after all needs its air, whatever was said before.
  (!p.hasAir && !(p.hasFile ? p.excluded === 'air not read' : NO_AIR.has(p.excluded)));
