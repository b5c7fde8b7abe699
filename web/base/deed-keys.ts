/**
 * Keys under which changes are sent (`Idempotency-Key`), so that what is sent again is not done again: a second click
 * while the first is under way, or another try after an answer that never came. Kept for the tab, through a reload.
 */
const KEY = 'evidentia-deeds';
/** After which another try counts as a new deed, ms. */
const KEPT_MS = 10 * 60 * 1000;

interface Sent {
  readonly key: string;
  readonly at: number;
  /** How many requests under it wait for their answer. */
  under: number;
}
type Store = Pick<Storage, 'getItem' | 'setItem'>;
export interface DeedKeys {
  /** The key of a deed: the same one as long as no answer came. */
  begin(deed: string): string;
  /** @param answered whether the server said what became of it; without an answer the key is kept for the next try */
  end(deed: string, answered: boolean): void;
}

function read(store: Store): Record<string, Sent> {
  try {
    return JSON.parse(store.getItem(KEY) ?? '{}') as Record<string, Sent>;
  } catch {
    return {};
  }
}

/**
 * @param store where keys outlive a reload; what was under way then will have no answer here
 * @param now ms
 */
export function createDeedKeys(store: Store, now: () => number, newKey: () => string): DeedKeys {
  const sent = new Map(Object.entries(read(store)).map(([deed, s]) => [deed, { ...s, under: 0 }]));
  const write = (): void => {
    try {
      store.setItem(KEY, JSON.stringify(Object.fromEntries(sent)));
    } catch {
      // A full store costs the keys a reload, no more.
    }
  };
  return {
    begin(deed) {
      const there = sent.get(deed);
      const holds = there && (there.under > 0 || now() - there.at < KEPT_MS);
      const entry: Sent = holds ? there : { key: newKey(), at: now(), under: 0 };
      entry.under += 1;
      sent.set(deed, entry);
      write();
      return entry.key;
    },
    end(deed, answered) {
      const entry = sent.get(deed);
      if (!entry) return;
      entry.under -= 1;
      if (answered) {
        // Somebody who has gone on to do something else means a like deed after it as a new one.
        for (const [other, { under }] of sent) if (under === 0) sent.delete(other);
        if (entry.under <= 0) sent.delete(deed);
      }
      write();
    },
  };
}

/** What tells two deeds apart: the address and what is sent there. */
export function deedOf(method: string, url: string, body: unknown): string {
  if (!(body instanceof Blob)) return `${method} ${url} ${JSON.stringify(body ?? null)}`;
  const changed = body instanceof File ? body.lastModified : 0;
  return `${method} ${url} ${body.size} ${changed}`;
}
