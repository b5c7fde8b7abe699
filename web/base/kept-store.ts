/** What somebody is typing, kept on the device: by what it is of and whose it is. */
const PREFIX = 'evidentia-draft:';
const storage = (): Storage | undefined => {
  try {
    return globalThis.localStorage;
  } catch {
    return undefined;
  }
};
export function readKept<T>(key: string): T | undefined {
  try {
    const text = storage()?.getItem(PREFIX + key);
    return text ? (JSON.parse(text) as T) : undefined;
  } catch {
    return undefined;
  }
}
/** Without a value the draft is dropped. A full device keeps it for this page alone. */
export function writeKept(key: string, value: unknown): void {
  try {
    if (value === undefined) storage()?.removeItem(PREFIX + key);
    else storage()?.setItem(PREFIX + key, JSON.stringify(value));
  } catch {
    // Kept by the page.
  }
}
/** Tells when another tab has changed or dropped the draft. Returns how to stop. */
export function onKeptElsewhere(key: string, tell: () => void): () => void {
  const heard = (event: StorageEvent): void => {
    if (event.key === PREFIX + key) tell();
  };
  window.addEventListener('storage', heard);
  return () => window.removeEventListener('storage', heard);
}
