import { flexRender, type Row, type Table } from '@tanstack/react-table';
import type { Virtualizer } from '@tanstack/react-virtual';
import {
  memo,
  useCallback,
  useEffect,
  useRef,
  type CSSProperties,
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
} from 'react';

interface Props<T extends { id: number }> {
  table: Table<T>;
  /** the table's rows that are made */
  rows: readonly Row<T>[];
  frame: RefObject<HTMLDivElement | null>;
  virtual: Virtualizer<HTMLDivElement, Element>;
  /** where each of them stands among all, in order */
  indices: readonly number[];
  /** rows of all, those that are not made as well */
  total: number;
  label: string;
  /** rows that are selected, by number */
  selected: ReadonlySet<number>;
  /** a column's own class */
  classOf(column: string): string;
  /** what stands beside a column's name */
  besideOf?: (column: string) => ReactNode;
  /** what a row is called */
  nameOf(row: T): string;
  onOpen(row: T): void;
  /** keys on a row, apart from those that go along the rows */
  onKey(event: KeyboardEvent, row: T, index: number): void;
  /** called after arrows went to another row with Shift held */
  onExtend(from: number, to: number): void;
}

/** Height of a row in pixels, and of the dashes between rows in the theme; all are alike, so that only those in sight are made. */
export const ROW = 65;

const STEPS: Partial<Record<string, number>> = {
  ...{ ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 },
};

/**
 * A long table of which only the rows in sight are made, each once. Arrow keys go along them. A theme may lay its rows apart:
 * they know which of all they are.
 */
export function VirtualRows<T extends { id: number }>(props: Props<T>) {
  const { table, rows, frame, indices, total, label, selected, classOf, besideOf, nameOf } = props;
  const before = (indices[0] ?? 0) * ROW;
  const after = (total - 1 - (indices.at(-1) ?? total - 1)) * ROW;
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });
  const focusRow = (index: number): number => {
    const at = Math.min(latest.current.total - 1, Math.max(0, index));
    latest.current.virtual.scrollToIndex(at);
    // The row may only just be made.
    requestAnimationFrame(() =>
      frame.current?.querySelector<HTMLElement>(`tr[data-index="${at}"]`)?.focus(),
    );
    return at;
  };
  const press = (event: KeyboardEvent, row: T, index: number) => {
    if (event.target !== event.currentTarget) return;
    const step = STEPS[event.key];
    if (step === undefined) return latest.current.onKey(event, row, index);
    event.preventDefault();
    const at = focusRow(index + step);
    if (event.shiftKey) latest.current.onExtend(index, at);
  };
  const pressed = useRef(press);
  useEffect(() => {
    pressed.current = press;
  });
  const onKey = useCallback(
    (event: KeyboardEvent, row: T, index: number) => pressed.current(event, row, index),
    [],
  );
  const onOpen = useCallback((row: T) => latest.current.onOpen(row), []);

  return (
    <div className="jobs-frame" ref={frame}>
      <table className="jobs" aria-rowcount={total} aria-label={label}>
        <Head
          {...{ table, classOf, besideOf }}
          columns={table.options.columns}
          order={table.getState().sorting}
        />
        <tbody style={{ '--rows': total } as CSSProperties}>
          {before > 0 && <tr className="spacer" style={{ height: before }} />}
          {rows.map((row, i) => (
            <TableRow
              key={row.id}
              row={row as unknown as Row<{ id: number }>}
              index={indices[i]!}
              columns={table.options.columns}
              selected={selected.has(row.original.id)}
              name={nameOf(row.original)}
              classOf={classOf}
              onKey={onKey as OfRow['onKey']}
              onOpen={onOpen as OfRow['onOpen']}
            />
          ))}
          {after > 0 && <tr className="spacer" style={{ height: after }} />}
        </tbody>
      </table>
    </div>
  );
}

interface OfHead<T> {
  table: Table<T>;
  classOf(column: string): string;
  besideOf: ((column: string) => ReactNode) | undefined;
  /** what it is made by */
  columns: unknown;
  order: unknown;
}

/** The columns' names; it is made anew where these or their order change. */
const Head = memo(
  function Head<T>({ table, classOf, besideOf }: OfHead<T>) {
    return (
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
                  {besideOf?.(header.id)}
                </th>
              );
            })}
          </tr>
        ))}
      </thead>
    );
  },
  (before, after) =>
    before.columns === after.columns &&
    before.order === after.order &&
    before.besideOf === after.besideOf,
) as <T>(of: OfHead<T>) => ReactNode;

interface OfRow {
  row: Row<{ id: number }>;
  index: number;
  /** what its cells are made by */
  columns: unknown;
  selected: boolean;
  name: string;
  classOf(column: string): string;
  onKey(event: KeyboardEvent, row: { id: number }, index: number): void;
  onOpen(row: { id: number }): void;
}

/** A row as long as nothing of it changes. */
const TableRow = memo(
  function TableRow({ row, index, selected, name, classOf, onKey, onOpen }: OfRow) {
    return (
      <tr
        data-index={index}
        aria-rowindex={index + 1}
        style={{ height: ROW, '--row': index } as CSSProperties}
        tabIndex={0}
        data-selected={selected}
        aria-label={name}
        onClick={() => onOpen(row.original)}
        onKeyDown={(event) => onKey(event, row.original, index)}
      >
        {row.getVisibleCells().map((cell) => (
          <td key={cell.id} className={classOf(cell.column.id)}>
            {flexRender(cell.column.columnDef.cell, cell.getContext())}
          </td>
        ))}
      </tr>
    );
  },
  (before, after) =>
    before.row.original === after.row.original &&
    before.index === after.index &&
    before.columns === after.columns &&
    before.selected === after.selected &&
    before.name === after.name,
);
