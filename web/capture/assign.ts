/**
 * Which planned pull a file is for. What a file says decides: its name, its preamble, its number in the session. Only
 * where nothing speaks, and there are exactly as many files as open places, do they go in order.
 */
import type { Pull } from '../../contract/capture/capture.ts';

export interface Incoming<F extends { readonly name: string }> {
  readonly file: F;
  /** The first lines of the file. */
  readonly head: string;
}
export interface Assigned<F> {
  readonly file: F;
  readonly pull: Pull | undefined;
  /** Why nobody could tell, where there is no pull. */
  readonly why?: string;
}
export interface ArmName {
  readonly key: string;
  readonly label: string;
}

const stemOf = (name: string): string => name.toLowerCase().replace(/\.[^.]+$/, '');
const word = (label: string): RegExp =>
  new RegExp(`(^|[^a-z0-9])${label.toLowerCase().replace(/[^a-z0-9]/g, '.')}($|[^a-z0-9])`);

/** The pull that a preamble line names: “Pull: p4”, “position 7”. */
function fromHead(head: string, pulls: readonly Pull[]): Pull | undefined {
  const line = /^[#;\s]*(?:pull|run|recording)\s*[:=]\s*(.+)$/im.exec(head)?.[1];
  if (!line) return undefined;
  const named = pulls.find((p) => word(p.label).test(line.toLowerCase()));
  const position = /position\s+(\d{1,3})/i.exec(line)?.[1];
  return named ?? (position ? pulls.find((p) => p.position === Number(position)) : undefined);
}

/** The arm that a name or a preamble line says, where it says just one. */
function armOf(name: string, head: string, arms: readonly ArmName[]): string | undefined {
  const line = /^[#;\s]*(?:arm|configuration|config|setup|fitted)\s*[:=]\s*(.+)$/im.exec(head)?.[1] ?? '';
  const text = `${stemOf(name)} ${line.toLowerCase()}`;
  const said = arms.filter((a) => word(a.label).test(text) || word(a.key).test(text));
  return said.length === 1 ? said[0].key : undefined;
}

/** The number that tells files of one session apart: the last one in the name, where every name has another. */
function numbersOf(names: readonly string[]): (number | undefined)[] {
  const numbers = names.map((name) => {
    const found = [...stemOf(name).matchAll(/\d{1,3}(?!\d)/g)].at(-1)?.[0];
    return found === undefined ? undefined : Number(found);
  });
  const known = numbers.filter((n) => n !== undefined);
  return new Set(known).size === names.length ? numbers : names.map(() => undefined);
}

export function assign<F extends { readonly name: string }>(
  incoming: readonly Incoming<F>[],
  pulls: readonly Pull[],
  arms: readonly ArmName[],
): Assigned<F>[] {
  const ordered = [...incoming].sort((a, b) =>
    a.file.name.localeCompare(b.file.name, 'en', { numeric: true }),
  );
  const taken = new Set<string>();
  const out = new Map<F, Assigned<F>>();
  const give = (file: F, pull: Pull): void => {
    taken.add(pull.id);
    out.set(file, { file, pull });
  };
  for (const { file, head } of ordered) {
    const labelled = pulls.find((p) => !taken.has(p.id) && word(p.label).test(stemOf(file.name)));
    const pull = labelled ?? fromHead(head, pulls);
    if (pull && !taken.has(pull.id)) give(file, pull);
  }
  const left = ordered.filter(({ file }) => !out.has(file));
  const open = pulls.filter((p) => p.counted && !p.file && !taken.has(p.id));
  // Files numbered through the session, warm-up pulls included, are known by their place in it.
  const numbers = numbersOf(left.map(({ file }) => file.name));
  const throughSession =
    left.length > open.length && numbers.every((n) => n !== undefined && n >= 1 && n <= pulls.length);
  if (throughSession)
    left.forEach(({ file }, i) => {
      const pull = pulls.find((p) => p.position === numbers[i]);
      if (pull && !taken.has(pull.id)) give(file, pull);
    });
  else if (left.length === open.length)
    left.forEach(({ file, head }, i) => {
      const said = armOf(file.name, head, arms);
      if (said === undefined || said === open[i].arm) give(file, open[i]);
    });
  return ordered.map(
    ({ file, head }) =>
      out.get(file) ?? {
        file,
        pull: undefined,
        why: whyNot(file.name, head, left.length, open.length, arms),
      },
  );
}

function whyNot(name: string, head: string, files: number, open: number, arms: readonly ArmName[]): string {
  const said = armOf(name, head, arms);
  if (open === 0) return 'every planned pull has a file already';
  if (said !== undefined && files === open)
    return `it says “${arms.find((a) => a.key === said)!.label}”, and its place in the list is another arm’s`;
  return (
    `${files} ${files === 1 ? 'file does' : 'files do'} not say which pull ` +
    `they are, and ${open} ${open === 1 ? 'place is' : 'places are'} open`
  );
}
