/** What a gate finds: a closed code a program acts on, and the same in words. */
import { SENTENCES, type Words } from './sentences.ts';

/** Gates that look beyond the session: at the car on the day, and at the other tests of the part. */
export const BESIDE_GATES = ['true baseline', 'every test counts'] as const;
export type GateName =
  | (typeof BESIDE_GATES)[number]
  | 'plan locked'
  | 'as planned'
  | 'same setting'
  | 'one change'
  | 'design'
  | 'control vehicle'
  | 'mounting'
  | 'warm-up'
  | 'repeats'
  | 'scatter of the arms'
  | 'repeatability'
  | 'settled'
  | 'factor'
  | 'same sweep'
  | 'engine state'
  | 'safe mixture'
  | 'log agrees'
  | 'start temperatures'
  | 'effect'
  | 'losses told'
  | 'accounted'
  | 'plausible'
  | 'readings'
  | 'pull file';
export type GateState = 'pass' | 'caution' | 'fail';

export interface Finding {
  readonly gate: GateName;
  readonly state: GateState;
  readonly code: string;
  /** What was found. */
  readonly message: string;
  readonly why?: string;
  readonly mend?: string;
  /** Who has answered for it, and how; it then bars nothing by itself. */
  readonly answer?: {
    readonly by: string;
    readonly text: string;
    /** A reviewer lets stand what fails: it costs a grade. */ readonly overrides?: boolean;
  };
  /** The contrast (arm) it is about, when there is more than one. */
  readonly arm?: string;
}

type Code = keyof typeof SENTENCES;
/** What was found, as code and values; its words stand in sentences.ts. */
export interface Found {
  readonly gate: GateName;
  readonly state: GateState;
  readonly code: string;
  readonly words: () => Words;
}

/** A finding by its code, with the values its sentence speaks of. */
export const found = <C extends Code>(
  gate: GateName,
  state: GateState,
  code: C,
  ...values: Parameters<(typeof SENTENCES)[C]>
): Found => ({
  gate,
  state,
  code,
  words: () => (SENTENCES[code] as (...v: unknown[]) => Words)(...values),
});

/** The same under the code of whoever noticed it. */
export const foundAs = <C extends Code>(
  code: string,
  gate: GateName,
  state: GateState,
  sentence: C,
  ...values: Parameters<(typeof SENTENCES)[C]>
): Found => ({ ...found(gate, state, sentence, ...values), code });

/** A finding in the words of whoever made it: the file reader or a correction standard. */
export const quoted = (
  gate: GateName,
  state: GateState,
  code: string,
  message: string,
  mend?: string,
): Found => ({ gate, state, code, words: () => ({ message, ...(mend === undefined ? {} : { mend }) }) });

/** A finding put into words, about an arm where there are several. */
export const told = ({ gate, state, code, words }: Found, arm?: string): Finding => ({
  gate,
  state,
  code,
  ...words(),
  ...(arm === undefined ? {} : { arm }),
});
