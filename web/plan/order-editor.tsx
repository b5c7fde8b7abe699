import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
} from '@dnd-kit/core';
import {
  arrayMove,
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import clsx from 'clsx';
import { GripVertical, X } from 'lucide-react';
import { useState } from 'react';
import type { Draft } from './draft.ts';
import { Select } from '../base/select.tsx';

/** Runs in the order they are made; drag one, or take it up with the space bar and move it with the arrow keys. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function OrderEditor({ draft, onOrder }: { draft: Draft; onOrder: (order: string[]) => void }) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  // Runs of one arm look alike: each keeps an id of its own while it is moved.
  const [kept, setKept] = useState<{ order: readonly string[]; ids: string[] }>({ order: [], ids: [] });
  const ids = kept.order === draft.order ? kept.ids : draft.order.map((key, i) => `${i} ${key}`);
  const labelOf = (key: string): string => draft.arms.find((a) => a.key === key)?.label ?? key;
  const nameOf = (id: string | number): string => {
    const i = ids.indexOf(String(id));
    return `run ${i + 1}, ${labelOf(draft.order[i])}`;
  };
  const change = (order: string[], nextIds: string[]): void => {
    setKept({ order, ids: nextIds });
    onOrder(order);
  };
  const announcements: Announcements = {
    onDragStart: ({ active }) =>
      `Taken up ${nameOf(active.id)}. Arrow keys move it, space puts it down, escape leaves it.`,
    onDragOver: ({ active, over }) =>
      over ? `${nameOf(active.id)} is over place ${ids.indexOf(String(over.id)) + 1}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over ? `Put down at place ${ids.indexOf(String(over.id)) + 1}.` : `${nameOf(active.id)} stays.`,
    onDragCancel: ({ active }) => `${nameOf(active.id)} stays.`,
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={{ announcements }}
        onDragEnd={({ active, over }) => {
          if (!over || active.id === over.id) return;
          const [from, to] = [ids.indexOf(String(active.id)), ids.indexOf(String(over.id))];
          change(arrayMove(draft.order, from, to), arrayMove(ids, from, to));
        }}
      >
        <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
          <ol aria-label="Run order" className="flex flex-wrap gap-2">
            {ids.map((id, i) => (
              <RunChip
                key={id}
                id={id}
                place={i + 1}
                label={labelOf(draft.order[i])}
                baseline={draft.arms.find((a) => a.key === draft.order[i])?.role === 'baseline'}
                onRemove={
                  draft.order.length > 2
                    ? () =>
                        change(
                          draft.order.filter((_, k) => k !== i),
                          ids.filter((_, k) => k !== i),
                        )
                    : undefined
                }
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <Select
        aria-label="Add a run"
        value=""
        onChange={(e) => {
          if (e.target.value)
            change(
              [...draft.order, e.target.value],
              [...ids, `${Math.max(...ids.map((id) => parseInt(id, 10))) + 1} ${e.target.value}`],
            );
        }}
      >
        <option value="">add a run …</option>
        {draft.arms.map((a) => (
          <option key={a.key} value={a.key}>
            {a.label}
          </option>
        ))}
      </Select>
    </div>
  );
}

function RunChip({
  id,
  place,
  label,
  baseline,
  onRemove,
}: {
  id: string;
  place: number;
  label: string;
  baseline: boolean;
  onRemove?: (() => void) | undefined;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={clsx(
        'flex items-center rounded border-[1.5px] bg-sheet',
        baseline ? 'border-dashed border-ink' : 'border-stands',
        isDragging && 'z-10 shadow-lg',
      )}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Run ${place}, ${label}: move`}
        className="flex cursor-grab items-center gap-1 py-1 pl-1 pr-1.5"
      >
        <GripVertical size={13} aria-hidden className="text-soft" />
        <span className="text-[12px] text-soft">{place}</span> {label}
      </button>
      {onRemove && (
        <button
          type="button"
          aria-label={`Remove run ${place}, ${label}`}
          onClick={onRemove}
          className="grid min-h-6 min-w-6 place-items-center text-soft hover:text-ink"
        >
          <X size={12} />
        </button>
      )}
    </li>
  );
}
