import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { format, parseISO } from 'date-fns';
import { Archive, ArchiveRestore } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { formatPpi } from '@/core/measure/format';
import { leastPpi } from '@/core/measure/plan';
import { thumbnailOf } from '../data/api';
import { useChangeJob } from '../data/queries';
import { orderedWords, type BoardRow } from './rows';
import { WallSketch } from './WallSketch';

const MARK = { good: '●', caution: '▲', trouble: '■' } as const;
/** Height of a row in pixels; all are alike, so that only those in sight are made. */
const ROW = 61;

const column = createColumnHelper<BoardRow>();
const columns = [
  column.accessor('number', {
    header: 'Job',
    cell: (cell) => <span className="number">{cell.getValue()}</span>,
  }),
  column.display({
    id: 'picture',
    cell: ({ row: { original: job } }) => (
      <span className="picture">
        <img className="thumbnail" src={thumbnailOf(job.digest, job.findings.page)} alt="" />
        {job.pieces > 1 && <span className="more">{job.pieces}</span>}
      </span>
    ),
  }),
  column.accessor('title', {
    header: 'What',
    cell: ({ row }) => (
      <div className="title">
        <Link href={`/bench/${row.original.id}`} tabIndex={-1}>
          {row.original.title}
        </Link>
        <span>{row.original.customer || 'no customer named'}</span>
      </div>
    ),
  }),
  column.display({
    id: 'wall',
    header: 'On the wall',
    cell: ({ row }) => row.original.plan && <WallSketch inches={row.original.plan.ordered} />,
  }),
  column.accessor((row) => (row.plan ? row.plan.ordered.width * row.plan.ordered.height : 0), {
    id: 'print',
    header: 'Print',
    cell: ({ row }) => <span className="figure">{orderedWords(row.original)}</span>,
  }),
  column.accessor((row) => (row.plan && !row.plan.vector ? leastPpi(row.plan) : Infinity), {
    id: 'carries',
    header: 'It carries',
    cell: (cell) => (
      <span className="figure">
        {Number.isFinite(cell.getValue()) ? `${formatPpi(cell.getValue())} ppi` : 'shapes'}
      </span>
    ),
  }),
  column.accessor((row) => row.verdict?.short ?? '', {
    id: 'verdict',
    header: 'Seen at its distance',
    cell: ({ row }) =>
      row.original.verdict && (
        <>
          <span className={`mark-${row.original.verdict.tone} me-2`} aria-hidden>
            {MARK[row.original.verdict.tone]}
          </span>
          {row.original.verdict.short}
        </>
      ),
  }),
  column.accessor('due', {
    header: 'Due',
    sortUndefined: 'last',
    cell: (cell) => (cell.getValue() ? format(parseISO(cell.getValue()!), 'EEE d MMM') : '–'),
  }),
  column.accessor('state', {
    header: 'State',
    cell: (cell) => (
      <span className="state" data-state={cell.getValue()}>
        {cell.getValue()}
      </span>
    ),
  }),
  column.display({ id: 'archive', cell: ({ row }) => <ArchiveButton job={row.original} /> }),
];
const RIGHT = new Set(['print', 'carries', 'due']);

function ArchiveButton({ job }: { job: BoardRow }) {
  const change = useChangeJob(job.id);
  const words = job.archived ? 'Back onto the board' : 'Into the archive';
  return (
    <button
      type="button"
      className="archive"
      tabIndex={-1}
      aria-label={`${words}: job ${job.number}`}
      title={`${words} (A)`}
      onClick={(event) => {
        event.stopPropagation();
        change.mutate({ archived: !job.archived });
      }}
    >
      {job.archived ? <ArchiveRestore size={15} /> : <Archive size={15} />}
    </button>
  );
}

/** The rack of tickets: a row a job. Arrow keys go along it, Enter opens, A archives. */
export function JobTable({ rows }: { rows: BoardRow[] }) {
  const router = useRouter();
  const scroller = useRef<HTMLDivElement>(null);
  const table = useReactTable({
    data: rows,
    columns,
    getRowId: (row) => String(row.id),
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const sorted = table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
    getItemKey: (index) => sorted[index]!.id,
  });
  const items = virtual.getVirtualItems();
  const before = items[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);

  const focusRow = (index: number) => {
    const at = Math.min(sorted.length - 1, Math.max(0, index));
    virtual.scrollToIndex(at);
    // The row may only just be made.
    requestAnimationFrame(() =>
      scroller.current?.querySelector<HTMLElement>(`tr[data-index="${at}"]`)?.focus(),
    );
  };

  return (
    <div className="jobs-frame" ref={scroller}>
      <table className="jobs" aria-rowcount={sorted.length}>
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map((header) => {
                const order = header.column.getIsSorted();
                return (
                  <th
                    key={header.id}
                    className={RIGHT.has(header.id) ? 'right' : undefined}
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
          {items.map((item) => {
            const row = sorted[item.index]!;
            const open = () => router.push(`/bench/${row.original.id}`);
            return (
              <tr
                key={row.id}
                data-index={item.index}
                aria-rowindex={item.index + 1}
                style={{ height: ROW }}
                tabIndex={0}
                aria-label={`Job ${row.original.number}, ${row.original.title}`}
                onClick={open}
                onKeyDown={(event) => {
                  if (event.target !== event.currentTarget) return;
                  if (event.key === 'Enter') open();
                  if (event.key.toLowerCase() === 'a') {
                    event.currentTarget.querySelector<HTMLElement>('.archive')?.click();
                  }
                  const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
                  if (!step) return;
                  event.preventDefault();
                  focusRow(item.index + step);
                }}
              >
                {row.getVisibleCells().map((cell) => (
                  <td key={cell.id} className={RIGHT.has(cell.column.id) ? 'right' : undefined}>
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
