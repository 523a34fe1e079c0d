'use client';

import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  useReactTable,
} from '@tanstack/react-table';
import { format, parseISO } from 'date-fns';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { formatPpi } from '@/core/measure/format';
import { leastPpi, planPrint, type PrintPlan } from '@/core/measure/plan';
import { formatLength } from '@/core/measure/units';
import { verdict, type Verdict } from '@/core/measure/verdict';
import { JobState, type JobSummary, type TakenIn } from '@/core/shop/job';
import { thumbnailOf } from '../data/api';
import { useBeginJob, useJobs } from '../data/queries';
import { DropZone } from './DropZone';
import { NewJobDialog } from './NewJobDialog';
import { WallSketch } from './WallSketch';

interface Row extends JobSummary {
  plan: PrintPlan | null;
  verdict: Verdict | null;
}

const MARK = { good: '●', caution: '▲', trouble: '■' } as const;

const column = createColumnHelper<Row>();
const columns = [
  column.accessor('number', {
    header: 'Job',
    cell: (cell) => <span className="number">{cell.getValue()}</span>,
  }),
  column.display({
    id: 'picture',
    cell: ({ row }) => <img className="thumbnail" src={thumbnailOf(row.original.digest)} alt="" />,
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
    cell: ({ row }) => <span className="figure">{paperWords(row.original)}</span>,
  }),
  column.accessor((row) => (row.plan ? leastPpi(row.plan) : 0), {
    id: 'carries',
    header: 'It carries',
    cell: (cell) => <span className="figure">{formatPpi(cell.getValue())} ppi</span>,
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
];
const RIGHT = new Set(['print', 'carries', 'due']);

function paperWords({ work, findings }: JobSummary): string {
  const { width, height } = work.paper;
  if (width && height && width.unit === height.unit && width.unit !== '%') {
    return `${formatLength(width).replace(/ \D+$/, '')} × ${formatLength(height)}`;
  }
  if (width || height)
    return `${width ? formatLength(width) : '…'} × ${height ? formatLength(height) : '…'}`;
  return `${findings.width} × ${findings.height} px`;
}

/** The rack of tickets. */
export function Board() {
  const router = useRouter();
  const { data: jobs, error } = useJobs();
  const begin = useBeginJob();
  const [taken, setTaken] = useState<TakenIn[]>([]);
  const [state, setState] = useState<JobState | null>(null);
  const [search, setSearch] = useState('');
  const searchField = useRef<HTMLInputElement>(null);

  useEffect(() => {
    const focusSearch = (event: KeyboardEvent) => {
      if (event.key !== '/' || event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      searchField.current?.focus();
    };
    addEventListener('keydown', focusSearch);
    return () => removeEventListener('keydown', focusSearch);
  }, []);

  const rows = useMemo(
    () =>
      (jobs ?? []).map((job): Row => {
        const planned = planPrint(job.findings, job.work.paper, job.work.trials[0]!.ppi);
        const plan = planned.ok ? planned.plan : null;
        return { ...job, plan, verdict: plan && verdict(plan, job.work.distance) };
      }),
    [jobs],
  );
  const table = useReactTable({
    data: useMemo(() => rows.filter((row) => !state || row.state === state), [rows, state]),
    columns,
    state: { globalFilter: search },
    globalFilterFn: (row, _, text: string) =>
      `${row.original.number} ${row.original.title} ${row.original.customer}`
        .toLowerCase()
        .includes(text.toLowerCase()),
    getCoreRowModel: getCoreRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });

  const [first] = taken;
  const empty = jobs?.length === 0;
  return (
    <main className="board">
      <header>
        <h1>On the board</h1>
        {!empty && (
          <>
            <div className="states" role="group" aria-label="State">
              {[null, ...JobState.options].map((option) => {
                const count = rows.filter((row) => !option || row.state === option).length;
                if (option && count === 0) return null;
                return (
                  <button
                    key={option}
                    type="button"
                    aria-pressed={state === option}
                    onClick={() => setState(option)}
                  >
                    {option ? option[0]!.toUpperCase() + option.slice(1) : 'All'} {count}
                  </button>
                );
              })}
            </div>
            <div className="search">
              <Form.Control
                ref={searchField}
                type="search"
                placeholder="Search job, customer …"
                aria-label="Search job or customer"
                value={search}
                onChange={(event) => setSearch(event.target.value)}
              />
              {search === '' && <kbd>/</kbd>}
            </div>
          </>
        )}
      </header>
      {error && <p className="trouble">{error.message}</p>}
      {!empty && (
        <table className="jobs">
          <thead>
            {table.getHeaderGroups().map((group) => (
              <tr key={group.id}>
                {group.headers.map((header) => {
                  const sorted = header.column.getIsSorted();
                  return (
                    <th
                      key={header.id}
                      className={RIGHT.has(header.id) ? 'right' : undefined}
                      aria-sort={
                        sorted ? (sorted === 'asc' ? 'ascending' : 'descending') : undefined
                      }
                    >
                      {header.column.getCanSort() ? (
                        <button type="button" onClick={header.column.getToggleSortingHandler()}>
                          {flexRender(header.column.columnDef.header, header.getContext())}
                          {sorted ? (sorted === 'asc' ? ' ↑' : ' ↓') : ''}
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
            {table.getRowModel().rows.map((row) => {
              const open = () => router.push(`/bench/${row.original.id}`);
              return (
                <tr
                  key={row.id}
                  tabIndex={0}
                  aria-label={`Job ${row.original.number}, ${row.original.title}`}
                  onClick={open}
                  onKeyDown={(event) => event.key === 'Enter' && open()}
                >
                  {row.getVisibleCells().map((cell) => (
                    <td key={cell.id} className={RIGHT.has(cell.column.id) ? 'right' : undefined}>
                      {flexRender(cell.column.columnDef.cell, cell.getContext())}
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {jobs && (
        <DropZone empty={empty ?? false} onTaken={(one) => setTaken((list) => [...list, one])} />
      )}
      {first && (
        <NewJobDialog
          key={`${first.digest} ${taken.length}`}
          taken={first}
          busy={begin.isPending}
          onCancel={() => setTaken((list) => list.slice(1))}
          onBegin={(job) =>
            begin.mutate(job, {
              onSuccess: (begun) => {
                setTaken((list) => list.slice(1));
                if (taken.length === 1) router.push(`/bench/${begun.id}`);
              },
            })
          }
        />
      )}
    </main>
  );
}
