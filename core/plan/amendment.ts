/** Amendments: what of a locked plan may still be changed, with a reason, and what that does to a claim. */

export const AMENDABLE = [
  'question',
  'gear',
  'fuel',
  'metrics',
  'band',
  'standard',
  'controls',
  'coolDownMinutes',
  'addedRun',
  'repeatedPull',
  'photographs',
  'logs',
] as const;
export type Amendable = (typeof AMENDABLE)[number];
/** Fields that decide what would be claimed: changed after a pull was seen, the result can only be indicative. */
const DECISIVE: ReadonlySet<string> = new Set<Amendable>(['question', 'metrics', 'band', 'standard']);

export interface Amendment {
  readonly number: number;
  readonly at: string;
  readonly fields: readonly string[];
  readonly reason: string;
}

/** How amendments weigh, held against the first pull: none, told, or decisive after the first pull. */
export function amendmentsWeigh(
  amendments: readonly Amendment[],
  firstPullAt: string | null,
): { state: 'none' | 'before first pull' | 'told' | 'decisive'; fields: string[] } {
  if (amendments.length === 0) return { state: 'none', fields: [] };
  const late =
    firstPullAt === null ? [] : amendments.filter((a) => Date.parse(a.at) >= Date.parse(firstPullAt));
  if (late.length === 0)
    return { state: 'before first pull', fields: [...new Set(amendments.flatMap((a) => a.fields))] };
  const fields = [...new Set(late.flatMap((a) => a.fields))];
  return { state: fields.some((field) => DECISIVE.has(field)) ? 'decisive' : 'told', fields };
}

/** When the plan was locked, held against the first pull; undefined where a file does not say. */
export interface PlanLock {
  readonly lockedAt: string | null;
  readonly firstPullAt: string | null;
  readonly amendments?: readonly Amendment[] | undefined;
}
