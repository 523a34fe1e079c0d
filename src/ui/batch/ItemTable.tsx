import {
  createColumnHelper,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Pencil } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { BatchItem } from '@/core/batch/batch';
import { estimateBy, type Throughput } from '@/core/render/throughput';
import { formatSeconds } from '@/core/measure/format';
import { thumbnailOf } from '../data/api';
import { useOpenTasks, useThroughput } from '../data/queries';
import { SelectBox } from '../parts/SelectBox';
import { VerdictMark } from '../parts/VerdictMark';
import { ROW, VirtualRows } from '../parts/VirtualRows';
import { PpiCell, SizeCell, StepsCell } from './cells';
import { COLUMN_WORDS, PlanColumn } from './plan-column';
import { actedOn, select, useSelection } from './selection';
import type { ItemsActs } from './use-acts';
import { fileWords, ITEM_STATES } from './words';
import { say } from '@/core/words/say';

/** What cells need beside their row. */
interface Beside {
  acts: ItemsActs;
  throughput: Throughput | undefined;
}

const column = createColumnHelper<BatchItem>();

const columnsWith = ({ acts, throughput }: Beside) => [
  column.display({
    id: 'selected',
    header: () => <span className="visually-hidden">{say`Selected`}</span>,
    cell: ({ row }) => <SelectItem item={row.original} />,
  }),
  column.display({
    id: 'picture',
    cell: ({ row: { original: item } }) => (
      <img className="thumbnail" src={thumbnailOf(item.facts.digest, item.facts.page)} alt="" />
    ),
  }),
  column.accessor('fileName', {
    id: 'title',
    header: say`Picture`,
    cell: ({ row: { original: item } }) => (
      <div className="title">
        <b title={item.fileName}>{item.fileName}</b>
        <span>{foundWords(item)}</span>
      </div>
    ),
  }),
  column.accessor((item) => item.facts.house?.name ?? item.facts.trial, {
    id: 'steps',
    header: say`Treated by`,
    cell: ({ row }) => <StepsCell item={row.original} acts={acts} />,
  }),
  column.accessor(
    (item) => (item.facts.pixels ? item.facts.pixels.width * item.facts.pixels.height : 0),
    {
      id: 'print',
      header: say`Print`,
      cell: ({ row }) => <SizeCell item={row.original} acts={acts} />,
    },
  ),
  column.accessor((item) => item.facts.ppi, {
    id: 'ppi',
    header: say`ppi`,
    cell: ({ row }) => <PpiCell item={row.original} acts={acts} />,
  }),
  column.accessor((item) => fileWords(item.facts.file), {
    id: 'file',
    header: say`File`,
    cell: (cell) => cell.getValue(),
  }),
  column.accessor((item) => TONES.indexOf(item.facts.verdict?.tone ?? 'trouble'), {
    id: 'verdict',
    header: say`Seen at its distance`,
    cell: ({ row }) => <Verdict item={row.original} />,
  }),
  column.accessor((item) => secondsOf(item, throughput) ?? 0, {
    id: 'time',
    header: say`Takes`,
    cell: ({ row }) => {
      const seconds = secondsOf(row.original, throughput);
      return (
        <span className="figure">{seconds === null ? '–' : `≈ ${formatSeconds(seconds)}`}</span>
      );
    },
  }),
  column.accessor((item) => ITEM_STATES[item.state], {
    id: 'state',
    header: say`State`,
    cell: ({ row }) => <State item={row.original} />,
  }),
];

const TONES = ['good', 'caution', 'trouble'];
const RIGHT = new Set(['ppi', 'time']);
const classOf = (id: string): string => `of-${id} ${RIGHT.has(id) ? 'right' : ''}`;

const secondsOf = (
  { facts: { cost } }: BatchItem,
  throughput: Throughput | undefined,
): number | null => (cost && throughput ? estimateBy(cost, throughput).likely : null);

/** What a picture is, and what it suffers from. */
const foundWords = ({ facts: { kind, suffers, damaged } }: BatchItem): string =>
  [
    kind,
    ...(damaged > 0 ? [say`${Math.max(1, Math.round(damaged * 100))} % is missing`] : []),
    ...(suffers.length > 0 ? [suffers.join(', ')] : []),
  ].join(' · ');

function SelectItem({ item: { id, fileName } }: { item: BatchItem }) {
  const on = useSelection((selection) => selection.chosen.has(id));
  return (
    <SelectBox
      label={say`Select ${fileName}`}
      on={on}
      onChange={(chosen) => select([id], chosen)}
    />
  );
}

function Verdict({ item: { facts } }: { item: BatchItem }) {
  if (facts.trouble) return <span className="trouble">{facts.trouble}</span>;
  return (
    facts.verdict && (
      <>
        <VerdictMark tone={facts.verdict.tone} /> {facts.verdict.short}
      </>
    )
  );
}

function State({ item }: { item: BatchItem }) {
  const { state, task, error, judgement, delivered } = item;
  // How far its run is comes with the news of runs.
  const running = useOpenTasks().find(({ id }) => id === task);
  const share = state === 'running' && running ? `${Math.round(running.progress * 100)} %` : '';
  return (
    <div className="item-state" data-state={state} title={error ?? delivered ?? undefined}>
      <span>
        {ITEM_STATES[state]} {share && <span className="figure">{share}</span>}
      </span>
      {judgement && <small data-judgement={judgement}>{judgement}</small>}
      {delivered && !judgement && <small className="soft">{say`in its folder`}</small>}
      {error && <small className="trouble">{error}</small>}
    </div>
  );
}

const ChangeColumn = ({ words, onPress }: { words: string; onPress(): void }) => (
  <button
    type="button"
    className="change-column"
    aria-label={words}
    title={words}
    onClick={onPress}
  >
    <Pencil size={12} aria-hidden />
  </button>
);

/**
 * The pictures of a batch, a row each. Arrow keys go along them, Enter looks at one at 1:1, Space selects, E changes, G and B
 * judge, Del takes out.
 */
export function ItemTable({
  items,
  acts,
  onLook,
  onColumn,
}: {
  items: readonly BatchItem[];
  acts: ItemsActs;
  onLook(item: number): void;
  /** a column is to be changed */
  onColumn(column: PlanColumn): void;
}) {
  const selected = useSelection((selection) => selection.chosen);
  const { data: throughput } = useThroughput();
  const frame = useRef<HTMLDivElement>(null);
  const [sorting, setSorting] = useState<SortingState>([]);
  const columns = useMemo(() => columnsWith({ acts, throughput }), [acts, throughput]);
  const data = useMemo(() => [...items], [items]);
  const sorted = useReactTable({
    data,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getRowId: (row) => String(row.id),
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const all = sorted.getRowModel().rows;
  const virtual = useVirtualizer({
    count: all.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW,
    overscan: 3,
  });
  const shown = virtual.getVirtualItems();
  const indices = shown.map(({ index }) => index);
  const rows = indices.flatMap((index) => all[index] ?? []);
  const besideOf = useCallback(
    (id: string) => {
      const { data: name } = PlanColumn.safeParse(id);
      return name && <ChangeColumn words={COLUMN_WORDS[name]} onPress={() => onColumn(name)} />;
    },
    [onColumn],
  );
  const seen = rows.length > 0;
  useEffect(() => void (seen && performance.mark('batch rows')), [seen]);
  return (
    <VirtualRows
      {...{ table: sorted, rows, frame, virtual, indices, selected, classOf, besideOf }}
      total={all.length}
      label={say`Pictures`}
      nameOf={({ fileName }) => fileName}
      onOpen={({ id }) => onLook(id)}
      onExtend={(from, to) =>
        select(
          [from, to].flatMap((index) => all[index]?.original.id ?? []),
          true,
        )
      }
      onKey={(event, { id }) => {
        const key = event.key.toLowerCase();
        if (event.ctrlKey || event.metaKey || event.altKey) return;
        if (key === 'enter') onLook(id);
        if (key === 'g') acts.judge(actedOn(id), 'good');
        if (key === 'b') acts.judge(actedOn(id), 'to the bench');
        if (key === 'delete') acts.leave(actedOn(id));
        if (key === 'e') acts.askChange(actedOn(id));
        if (key === ' ') {
          event.preventDefault();
          select([id], !useSelection.getState().chosen.has(id));
        }
      }}
    />
  );
}
