import { useBlocker } from 'react-router';
import { Button, Dialog } from './ui.tsx';
import { anythingUnsaved } from './unsaved.ts';

/** Asks before one leaves a page with something unsaved on it; the draft stays on the device either way. */
export function LeaveGuard() {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      currentLocation.pathname !== nextLocation.pathname && anythingUnsaved(),
  );
  if (blocker.state !== 'blocked') return null;
  return (
    <Dialog open onClose={() => blocker.reset()} title="Leave without saving?">
      <p>
        What you typed here is not saved. It stays on this device as a draft, and is there when you come back.
      </p>
      <div className="mt-4 flex flex-wrap gap-3">
        <Button kind="main" onClick={() => blocker.reset()}>
          Stay
        </Button>
        <Button onClick={() => blocker.proceed()}>Leave</Button>
      </div>
    </Dialog>
  );
}
