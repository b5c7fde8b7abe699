import { bytes } from './format.ts';
import { useAppSelector } from './store.ts';

/** How far a large file is on its way. */
export function OnTheWay() {
  const file = useAppSelector((state) => state.onTheWay.file);
  if (!file) return null;
  return (
    <p role="status" className={file.isAway ? 'text-ask' : 'text-soft'}>
      {file.name}: {bytes(file.sent)} of {bytes(file.of)} have arrived
      <progress value={file.sent} max={file.of} className="ml-2 align-middle" aria-label="Sent" />
      {file.isAway && ' The connection is away; it goes on where it stopped.'}
    </p>
  );
}
