import clsx from 'clsx';
import { FileUp } from 'lucide-react';
import { useImperativeHandle, useRef, useState, type DragEvent, type Ref } from 'react';
import type { Pull } from '../../contract/capture/capture.ts';
import { OnTheWay } from '../base/on-the-way-note.tsx';
import { Button } from '../base/ui.tsx';
import { droppedFiles, ofFolder } from './dropped-files.ts';
import type { Sending } from './use-sending.ts';

/** Opens the file chooser: for one pull, or for files that say themselves where they go. */
export interface Chooser {
  choose: (pull: Pull | null) => void;
}

/** Where files are dropped or chosen. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function DropFiles({
  sending,
  ref,
  onSplit,
}: {
  sending: Sending;
  ref: Ref<Chooser>;
  onSplit: () => void;
}) {
  const [over, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const target = useRef<Pull | null>(null);
  const { progress } = sending;
  const choose = (pull: Pull | null): void => {
    target.current = pull;
    if (!picker.current) return;
    picker.current.multiple = pull === null;
    picker.current.click();
  };
  useImperativeHandle(ref, () => ({ choose }));
  const chosen = (files: readonly File[]): void => {
    const pull = target.current;
    target.current = null;
    void (pull ? sending.send(files.map((file) => ({ file, pull }))) : sending.sendBySelf(files));
  };
  const onDrop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void droppedFiles(event.dataTransfer).then((files) => sending.sendBySelf(files));
  };
  return (
    <div
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
      className={clsx(
        'flex flex-wrap items-center gap-x-4 gap-y-2 rounded-md border-[1.5px] border-dashed px-5 py-4',
        over ? 'border-stands bg-faint' : 'border-soft',
      )}
    >
      <FileUp size={22} aria-hidden className="text-soft" />
      <div className="min-w-60 flex-1">
        <b>Drop pull files or a folder here.</b>{' '}
        <span className="text-soft">
          They go to the pull that their name, number or preamble says (p4.csv). Delimited text from any
          logger; columns and units are found.
        </span>
      </div>
      <Button kind="main" onClick={() => choose(null)} disabled={progress !== null}>
        Choose files
      </Button>
      <Button onClick={() => folder.current?.click()} disabled={progress !== null}>
        Choose a folder
      </Button>
      <input
        ref={folder}
        type="file"
        className="sr-only"
        aria-label="A whole folder"
        tabIndex={-1}
        {...{ webkitdirectory: '' }}
        onChange={(e) => {
          const files = ofFolder([...(e.target.files ?? [])]);
          e.target.value = '';
          void sending.sendBySelf(files);
        }}
      />
      <Button onClick={onSplit} disabled={progress !== null}>
        Split a long log
      </Button>
      <input
        ref={picker}
        type="file"
        multiple
        className="sr-only"
        aria-label="Pull files"
        tabIndex={-1}
        accept=".csv,.txt,.tsv,.log,.dat,text/*"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          chosen(files);
        }}
      />
      <OnTheWay />
      {progress && (
        <p role="status" className="w-full text-soft">
          Reading file {progress.done + 1} of {progress.of} …{' '}
          <progress value={progress.done} max={progress.of} className="ml-2 align-middle" />{' '}
          <Button small className="ml-2" onClick={sending.cancel}>
            Stop after this one
          </Button>
        </p>
      )}
    </div>
  );
}
