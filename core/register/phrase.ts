/** Loosely typed phrases: what a fitment is found by, and what a phrase asks for. */

/** Words a person types for what the register writes otherwise (common practice). */
const MEANS: Readonly<Record<string, readonly string[]>> = {
  turbo: ['turbo', 't'],
  t: ['t', 'turbo'],
  diesel: ['diesel', 'd'],
  d: ['d', 'diesel'],
  wagon: ['estate', 'wagon'],
  estate: ['estate', 'wagon'],
  awd: ['awd', '4x4', 'all'],
  '4x4': ['4x4', 'awd', 'all'],
  fwd: ['front'],
  rwd: ['rear'],
  na: ['natural'],
  hp: [],
  kw: [],
  ps: [],
  litre: [],
  liter: [],
  l: [],
  the: [],
  for: [],
};

/** Lower case, no accents, × as x, decimal commas as points, letters parted from numbers: “2,2D” is “2.2 d”. */
export function plainWords(text: string): string[] {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/×/g, 'x')
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/\b4\s*x\s*4\b/g, ' fourbyfour ')
    .replace(/(\d)([a-z])/g, '$1 $2')
    .replace(/([a-z])(\d)/g, '$1 $2')
    .replace(/fourbyfour/g, '4x4')
    .split(/[^\p{L}\p{N}.]+/u)
    .map((word) => word.replace(/^\.+|\.+$/g, ''))
    .filter(Boolean);
}

/** What a phrase asks for: each word with the others it may stand for. Words that say nothing are left out. */
export const askedFor = (phrase: string): string[][] =>
  plainWords(phrase)
    .map((word) => [...(MEANS[word] ?? [word])])
    .filter((words) => words.length > 0);

/** The text a record is found by. */
export const foundBy = (...facts: (string | number | null | undefined)[]): string =>
  ` ${plainWords(facts.filter((fact) => fact !== null && fact !== undefined).join(' ')).join(' ')} `;

/** The years of a fitment as single words, so that “2019” finds one built from 2017 to 2023. */
export const yearsBetween = (from: number, to: number | null, today: number): number[] =>
  Array.from({ length: Math.max(0, Math.min((to ?? today) - from + 1, 60)) }, (_, i) => from + i);
