/**
 * Embargo: until a date, the name of a part is known only to people with clearance. Everybody else
 * sees its code name wherever it would stand. Masking works on text, so it covers what people typed
 * (questions, notes, file names, reasons) as well as what the register holds.
 */
export interface EmbargoedPart {
  readonly name: string;
  readonly sku: string;
  readonly codeName: string;
}

/** An embargo ends with the beginning of its day (UTC). */
export const isEmbargoed = (embargoUntil: string | null, now: Date): boolean =>
  embargoUntil !== null && now.getTime() < Date.parse(`${embargoUntil}T00:00:00Z`);

export interface Mask {
  readonly text: (value: string) => string;
  /** The same value with every string in it masked, keys included. */
  readonly deep: <T>(value: T) => T;
  readonly hides: boolean;
}
const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
/** Any run of spaces, dashes or underscores stands for any other: “tubular-manifold” is the tubular manifold too. */
const pattern = (secret: string): string =>
  secret
    .trim()
    .split(/[\s_-]+/)
    .map(escaped)
    .join('[\\s_-]*');

/** A mask for a person who may not read these names. Longer names go first, so a name inside another is no leak. */
export function maskOf(parts: readonly EmbargoedPart[]): Mask {
  const secrets = parts
    .flatMap(({ name, sku, codeName }) =>
      [name, sku]
        .filter((secret) => secret.trim().length > 0)
        .map((secret) => ({ secret: pattern(secret), codeName, length: secret.length })),
    )
    .sort((a, b) => b.length - a.length);
  if (secrets.length === 0) return { text: (value) => value, deep: (value) => value, hides: false };
  const any = new RegExp(secrets.map(({ secret }) => `(${secret})`).join('|'), 'giu');
  const text = (value: string): string =>
    value.replace(
      any,
      (...groups: unknown[]) =>
        secrets[groups.slice(1, 1 + secrets.length).findIndex((g) => g !== undefined)].codeName,
    );
  const deep = <T>(value: T): T => {
    if (typeof value === 'string') return text(value) as T;
    if (Array.isArray(value)) return value.map((v: unknown) => deep(v)) as T;
    // Only plain objects: a date or a buffer is no text.
    if (value !== null && typeof value === 'object' && Object.getPrototypeOf(value) === Object.prototype)
      return Object.fromEntries(Object.entries(value).map(([k, v]) => [text(k), deep(v as unknown)])) as T;
    return value;
  };
  return { text, deep, hides: true };
}
export const NO_MASK: Mask = maskOf([]);
