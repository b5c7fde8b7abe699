import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';

/**
 * A list of any length: only the rows in sight are drawn, further pages are asked for as one comes
 * near their end. Columns are a grid template shared with the head.
 */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function LongList<R>({
  rows,
  total,
  more,
  loadMore,
  columns,
  head,
  row,
  rowHeight = 45,
  label,
  keyOf,
}: {
  rows: readonly R[];
  total: number;
  more: boolean;
  loadMore: () => void;
  columns: string;
  head: readonly ReactNode[];
  row: (item: R) => readonly ReactNode[];
  rowHeight?: number;
  label: string;
  keyOf: (item: R) => string;
}) {
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    getItemKey: (i) => keyOf(rows[i]),
  });
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (more && last >= rows.length - 15) loadMore();
  }, [more, last, rows.length, loadMore]);
  return (
    <div className="overflow-x-auto">
      <div role="table" aria-label={label} aria-rowcount={total} className="min-h-0 min-w-[760px]">
        <div role="rowgroup">
          <div
            role="row"
            className="grid items-end gap-x-3 border-b-[1.5px] border-ink pb-1.5 pr-3 text-[12px] font-medium text-soft"
            style={{ gridTemplateColumns: columns }}
          >
            {head.map((cell, i) => (
              <div key={i} role="columnheader">
                {cell}
              </div>
            ))}
          </div>
        </div>
        {/* Focusable, so that a keyboard can scroll it. */}
        <div
          ref={box}
          role="rowgroup"
          tabIndex={0}
          aria-label={`${label}, rows`}
          className="h-[calc(100vh-260px)] min-h-64 overflow-auto"
        >
          <div style={{ height: virtual.getTotalSize() }} className="relative">
            {items.map((item) => (
              <div
                key={item.key}
                role="row"
                aria-rowindex={item.index + 1}
                data-index={item.index}
                // A long name takes the lines it needs.
                ref={virtual.measureElement}
                className="absolute left-0 right-0 grid items-center gap-x-3 border-b border-rule py-1 pr-3 hover:bg-faint"
                style={{
                  gridTemplateColumns: columns,
                  minHeight: rowHeight,
                  transform: `translateY(${item.start}px)`,
                }}
              >
                {row(rows[item.index]).map((cell, i) => (
                  <div key={i} role="cell" className="min-w-0 break-words">
                    {cell}
                  </div>
                ))}
              </div>
            ))}
          </div>
        </div>
        <p className="pt-1.5 text-[12.5px] text-soft">
          {rows.length === total ? `${total} in all` : `${rows.length} of ${total} read; scroll for more`}
        </p>
      </div>
    </div>
  );
}
