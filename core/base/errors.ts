/**
 * Typed errors of the core. Each says what happened, where, and what to do; `code` is the closed
 * name a program can act on, `message` the sentence a person reads.
 */

/** Where in the input something was found. Lines and columns count from 1. */
export interface Where {
  readonly file?: string;
  readonly line?: number;
  readonly column?: string;
  readonly path?: string;
}

export class EvidentiaError<Code extends string = string> extends Error {
  constructor(
    readonly code: Code,
    /** What happened, one sentence. */
    readonly what: string,
    /** What the person can do about it, one sentence. */
    readonly action: string,
    readonly where: Where = {},
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(sentence(what, action, where));
    this.name = new.target.name;
  }

  /** The same error with a fuller address, as it rises: column → line → file. */
  at(where: Where): this {
    const Self = this.constructor as new (
      code: Code,
      what: string,
      action: string,
      where: Where,
      details: Readonly<Record<string, unknown>>,
    ) => this;
    return new Self(this.code, this.what, this.action, { ...where, ...this.where }, this.details);
  }
}

function sentence(what: string, action: string, where: Where): string {
  const place = [
    where.file,
    where.line === undefined ? undefined : `line ${where.line}`,
    where.column === undefined ? undefined : `column “${where.column}”`,
    where.path,
  ]
    .filter(Boolean)
    .join(', ');
  return `${place ? `${place}: ` : ''}${what} ${action}`.trim();
}

/** A pull file that cannot be used. */
export class PullFileError extends EvidentiaError<PullFileCode> {}
export type PullFileCode =
  | 'EMPTY_FILE'
  | 'FILE_TOO_LARGE'
  | 'NOT_TEXT'
  | 'NO_TABLE'
  | 'NO_ENGINE_SPEED'
  | 'NO_TORQUE_NOR_POWER'
  | 'TEXT_IN_NUMBERS'
  | 'TRUNCATED_FILE'
  | 'TOO_FEW_SAMPLES'
  | 'TOO_MANY_LINES'
  | 'TOO_MANY_CELLS'
  | 'LINE_TOO_LONG'
  | 'MORE_CELLS_THAN_COLUMNS'
  | 'ROWS_DIFFER'
  | 'SPEED_IMPOSSIBLE'
  | 'UNIT_UNKNOWN'
  | 'COLUMN_NOT_FOUND'
  | 'AMBIGUOUS_COLUMNS'
  | 'NO_SWEEP';

/** An air reading that cannot be right or cannot be used. */
export class AirError extends EvidentiaError<AirCode> {}
export type AirCode = 'AIR_OUT_OF_RANGE' | 'AIR_INCOMPLETE' | 'AIR_FILE_UNREADABLE' | 'AIR_TOO_FAR';

/** A correction that the standard does not define for this engine. */
export class CorrectionError extends EvidentiaError<CorrectionCode> {}
export type CorrectionCode = 'STANDARD_NOT_FOR_ENGINE' | 'FACTOR_UNUSABLE';

/** A test definition that does not hold together. */
export class TestDefinitionError extends EvidentiaError<TestDefinitionCode> {}
export type TestDefinitionCode =
  | 'TEST_FILE_UNREADABLE'
  | 'TEST_FILE_INVALID'
  | 'FILE_MISSING'
  | 'UNKNOWN_ARM'
  | 'NO_BASELINE'
  | 'DUPLICATE_ID'
  | 'BAD_BAND';

/** A numerical routine that did not reach its answer. */
export class NumericalError extends EvidentiaError<'NOT_CONVERGED' | 'BAD_ARGUMENT'> {}
