/** What a file says of itself, held against what it stands for. */
import type { PullFile } from '../../capture/pull-file-types.ts';
import { found, type Found } from '../finding.ts';
import type { HeldPull, NamedArm } from './held-pull.ts';

const SAYS_CORRECTED = /\b(corrected|corr|korrigiert|sae ?j?1349|sae ?j?607|din ?70020|iso ?1585|ece|jis)\b/i;
const SAYS_NOT = /\b(un-?corrected|not corrected|unkorrigiert|observed|raw|none|off|no)\b/i;
const CORRECTION_KEY = /correction|corrected|korrektur|standard/i;
const ARM_KEY = /^(arm|configuration|config|setup|set-up|variant|fitted|part|stage|run type)$/i;

/** Texts in a file that speak of correction: the header of the column used, and preamble lines about it. */
function correctionTexts(file: PullFile): string[] {
  const used = file.columns
    .filter((c) => c.quantity === file.torqueFrom || (c.quantity === 'power' && file.torqueFrom === 'power'))
    .map((c) => c.header);
  const preamble = Object.entries(file.metadata)
    .filter(([key]) => CORRECTION_KEY.test(key))
    .map(([key, value]) => `${key}: ${value}`);
  return [...used, ...preamble];
}

export function saysOfCorrection({ id, file, applied }: HeldPull): Found[] {
  const standard = applied?.standard ?? 'none';
  for (const text of correctionTexts(file)) {
    const value = text.includes(': ') ? text.slice(text.indexOf(': ') + 2) : text;
    const not = SAYS_NOT.test(value);
    const says = !not && SAYS_CORRECTED.test(value);
    if (says && standard === 'none' && applied?.factor === undefined)
      return [found('plausible', 'fail', 'SAYS_CORRECTED', id, text)];
    if (not && /un-?corrected|not corrected|unkorrigiert/i.test(value) && standard !== 'none')
      return [found('plausible', 'fail', 'SAYS_UNCORRECTED', id, text)];
  }
  return [];
}

const PULL_KEY = /^(pull|pull id|pull no\.?|recording)$/i;

/** A preamble line that begins with the label of another pull of the test and not with its own. */
export function saysOfPull({ id, arm, file }: HeldPull, pulls: readonly HeldPull[]): Found[] {
  const first = Object.entries(file.metadata).find(([key]) => PULL_KEY.test(key.trim()));
  const named = first && /^[\w-]+/.exec(first[1].trim())?.[0];
  const other = named !== id ? pulls.find((pull) => pull.id === named) : undefined;
  if (!first || !other) return [];
  const state = other.arm === arm ? 'caution' : 'fail';
  return [found('plausible', state, 'NAMES_OTHER_PULL', id, `${first[0]}: ${first[1]}`, other.id)];
}

const words = (text: string): string =>
  ` ${text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;

/** A preamble line that names another arm of the test and not its own. */
export function saysOfArm({ id, arm, file }: HeldPull, arms: readonly NamedArm[]): Found[] {
  const namesOf = (a: NamedArm): string[] => [a.id, ...(a.label ? [a.label] : [])].map(words);
  const own = arms.filter((a) => a.id === arm).flatMap(namesOf);
  for (const [key, value] of Object.entries(file.metadata)) {
    if (!ARM_KEY.test(key.trim())) continue;
    const text = words(value);
    if (own.some((name) => text.includes(name))) continue;
    const other = arms.find((a) => a.id !== arm && namesOf(a).some((name) => text.includes(name)));
    if (other) {
      const named = arms.find((a) => a.id === arm)?.label ?? arm;
      return [found('plausible', 'fail', 'NAMES_OTHER_ARM', id, `${key}: ${value}`, named)];
    }
  }
  return [];
}
