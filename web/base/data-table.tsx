import { flexRender, getCoreRowModel, useReactTable, type ColumnDef } from '@tanstack/react-table';
import clsx from 'clsx';
import { ArrowDown, ArrowUp } from 'lucide-react';
import type { ReactNode } from 'react';

/** A column of a list. `sorts`: the orders its head leads to, one after the other; the list is sorted by the server. */
export interface Column<R, S extends string = string> {
  readonly id: string;
  readonly head: string;
  readonly cell: (row: R) => ReactNode;
  readonly sorts?: readonly S[];
  /** Numbers stand to the right. */ readonly isNumber?: boolean;
  readonly className?: string;
}
interface Selection<R> {
  readonly chosen: ReadonlySet<string>;
  readonly onChange: (chosen: Set<string>) => void;
  /** What a row is called, for its box. */ readonly nameOf: (row: R) => string;
}
interface DataTableProps<R, S extends string> {
  readonly label: string;
  readonly rows: readonly R[];
  readonly keyOf: (row: R) => string;
  readonly columns: readonly Column<R, S>[];
  readonly sort?: S;
  /** Orders that run upwards; the others run downwards. */ readonly upwards?: readonly S[];
  readonly onSort?: (sort: S) => void;
  readonly selection?: Selection<R> | undefined;
  readonly onOpen?: (row: R) => void;
}

/** A list as a table: heads that sort, boxes that choose. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function DataTable<R, S extends string = string>(props: DataTableProps<R, S>) {
  const { label, rows, keyOf, columns, selection } = props;
  const table = useReactTable<R>({
    data: rows as R[],
    columns: columns.map((c): ColumnDef<R> => ({
      id: c.id,
      header: c.head,
      cell: (at) => c.cell(at.row.original),
    })),
    getRowId: keyOf,
    getCoreRowModel: getCoreRowModel(),
    manualSorting: true,
    enableRowSelection: selection !== undefined,
    state: {
      rowSelection: Object.fromEntries([...(selection?.chosen ?? [])].map((id) => [id, true])),
    },
    onRowSelectionChange: (update) => {
      const now = Object.fromEntries([...(selection?.chosen ?? [])].map((id) => [id, true]));
      const next = typeof update === 'function' ? update(now) : update;
      selection?.onChange(new Set(Object.keys(next).filter((id) => next[id])));
    },
  });
  const column = (id: string): Column<R, S> => columns.find((c) => c.id === id)!;
  return (
    <div className="overflow-x-auto">
      <table className="ledger" aria-label={label}>
        <thead>
          <tr>
            {selection && (
              <th className="w-8">
                <Box
                  label={`All ${rows.length} that are read`}
                  checked={table.getIsAllRowsSelected()}
                  some={table.getIsSomeRowsSelected()}
                  onChange={table.getToggleAllRowsSelectedHandler()}
                />
              </th>
            )}
            {table.getFlatHeaders().map((head) => (
              <Head key={head.id} column={column(head.column.id)} {...props} />
            ))}
          </tr>
        </thead>
        <tbody>
          {table.getRowModel().rows.map((row) => (
            <tr
              key={row.id}
              onClick={() => props.onOpen?.(row.original)}
              className={clsx(
                props.onOpen && 'cursor-pointer hover:bg-faint',
                row.getIsSelected() && 'bg-faint',
              )}
            >
              {selection && (
                // The box is for choosing: a press beside it does not open the row.
                <td onClick={(event) => event.stopPropagation()}>
                  <Box
                    label={selection.nameOf(row.original)}
                    checked={row.getIsSelected()}
                    onChange={row.getToggleSelectedHandler()}
                  />
                </td>
              )}
              {row.getVisibleCells().map((cell) => {
                const { isNumber, className } = column(cell.column.id);
                return (
                  <td key={cell.id} className={clsx(isNumber && 'num', className)}>
                    {flexRender(cell.column.columnDef.cell, cell.getContext())}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Head<R, S extends string>({
  column: { head, sorts, isNumber, className },
  sort,
  upwards = [],
  onSort,
}: DataTableProps<R, S> & { column: Column<R, S> }) {
  const at = sorts?.indexOf(sort as S) ?? -1;
  const isUp = at >= 0 && upwards.includes(sort as S);
  const shared = clsx(isNumber && 'num', className);
  if (!sorts || !onSort) return <th className={shared}>{head}</th>;
  const Arrow = isUp ? ArrowUp : ArrowDown;
  return (
    <th className={shared} aria-sort={at < 0 ? 'none' : isUp ? 'ascending' : 'descending'}>
      <button
        type="button"
        onClick={() => onSort(sorts[(at + 1) % sorts.length])}
        className={clsx(
          'inline-flex min-h-6 items-end gap-1 hover:text-ink',
          at >= 0 && 'font-semibold text-ink',
        )}
      >
        {head}
        <Arrow size={12} aria-hidden className={at < 0 ? 'opacity-30' : undefined} />
      </button>
    </th>
  );
}

const Box = ({
  label,
  checked,
  some = false,
  onChange,
}: {
  label: string;
  checked: boolean;
  some?: boolean;
  onChange: (event: unknown) => void;
}) => (
  <input
    type="checkbox"
    aria-label={label}
    className="size-6 max-w-4 cursor-pointer align-middle"
    checked={checked}
    ref={(box) => {
      if (box) box.indeterminate = some && !checked;
    }}
    onChange={onChange}
  />
);
