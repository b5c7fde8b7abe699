import type { Finding } from './gates.ts';

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
export function accountedGate(leftOut: readonly LeftOut[]): Finding[] {
  const base = {
    gate: 'accounted' as const,
    why: 'A pull that is nowhere could be the one that says otherwise.',
  };
  const incomplete = leftOut.filter(
    (p) =>
      (!p.hasFile && !NO_FILE.has(p.excluded)) ||
      // What was recorded after all needs its air, whatever was said before.
      (!p.hasAir && !(p.hasFile ? p.excluded === 'air not read' : NO_AIR.has(p.excluded))),
  );
  if (incomplete.length > 0)
    return incomplete.map((p) => ({
      ...base,
      state: 'fail' as const,
      code: 'EXCLUDED_INCOMPLETE',
      message: `${p.id} was left out (${p.excluded}) and ${[...(p.hasFile ? [] : ['its file']), ...(p.hasAir ? [] : ['its air reading'])].join(' and ')} ${p.hasFile || p.hasAir ? 'is' : 'are'} not there, so nobody can say what the result would be with it.`,
      mend: 'Add what is missing, or restore the pull and give the cause of the loss (never recorded, log lost in transfer, air not read).',
    }));
  if (leftOut.length === 0)
    return [{ ...base, state: 'pass', code: 'ALL_ANALYSED', message: 'Every counted pull is analysed.' }];
  const late = leftOut.filter((p) => p.afterResult);
  if (late.length > 0)
    return [
      {
        ...base,
        state: 'caution',
        code: 'EXCLUDED_AFTER_RESULT',
        message: `${late.map((p) => p.id).join(', ')} ${late.length === 1 ? 'was' : 'were'} left out after the result had been seen.`,
        mend: 'The smaller of the results with and without is claimed, whichever it is.',
      },
    ];
  const unknown = leftOut.filter((p) => p.hasFile && !p.comparable);
  if (unknown.length > 0)
    return [
      {
        ...base,
        state: 'caution',
        code: 'EXCLUDED_NOT_COMPARABLE',
        message: `${unknown.map((p) => p.id).join(', ')}: left out, and the recording has no curve to compare with.`,
      },
    ];
  return [
    {
      ...base,
      state: 'pass',
      code: 'LEFT_OUT_WITH_CAUSE',
      message: `Left out for a recorded cause, before the result was seen: ${leftOut.map((p) => `${p.id} (${p.excluded})`).join(', ')}.`,
    },
  ];
}
