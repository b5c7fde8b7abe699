import { Dialog } from './dialog.tsx';
import { Button } from './ui.tsx';

/** Asks before something unsaved is left. */
export const LeaveDialog = ({ onStay, onLeave }: { onStay: () => void; onLeave: () => void }) => (
  <Dialog open onClose={onStay} title="Leave without saving?">
    <p>
      What you typed here is not saved. It stays on this device as a draft, and is there when you come back.
    </p>
    <div className="mt-4 flex flex-wrap gap-3">
      <Button kind="main" onClick={onStay}>
        Stay
      </Button>
      <Button onClick={onLeave}>Leave</Button>
    </div>
  </Dialog>
);
