import { lazy, Suspense } from 'react';
import { useBlocker } from 'react-router';
import { anythingUnsaved } from './unsaved.ts';

const LeaveDialog = lazy(async () => ({ default: (await import('./leave-dialog.tsx')).LeaveDialog }));

/** Asks before one leaves a page with something unsaved on it; the draft stays on the device either way. */
export function LeaveGuard() {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      currentLocation.pathname !== nextLocation.pathname &&
      // Who signs out has said so, and is signed out by now; the drafts are kept.
      nextLocation.pathname !== '/sign-in' &&
      anythingUnsaved(),
  );
  if (blocker.state !== 'blocked') return null;
  return (
    <Suspense>
      <LeaveDialog onStay={() => blocker.reset()} onLeave={() => blocker.proceed()} />
    </Suspense>
  );
}
