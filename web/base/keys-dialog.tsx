import { Dialog } from './dialog.tsx';
import { Kbd } from './ui.tsx';

/** What the keyboard does, wherever one is. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[90px_1fr] gap-y-2">
        {(
          [
            ['/', 'Find any record, page or deed'],
            ['?', 'This list'],
            ['← →', 'Read the gain curve point by point, when it has the focus'],
            ['Page ↑ ↓', 'The same in steps of ten'],
            ['Enter', 'In the air table: go to the reading below'],
            [
              '← → ↑ ↓',
              'In coverage and applications: from cell to cell; in the schedule: move a session by a day or a quarter of an hour',
            ],
            ['Space', 'In a plan’s run order: take a run up and put it down; arrow keys move it'],
            ['Esc', 'Close what is open'],
          ] as const
        ).map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <Kbd>{key}</Kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
