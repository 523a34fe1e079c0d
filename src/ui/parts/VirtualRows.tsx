import { flexRender, type Row, type Table } from '@tanstack/react-table';
import type { Virtualizer } from '@tanstack/react-virtual';
import type { ComponentProps, KeyboardEvent, RefObject } from 'react';

interface Props<T> {
  table: Table<T>;
  /** the table's rows that are made */
  rows: readonly Row<T>[];
  frame: RefObject<HTMLDivElement | null>;
  virtual: Virtualizer<HTMLDivElement, Element>;
  /** where each of them stands among all, in order */
  indices: readonly number[];
  /** rows of all, those that are not made as well */
  total: number;
  /** of a row, in pixels; all are alike, so that only those in sight are made */
  height: number;
  label: string;
  /** a column's own class */
  classOf(column: string): string;
  /** what a row is beside its cells */
  rowProps(row: T, index: number): Omit<ComponentProps<'tr'>, 'onKeyDown'>;
  /** keys on a row, apart from those that go along the rows */
  onKey(event: KeyboardEvent, row: T, index: number): void;
  /** called after arrows went to another row with Shift held */
  onExtend(from: number, to: number): void;
}

const STEPS: Partial<Record<string, number>> = {
  ...{ ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 },
};

/** A long table of which only the rows in sight are made. Arrow keys go along them. */
export function VirtualRows<T>({
  table,
  rows,
  frame,
  virtual,
  indices,
  total,
  height,
  label,
  classOf,
  rowProps,
  onKey,
  onExtend,
}: Props<T>) {
  const before = (indices[0] ?? 0) * height;
  const after = (total - 1 - (indices.at(-1) ?? total - 1)) * height;

  const focusRow = (index: number): number => {
    const at = Math.min(total - 1, Math.max(0, index));
    virtual.scrollToIndex(at);
    // The row may only just be made.
    requestAnimationFrame(() =>
      frame.current?.querySelector<HTMLElement>(`tr[data-index="${at}"]`)?.focus(),
    );
    return at;
  };

  return (
    <div className="jobs-frame" ref={frame}>
      <table className="jobs" aria-rowcount={total} aria-label={label}>
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map((header) => {
                const order = header.column.getIsSorted();
                return (
                  <th
                    key={header.id}
                    className={classOf(header.id)}
                    aria-sort={order ? (order === 'asc' ? 'ascending' : 'descending') : undefined}
                  >
                    {header.column.getCanSort() ? (
                      <button type="button" onClick={header.column.getToggleSortingHandler()}>
                        {flexRender(header.column.columnDef.header, header.getContext())}
                        {order ? (order === 'asc' ? ' ↑' : ' ↓') : ''}
                      </button>
                    ) : (
                      flexRender(header.column.columnDef.header, header.getContext())
                    )}
                  </th>
                );
              })}
            </tr>
          ))}
        </thead>
        <tbody>
          {before > 0 && <tr className="spacer" style={{ height: before }} />}
          {rows.map((row, i) => {
            const index = indices[i]!;
            return (
              <tr
                key={row.id}
                data-index={index}
                aria-rowindex={index + 1}
                style={{ height }}
                tabIndex={0}
                {...rowProps(row.original, index)}
                onKeyDown={(event) => {
                  if (event.target !== event.currentTarget) return;
                  const step = STEPS[event.key];
                  if (step === undefined) return onKey(event, row.original, index);
                  event.preventDefault();
                  const at = focusRow(index + step);
                  if (event.shiftKey) onExtend(index, at);
                }}
              >
                {row.getVisibleCells().map((cell) => (
                  <td key={cell.id} className={classOf(cell.column.id)}>
                    {flexRender(cell.column.columnDef.cell, cell.getContext())}
                  </td>
                ))}
              </tr>
            );
          })}
          {after > 0 && <tr className="spacer" style={{ height: after }} />}
        </tbody>
      </table>
    </div>
  );
}
