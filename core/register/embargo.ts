/** Embargo: until a date, the name of a part is known only to people with clearance; everybody else reads its code name. */
/** An embargo ends with the beginning of its day (UTC). */
export const isEmbargoed = (embargoUntil: string | null, now: Date): boolean =>
  embargoUntil !== null && now.getTime() < Date.parse(`${embargoUntil}T00:00:00Z`);
