/** Ways of writing that there is no such step. */
const NONE = /^(no|none|nothing|nil|n\/?a|keine?|[-–—.]*)[.!]?$/i;

/** The step of an install that cannot be undone, as the register has it; null where it says there is none. */
export const stepForGood = (text: string): string | null => {
  const step = text.trim();
  return NONE.test(step) ? null : step;
};
