import { useRef, useState } from 'react';
import { Camera } from 'lucide-react';
import type { Photo } from '../../contract/capture/photograph.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { CAPTURE, HOUSE, type Role } from '../../contract/base/roles.ts';
import { problemOf, useSessionQuery } from '../base/api.ts';
import { usePhotographsQuery } from '../base/endpoints.ts';
import { Dialog } from '../base/dialog.tsx';
import { bytes, dayTime } from '../base/format.ts';
import { Select } from '../base/select.tsx';
import { Told } from '../base/told.tsx';
import { Button, Field, Input, ProblemNote } from '../base/ui.tsx';
import type { WaitingPhoto } from './photo-store.ts';
import { useWaitingPhotos } from './use-waiting-photos.ts';

type Arms = TestDetail['arms'];
const armName = (arms: Arms, key: string | null): string =>
  key === null ? '' : (arms.find((a) => a.key === key)?.label ?? key);

/** Photographs of a test: how the part sits, how the car was strapped, what broke. */
export function Photographs({ testId, arms, role }: { testId: string; arms: Arms; role: Role | undefined }) {
  const { data, error, refetch } = usePhotographsQuery(testId);
  const [open, setOpen] = useState<Photo | null>(null);
  const mayAdd = role !== undefined && CAPTURE.includes(role);
  if (error && problemOf(error).code !== 'FORBIDDEN')
    return <ProblemNote error={error} again={() => void refetch()} />;
  const photos = data?.photographs ?? [];
  return (
    <section aria-label="Photographs">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
        <h2>
          Photographs{photos.length > 0 && <span className="font-normal text-soft"> · {photos.length}</span>}
        </h2>
      </div>
      {mayAdd && <AddPhotograph testId={testId} arms={arms} />}
      {data && photos.length === 0 && <p className="mt-2 text-soft">None yet.</p>}
      {error && <p className="mt-2 text-soft">{problemOf(error).message}</p>}
      <ul className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
        {photos.map((photo) => (
          <li key={photo.id}>
            <button
              type="button"
              onClick={() => setOpen(photo)}
              className="block w-full cursor-zoom-in rounded border border-rule bg-sheet p-1 text-left"
            >
              <img
                src={`/api/tests/${testId}/photographs/${photo.id}/thumb`}
                alt={photo.caption || photo.name}
                width={photo.width}
                height={photo.height}
                loading="lazy"
                className="aspect-[4/3] w-full object-cover"
              />
              <span className="mt-1 block text-[12.5px]">
                <Told>{photo.caption || photo.name}</Told>
                <span className="block text-soft">{armName(arms, photo.arm)}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      {open && (
        <Shown
          testId={testId}
          photo={open}
          arm={armName(arms, open.arm)}
          role={role}
          onClose={() => setOpen(null)}
        />
      )}
    </section>
  );
}

/** A picture with its words; nothing is sent before somebody says to. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function AddPhotograph({ testId, arms }: { testId: string; arms: Arms }) {
  const chooser = useRef<HTMLInputElement>(null);
  const { data: session } = useSessionQuery();
  const { waiting, isSending, keep, drop: letGo } = useWaitingPhotos(testId, session?.person?.id);
  const [problem, setProblem] = useState<string | undefined>();
  const [file, setFile] = useState<File | null>(null);
  const [caption, setCaption] = useState('');
  const [arm, setArm] = useState('');
  const drop = (): void => {
    setFile(null);
    setCaption('');
    if (chooser.current) chooser.current.value = '';
  };
  const send = async (): Promise<void> => {
    if (!file) return;
    const wrong = await keep({ file, caption, arm });
    setProblem(wrong);
    if (wrong === undefined) drop();
  };
  return (
    <div className="grid gap-2">
      <input
        ref={chooser}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        aria-label="Picture"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => setFile(e.target.files?.[0] ?? null)}
      />
      {file ? (
        <div className="flex flex-wrap items-end gap-3">
          <p className="self-center">
            {file.name} <span className="text-soft">{bytes(file.size)}</span>
          </p>
          <Field label="What it shows">
            <Input value={caption} maxLength={300} onChange={(e) => setCaption(e.target.value)} />
          </Field>
          <Field label="Arm on the car">
            <Select value={arm} onChange={(e) => setArm(e.target.value)}>
              <option value="">none in particular</option>
              {arms.map((a) => (
                <option key={a.key} value={a.key}>
                  {a.label}
                </option>
              ))}
            </Select>
          </Field>
          <Button kind="main" onClick={() => void send()}>
            Keep it
          </Button>
          <Button onClick={drop}>Drop it</Button>
        </div>
      ) : (
        <div>
          <Button onClick={() => chooser.current?.click()}>
            <Camera size={15} aria-hidden /> Add a photograph
          </Button>
        </div>
      )}
      {problem && <ProblemNote message={problem} />}
      <WaitingPhotos waiting={waiting} isSending={isSending} onDrop={(id) => void letGo(id)} />
    </div>
  );
}

/** Photographs that are on this device and not with the server. */
function WaitingPhotos({
  waiting,
  isSending,
  onDrop,
}: {
  waiting: readonly WaitingPhoto[];
  isSending: boolean;
  onDrop: (id: string) => void;
}) {
  const refused = waiting.filter((p) => p.refused !== undefined);
  const open = waiting.length - refused.length;
  return (
    <>
      {open > 0 && (
        <p role="status" className="text-ask">
          {open === 1 ? 'One photograph is' : `${open} photographs are`} on this device only;{' '}
          {isSending ? 'on the way …' : 'sent when the connection is back.'}
        </p>
      )}
      {refused.map((photo) => (
        <p key={photo.id} className="text-loss">
          {photo.file.name}: {photo.refused}{' '}
          <Button small onClick={() => onDrop(photo.id)}>
            Drop it
          </Button>
        </p>
      ))}
    </>
  );
}

function Shown({
  testId,
  photo,
  arm,
  role,
  onClose,
}: {
  testId: string;
  photo: Photo;
  arm: string;
  role: Role | undefined;
  onClose: () => void;
}) {
  const path = `/api/tests/${testId}/photographs/${photo.id}`;
  return (
    <Dialog open onClose={onClose} title={photo.caption || photo.name} wide>
      <img
        src={`${path}/view`}
        alt={photo.caption || photo.name}
        className="max-h-[56vh] w-full object-contain"
      />
      <p className="mt-2 text-[12.5px] text-soft">
        {arm && `${arm} · `}
        {photo.addedBy}, {dayTime(photo.addedAt)} · {photo.width} × {photo.height}, {bytes(photo.size)} ·{' '}
        <span title={`SHA-256 ${photo.sha256}`}>{photo.sha256.slice(0, 10)}…</span>
      </p>
      <p className="mt-1 text-[12.5px]">
        <a href={`${path}/view`} download={`${photo.sha256.slice(0, 10)}.jpg`}>
          Copy to pass on
        </a>{' '}
        <span className="text-soft">(says nothing of place, time or camera)</span>
        {role && HOUSE.includes(role) && (
          <>
            {' · '}
            <a href={`${path}/file`}>As it came</a>
            {photo.saysWhere && <span className="text-ask"> (says where it was taken)</span>}
          </>
        )}
      </p>
    </Dialog>
  );
}
