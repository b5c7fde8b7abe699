/** Files of a drop, folders opened: as deep as they go, hidden files left out. */
type Entry = FileSystemEntry;

const filesIn = (entry: FileSystemFileEntry): Promise<File> =>
  new Promise((resolve, reject) => entry.file(resolve, reject));
/** A reader gives some entries at a time, and none once it has given all. */
async function entriesIn(folder: FileSystemDirectoryEntry): Promise<Entry[]> {
  const reader = folder.createReader();
  const all: Entry[] = [];
  for (;;) {
    const some = await new Promise<Entry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) return all;
    all.push(...some);
  }
}
const isHidden = (name: string): boolean => name.startsWith('.');

async function walk(entry: Entry): Promise<File[]> {
  if (isHidden(entry.name)) return [];
  if (entry.isFile) return [await filesIn(entry as FileSystemFileEntry)];
  const inside = await entriesIn(entry as FileSystemDirectoryEntry);
  const files: File[] = [];
  for (const each of inside.sort((a, b) => a.name.localeCompare(b.name))) files.push(...(await walk(each)));
  return files;
}

/** To be called while the drop is handled: what was dropped cannot be asked for afterwards. */
export function droppedFiles({ items, files }: DataTransfer): Promise<File[]> {
  const entries = [...items].map((item) => item.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return Promise.resolve([...files]);
  return Promise.all(entries.map(walk)).then((lists) => lists.flat());
}
/** What a chosen folder holds beside pull files is left where it is. */
export const ofFolder = (files: readonly File[]): File[] =>
  files.filter((f) => !isHidden(f.name) && /\.(csv|txt|tsv|log|dat)$/i.test(f.name));
