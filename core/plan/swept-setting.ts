/** Which setting an option sweep goes through, where it can be put in order. */
import type { LedgerChange } from '../register/ledger.ts';

/** A setting that can be put in order: “pulley, 92 mm”. */
export interface Setting {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
}
/** “92 mm”, “half open” …: the number a setting begins with, and its unit; undefined where it has none. */
export function settingOf(name: string, text: string): Setting | undefined {
  const found = /^\s*(\d+(?:[.,]\d+)?)\s*(\S{0,12})\s*$/.exec(text);
  return found ? { name, value: Number(found[1].replace(',', '.')), unit: found[2] } : undefined;
}

interface SweptArm {
  readonly key: string;
  readonly changes: readonly LedgerChange[];
}
const settingsIn = ({ changes }: SweptArm): Readonly<Record<string, string>> =>
  changes.reduce<Readonly<Record<string, string>>>(
    (all, c) => (c.kind === 'part fitted' || c.kind === 'option set' ? { ...all, ...c.settings } : all),
    {},
  );

/** By arm: the one setting in which they all differ, as a number; none where they differ in more, or in words. */
export function sweptSettings(arms: readonly SweptArm[]): ReadonlyMap<string, Setting> {
  const all = arms.map((arm) => ({ key: arm.key, settings: settingsIn(arm) }));
  const names = [...new Set(all.flatMap(({ settings }) => Object.keys(settings)))];
  const moved = names.filter((name) => new Set(all.map(({ settings }) => settings[name])).size > 1);
  if (moved.length !== 1) return new Map();
  const [name] = moved;
  const known = all.map(({ key, settings }) => [key, settingOf(name, settings[name] ?? '')] as const);
  return known.every(([, setting]) => setting !== undefined)
    ? new Map(known.map(([key, setting]) => [key, setting!]))
    : new Map();
}
