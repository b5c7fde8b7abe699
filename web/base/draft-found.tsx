import { dayTime } from './format.ts';
import { Button } from './ui.tsx';

/** Tells that what stands here is a draft from before, and lets it go. */
export const DraftFound = ({ at, onDrop }: { at: string; onDrop: () => void }) => (
  <p role="status" className="flex flex-wrap items-baseline gap-x-3 border-l-4 border-ask px-3 py-1 text-ask">
    Draft, not saved yet: kept on this device since {dayTime(at)}.
    <Button small onClick={onDrop}>
      Drop the draft
    </Button>
  </p>
);
