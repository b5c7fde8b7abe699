/** Whether an arm ran its parts in the settings they are sold in: the first setting of each option. */
import type { LedgerChange } from './ledger.ts';
import type { PartOption } from './parts.ts';

export interface ArmChanges {
  readonly key: string;
  /** The arm it builds on; null builds on the vehicle as it stands. */
  readonly fromKey: string | null;
  readonly changes: readonly LedgerChange[];
}

export interface NotAsSold {
  /** The settings tested that are not those of the sold part, “insert out”. */
  readonly tested: string;
  readonly sold: string;
  /** Key of the arm of the same parts as sold, where the test has one. */
  readonly soldArm: string | null;
}

interface Fitted {
  readonly partRevisionId: string;
  readonly settings: Readonly<Record<string, string>>;
}

/** Parts an arm puts on the car, by place, after its own changes and those of the arms it builds on. */
function partsOf(arm: ArmChanges, arms: readonly ArmChanges[]): Map<string, Fitted> {
  const before = arm.fromKey === null ? undefined : arms.find((a) => a.key === arm.fromKey);
  const parts = before && before !== arm ? partsOf(before, arms) : new Map<string, Fitted>();
  for (const change of arm.changes) {
    if (change.kind === 'part fitted')
      parts.set(change.category, { partRevisionId: change.partRevisionId, settings: change.settings });
    else if (change.kind === 'option set') {
      const fitted = parts.get(change.category);
      if (fitted)
        parts.set(change.category, { ...fitted, settings: { ...fitted.settings, ...change.settings } });
    } else if (change.kind === 'returned to stock') parts.delete(change.category);
  }
  return parts;
}

/** Options of one part that stand otherwise than sold; an option nobody set stands as sold. */
const departures = (fitted: Fitted, options: ReadonlyMap<string, readonly PartOption[]>) =>
  (options.get(fitted.partRevisionId) ?? []).flatMap(({ name, settings }) => {
    const tested = fitted.settings[name] ?? settings[0];
    return settings.length > 0 && tested !== settings[0] ? [{ name, tested, sold: settings[0] }] : [];
  });

/** What was tested otherwise than sold, or null. */
export function notAsSold(
  arm: ArmChanges,
  arms: readonly ArmChanges[],
  options: ReadonlyMap<string, readonly PartOption[]>,
): NotAsSold | null {
  const own = partsOf(arm, arms);
  const departed = [...own.values()].flatMap((fitted) => departures(fitted, options));
  if (departed.length === 0) return null;
  const key = (parts: Map<string, Fitted>): string =>
    [...parts]
      .map(([place, p]) => `${place} ${p.partRevisionId}`)
      .sort()
      .join();
  const sold = arms.find((other) => {
    const parts = partsOf(other, arms);
    return (
      other.key !== arm.key &&
      key(parts) === key(own) &&
      [...parts.values()].every((fitted) => departures(fitted, options).length === 0)
    );
  });
  return {
    tested: departed.map((d) => `${d.name} ${d.tested}`).join(', '),
    sold: departed.map((d) => `${d.name} ${d.sold}`).join(', '),
    soldArm: sold?.key ?? null,
  };
}
