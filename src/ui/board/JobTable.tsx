import {
  createColumnHelper,
  getCoreRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Archive, ArchiveRestore, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef } from 'react';
import { formatPpi } from '@/core/measure/format';
import { BOARD_PAGE, BoardOrder, type BoardRow } from '@/core/shop/board';
import { thumbnailOf, type Board } from '../data/api';
import { useBoardPages } from '../data/queries';
import { SelectBox } from '../parts/SelectBox';
import { VerdictMark } from '../parts/VerdictMark';
import { ROW, VirtualRows } from '../parts/VirtualRows';
import { useJobsActs } from './jobs-acts';
import { askDelete, editJobs } from './dialog-store';
import { Due } from './Due';
import { actedOn, select, useSelection } from './selection';
import { WallSketch } from './WallSketch';
import { say } from '@/core/words/say';

const pageOf = (index: number) => Math.floor(index / BOARD_PAGE);

const column = createColumnHelper<BoardRow>();
const columns = [
  column.display({
    id: 'selected',
    header: () => <span className="visually-hidden">{say`Selected`}</span>,
    cell: ({ row }) => <SelectJob job={row.original} />,
  }),
  column.accessor('number', {
    header: say`Job`,
    cell: (cell) => <span className="number">{cell.getValue()}</span>,
  }),
  column.display({
    id: 'picture',
    cell: ({ row: { original: job } }) => (
      <span className="picture">
        <img className="thumbnail" src={thumbnailOf(job.facts.digest, job.facts.page)} alt="" />
        {job.pieces > 1 && <span className="more">{job.pieces}</span>}
      </span>
    ),
  }),
  column.accessor('title', {
    header: say`What`,
    cell: ({ row }) => (
      <div className="title">
        <Link href={`/bench/${row.original.id}`} prefetch={false} tabIndex={-1}>
          {row.original.title}
        </Link>
        <span title={row.original.note || undefined}>
          {row.original.customer || say`no customer named`}
          {row.original.note && ` · ${row.original.note}`}
        </span>
      </div>
    ),
  }),
  column.display({
    id: 'wall',
    header: say`On the wall`,
    cell: ({ row }) =>
      row.original.facts.inches && <WallSketch inches={row.original.facts.inches} />,
  }),
  column.accessor((row) => row.facts.print, {
    id: 'print',
    header: say`Print`,
    cell: (cell) => <span className="figure">{cell.getValue()}</span>,
  }),
  column.accessor((row) => row.facts.ppi, {
    id: 'ppi',
    header: say`Effective resolution`,
    cell: (cell) => {
      const ppi = cell.getValue();
      return (
        <span className="figure">{ppi === null ? say`shapes` : say`${formatPpi(ppi)} ppi`}</span>
      );
    },
  }),
  column.accessor((row) => row.facts.material, {
    id: 'material',
    header: say`Printed on`,
    enableSorting: false,
    cell: (cell) => cell.getValue() ?? '–',
  }),
  column.accessor((row) => row.facts.verdict, {
    id: 'verdict',
    header: say`Seen at its distance`,
    cell: (cell) => {
      const verdict = cell.getValue();
      return (
        verdict && (
          <>
            <VerdictMark tone={verdict.tone} /> {verdict.short}
          </>
        )
      );
    },
  }),
  column.accessor('due', {
    header: say`Due`,
    cell: ({ row }) => <Due job={row.original} />,
  }),
  column.accessor('state', {
    header: say`State`,
    cell: (cell) => (
      <span className="state" data-state={cell.getValue()}>
        {cell.getValue()}
      </span>
    ),
  }),
  column.display({
    id: 'away',
    cell: ({ row }) => (
      <>
        <ArchiveButton job={row.original} />
        <DeleteButton job={row.original} />
      </>
    ),
  }),
];
const RIGHT = new Set(['print', 'ppi', 'due']);

/** A column's own class, and how its figures stand. */
const classOf = (id: string): string => `of-${id} ${RIGHT.has(id) ? 'right' : ''}`;

/** Takes a job into what the next act is for. */
function SelectJob({ job: { id, number } }: { job: BoardRow }) {
  const on = useSelection((selection) => selection.chosen.has(id));
  return (
    <SelectBox
      label={say`Select job ${number}`}
      on={on}
      onChange={(chosen) => select([id], chosen)}
    />
  );
}

function ArchiveButton({ job }: { job: BoardRow }) {
  const { archive } = useJobsActs();
  const words = job.archived ? say`Back onto the board` : say`Into the archive`;
  return (
    <button
      type="button"
      className="archive"
      tabIndex={-1}
      aria-label={say`${words}: job ${job.number}`}
      title={`${words} (A)`}
      onClick={(event) => {
        event.stopPropagation();
        archive(actedOn(job.id), !job.archived);
      }}
    >
      {job.archived ? <ArchiveRestore size={15} /> : <Archive size={15} />}
    </button>
  );
}

function DeleteButton({ job: { id, number } }: { job: BoardRow }) {
  return (
    <button
      type="button"
      className="archive delete"
      tabIndex={-1}
      aria-label={say`Delete job ${number}`}
      title={say`Delete … (Del)`}
      onClick={(event) => {
        event.stopPropagation();
        askDelete(actedOn(id));
      }}
    >
      <Trash2 size={15} />
    </button>
  );
}

/**
 * The rack of tickets: a row a job. Arrow keys go along it, Enter opens, Space selects, E changes what is ordered, A archives,
 * Del deletes. Its rows come from the server a page at a time, as they come into sight.
 */
export function JobTable({
  board,
  total,
  onOrder,
}: {
  board: Board;
  total: number;
  onOrder: (order: BoardOrder, down: boolean) => void;
}) {
  const router = useRouter();
  const selected = useSelection((selection) => selection.chosen);
  const frame = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  // Another order begins at its beginning.
  useEffect(() => void frame.current?.scrollTo({ top: 0 }), [board]);
  const items = virtual.getVirtualItems();
  const [start, end] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  const pages = useBoardPages(board, pageOf(start), pageOf(end));
  const indices = useMemo(
    () =>
      Array.from({ length: end - start + 1 }, (_, i) => start + i).filter(
        (index) => pages[pageOf(index) - pageOf(start)]?.rows[index % BOARD_PAGE],
      ),
    [pages, start, end],
  );
  // A table that is given another list begins anew: it must be the same one for the same rows.
  const data = useMemo(
    () => indices.map((index) => pages[pageOf(index) - pageOf(start)]!.rows[index % BOARD_PAGE]!),
    [indices, pages, start],
  );

  const sorting = useMemo<SortingState>(
    () => [{ id: board.order, desc: board.down }],
    [board.order, board.down],
  );
  const table = useReactTable({
    data,
    columns,
    state: { sorting },
    manualSorting: true,
    enableSortingRemoval: false,
    sortDescFirst: false,
    onSortingChange: (update) => {
      const [wanted] = typeof update === 'function' ? update(sorting) : update;
      const order = BoardOrder.safeParse(wanted?.id);
      if (order.success) onOrder(order.data, wanted!.desc);
    },
    getRowId: (row) => String(row.id),
    getCoreRowModel: getCoreRowModel(),
  });
  const seen = data.length > 0;
  useEffect(() => void (seen && performance.mark('board rows')), [seen]);

  return (
    <VirtualRows
      {...{ table, frame, virtual, indices, total, selected, classOf }}
      rows={table.getRowModel().rows}
      label={say`Jobs`}
      nameOf={({ number, title }) => say`Job ${number}, ${title}`}
      onOpen={({ id }) => router.push(`/bench/${id}`)}
      onExtend={(from, to) => {
        const rows = [from, to].flatMap((index) => data[index - indices[0]!] ?? []);
        select(
          rows.map(({ id }) => id),
          true,
        );
      }}
      onKey={(event, row) => {
        const { id } = row;
        const click = (button: string) =>
          event.currentTarget.querySelector<HTMLElement>(button)?.click();
        if (event.key === 'Enter') router.push(`/bench/${id}`);
        if (event.key.toLowerCase() === 'a') click('.archive');
        if (event.key === 'Delete') click('.delete');
        if (event.key === ' ') {
          event.preventDefault();
          select([id], !useSelection.getState().chosen.has(id));
        }
        if (event.key.toLowerCase() === 'e') {
          event.preventDefault();
          const jobs = actedOn(id);
          editJobs(jobs, jobs.length === 1 ? row : null);
        }
      }}
    />
  );
}
