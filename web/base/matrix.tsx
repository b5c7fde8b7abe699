import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';

export interface MatrixColumn {
  readonly id: string;
  readonly head: ReactNode;
  readonly title: string;
}
/**
 * Rows down, columns across, thousands of both: only what is in sight is drawn. Names of rows stay at
 * the left, names of columns at the top. Arrow keys go from cell to cell.
 */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function Matrix<R>({
  label,
  columns,
  rows,
  rowName,
  rowKey,
  cell,
  total,
  more,
  loadMore,
  rowHeight = 34,
  columnWidth = 72,
  nameWidth = 290,
  headHeight = 132,
}: {
  label: string;
  columns: readonly MatrixColumn[];
  rows: readonly R[];
  rowName: (row: R) => ReactNode;
  rowKey: (row: R) => string;
  cell: (row: R, columnId: string) => ReactNode;
  total: number;
  more: boolean;
  loadMore: () => void;
  rowHeight?: number;
  columnWidth?: number;
  nameWidth?: number;
  headHeight?: number;
}) {
  const box = useRef<HTMLDivElement>(null);
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 6,
    getItemKey: (i) => rowKey(rows[i]),
    scrollMargin: headHeight,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: columns.length,
    getScrollElement: () => box.current,
    estimateSize: () => columnWidth,
    overscan: 3,
    scrollMargin: nameWidth,
  });
  const lastRow = down.getVirtualItems().at(-1)?.index ?? 0;
  useEffect(() => {
    if (more && lastRow >= rows.length - 15) loadMore();
  }, [more, lastRow, rows.length, loadMore]);
  const width = nameWidth + columns.length * columnWidth;

  const onKeyDown = (event: KeyboardEvent): void => {
    const step = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[event.key];
    const here = (event.target as HTMLElement)
      .closest<HTMLElement>('[data-at]')
      ?.dataset.at?.split(' ')
      .map(Number);
    if (!step || !here) return;
    event.preventDefault();
    // The next cell in that direction that has something in it.
    let [r, c] = here as [number, number];
    for (let i = 0; i < 60; i++) {
      r += step[0];
      c += step[1];
      if (r < 0 || c < 0 || r >= rows.length || c >= columns.length) return;
      const next = box.current?.querySelector<HTMLElement>(`[data-at="${r} ${c}"] :is(a, button, input)`);
      if (next) {
        next.focus();
        return;
      }
    }
  };

  return (
    <div>
      <div
        ref={box}
        role="grid"
        aria-label={label}
        aria-rowcount={total + 1}
        aria-colcount={columns.length + 1}
        tabIndex={0}
        onKeyDown={onKeyDown}
        className="h-[calc(100vh-268px)] min-h-72 overflow-auto border-b border-rule"
      >
        <div style={{ width, height: headHeight + down.getTotalSize() }} className="relative">
          <div
            role="row"
            className="sticky top-0 z-20 border-b-[1.5px] border-ink bg-paper"
            style={{ height: headHeight, width }}
          >
            <div
              role="columnheader"
              className="sticky left-0 z-30 flex h-full items-end border-r border-rule bg-paper pb-1.5 text-[12px] font-medium text-soft"
              style={{ width: nameWidth }}
            >
              Fitment
            </div>
            {across.getVirtualItems().map((col) => (
              <div
                key={columns[col.index].id}
                role="columnheader"
                title={columns[col.index].title}
                className="absolute bottom-1.5 text-[12px] leading-tight"
                style={{ left: col.start, width: columnWidth }}
              >
                <div className="origin-bottom-left translate-x-[34px] -rotate-[55deg] whitespace-nowrap">
                  {columns[col.index].head}
                </div>
              </div>
            ))}
          </div>
          {down.getVirtualItems().map((item) => (
            <div
              key={item.key}
              role="row"
              aria-rowindex={item.index + 2}
              className="absolute left-0 border-b border-rule"
              style={{ top: item.start, height: rowHeight, width }}
            >
              <div
                role="rowheader"
                className="sticky left-0 z-10 flex h-full items-center border-r border-rule bg-paper pr-2"
                style={{ width: nameWidth }}
              >
                <div className="min-w-0 flex-1">{rowName(rows[item.index])}</div>
              </div>
              {across.getVirtualItems().map((col) => (
                <div
                  key={columns[col.index].id}
                  role="gridcell"
                  data-at={`${item.index} ${col.index}`}
                  className="absolute top-0 grid place-items-center border-r border-rule/50"
                  style={{ left: col.start, width: columnWidth, height: rowHeight - 1 }}
                >
                  {cell(rows[item.index], columns[col.index].id)}
                </div>
              ))}
            </div>
          ))}
        </div>
      </div>
      <p className="pt-1.5 text-[12.5px] text-soft">
        {rows.length === total
          ? `${total} fitments`
          : `${rows.length} of ${total} fitments read; scroll for more`}
        , {columns.length} parts
      </p>
    </div>
  );
}
