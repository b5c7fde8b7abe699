import { useState } from 'react';
import type { Pull } from '../../contract/capture/capture.ts';
import { Select } from '../base/select.tsx';
import { Button } from '../base/ui.tsx';
import type { Assigned } from './assign.ts';

/** Files of which nobody could tell which pull they are: a person says it, or puts them aside. */
export function Unplaced({
  list,
  pulls,
  armLabel,
  onPlace,
  onDrop,
}: {
  list: readonly Assigned<File>[];
  pulls: readonly Pull[];
  armLabel: (key: string) => string;
  onPlace: (file: File, pull: Pull) => void;
  onDrop: (file: File) => void;
}) {
  const open = pulls.filter((p) => !p.file);
  return (
    <section aria-label="Files to place" className="grid gap-2 border-l-4 border-ask bg-sheet px-4 py-3">
      <h2>
        {list.length} {list.length === 1 ? 'file does' : 'files do'} not say which pull{' '}
        {list.length === 1 ? 'it is' : 'they are'}; nothing of {list.length === 1 ? 'it' : 'them'} is stored
        yet
      </h2>
      <p className="text-soft">Not placed because {list[0].why}.</p>
      {list.map(({ file }) => (
        <Row key={file.name} file={file} open={open} armLabel={armLabel} onPlace={onPlace} onDrop={onDrop} />
      ))}
    </section>
  );
}

function Row({
  file,
  open,
  armLabel,
  onPlace,
  onDrop,
}: {
  file: File;
  open: readonly Pull[];
  armLabel: (key: string) => string;
  onPlace: (file: File, pull: Pull) => void;
  onDrop: (file: File) => void;
}) {
  const [id, setId] = useState('');
  const pull = open.find((p) => p.id === id);
  return (
    <div className="flex flex-wrap items-center gap-3">
      <b className="min-w-48">{file.name}</b>
      <Select aria-label={`Pull of ${file.name}`} value={id} onChange={(e) => setId(e.target.value)}>
        <option value="">choose its pull</option>
        {open.map((p) => (
          <option key={p.id} value={p.id}>
            {`${p.label}, ${armLabel(p.arm)}${p.counted ? '' : ', warm-up'}`}
          </option>
        ))}
      </Select>
      <Button small disabled={!pull} onClick={() => onPlace(file, pull!)}>
        Attach
      </Button>
      <Button small kind="quiet" onClick={() => onDrop(file)}>
        Put aside
      </Button>
    </div>
  );
}
