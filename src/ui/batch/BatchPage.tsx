'use client';

import { Download, Pause, Play, Plus, Send } from 'lucide-react';
import Link from 'next/link';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Button, Dropdown } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { LEFT, type BatchHead, type BatchItem } from '@/core/batch/batch';
import { resultsAddress } from '../data/api';
import { useBatch, useBatchItems, useChangeBatch, useDeleteBatch } from '../data/batches';
import { Choices } from '../parts/Choices';
import { Menu } from '../parts/Menu';
import { Progress } from '../parts/Progress';
import { USUAL } from '@/core/shop/settings';
import { useSettings } from '../data/settings';
import { ChangeItems } from './ChangeItems';
import { EditBatch } from './EditBatch';
import { FILTERS, Filter, RefusedList, type FilterName } from './Filter';
import { ItemTable } from './ItemTable';
import { LookThrough } from './LookThrough';
import { OnTheirWayLine } from './OnTheirWayLine';
import type { PlanColumn } from './plan-column';
import { SelectionBar } from './SelectionBar';
import { SendResults } from './SendResults';
import { selectNone, useSelection } from './selection';
import { takeInto, useOnTheirWay } from './take-in';
import { useActs } from './use-acts';
import { countOf, planWords, stateWords } from './words';
import { say } from '@/core/words/say';

/** A batch: its pictures in a table, or one by one at 1:1; run, paused, fetched. */
export function BatchPage({ id }: { id: number }) {
  const { data: batch, error } = useBatch(id);
  const { items, error: itemsError } = useBatchItems(id);
  const trouble = error ?? itemsError;
  // What is selected in one batch means nothing in another.
  useEffect(() => selectNone, [id]);
  if (batch && items) return <LaidOut batch={batch} items={items} />;
  return (
    <main className="board">
      {trouble ? (
        <>
          <p className="trouble">{trouble.message}</p>
          <Link href="/batches">{say`Back to the batches`}</Link>
        </>
      ) : (
        <p className="soft">{say`Fetching the batch …`}</p>
      )}
    </main>
  );
}

type Asked =
  | { of: 'change'; items: number[]; only: PlanColumn | null }
  | { of: 'edit' }
  | { of: 'send' }
  | null;

function LaidOut({ batch, items }: { batch: BatchHead; items: readonly BatchItem[] }) {
  const client = useQueryClient();
  const { data: settings = USUAL } = useSettings();
  const [filter, setFilter] = useState<FilterName>('all');
  const [lookedAt, setLookedAt] = useState<number | null>(null);
  const [asked, setAsked] = useState<Asked>(null);
  const askChange = useCallback(
    (which: number[]) => setAsked({ of: 'change', items: which, only: null }),
    [],
  );
  const { acts, isPending } = useActs(batch.id, askChange);
  const onTheirWay = useOnTheirWay((state) => state.now !== null);
  const selecting = useSelection((selection) => selection.chosen.size > 0);
  const shown = useMemo(
    () => (filter === 'refused' ? [] : items.filter(FILTERS[filter].of)),
    [items, filter],
  );
  // What is selected is meant, where something is.
  const onColumn = useCallback(
    (only: PlanColumn) => {
      const { chosen } = useSelection.getState();
      const ids = shown.map(({ id }) => id);
      const meant = ids.filter((id) => chosen.has(id));
      setAsked({ of: 'change', items: meant.length > 0 ? meant : ids, only });
    },
    [shown],
  );
  const take = (files: File[]) => {
    const known = new Set(items.map(({ facts }) => facts.digest));
    const title = batch.name;
    const { distance } = settings.begin;
    const order = { title, customer: '', due: null, device: null, material: null, distance };
    if (files.length > 0) void takeInto(client, batch.id, files, order, known);
  };
  const drop = useDropzone({ onDrop: take, noClick: true, noKeyboard: true, disabled: onTheirWay });
  useEffect(() => {
    const unselect = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && !document.querySelector('.modal')) selectNone();
    };
    addEventListener('keydown', unselect, { capture: true });
    return () => removeEventListener('keydown', unselect, { capture: true });
  }, []);
  const looking = lookedAt !== null;
  const made = items.filter(({ state, result }) => state === 'done' && result);
  return (
    <main {...drop.getRootProps({ className: 'board batch', tabIndex: -1, role: undefined })}>
      <input {...drop.getInputProps({ 'aria-label': say`More files` })} />
      <header>
        <div className="batch-title">
          <h1>{batch.name}</h1>
          <p className="soft">{planWords(batch.plan)}</p>
        </div>
        <div className="search">
          <Choices
            name="batch-view"
            label={say`Pictures are shown`}
            value={looking ? 'look' : 'table'}
            onChange={(value) => setLookedAt(value === 'look' ? (shown[0]?.id ?? null) : null)}
            options={[
              { value: 'table', label: say`Table` },
              { value: 'look', label: say`One by one` },
            ]}
          />
          <RunButton batch={batch} />
          <ResultButtons batch={batch} made={made.length} onSend={() => setAsked({ of: 'send' })} />
          <More
            batch={batch}
            onAdd={drop.open}
            onChange={() => askChange(shown.map(({ id }) => id))}
            onAgain={() => acts.retry(items.filter(isNotMade).map(({ id }) => id))}
            onEdit={() => setAsked({ of: 'edit' })}
          />
        </div>
      </header>
      <div className="how-far">
        <Progress
          share={batch.pictures > 0 ? countOf(batch, ['done']) / batch.pictures : 0}
          label={say`Pictures that are made`}
        />
        <span className="figure">{stateWords(batch)}</span>
        {batch.trouble && <span className="trouble">{batch.trouble}</span>}
      </div>
      <OnTheirWayLine batch={batch.id} />
      <Filter batch={batch} items={items} chosen={filter} onChoose={setFilter} />
      {filter === 'refused' && <RefusedList refused={batch.refused} />}
      {filter !== 'refused' && shown.length === 0 && (
        <p className="soft">
          {items.length === 0
            ? say`No picture is in it yet. Drop files here, or put jobs of the board into a new batch.`
            : say`None is like that.`}
        </p>
      )}
      {looking && shown.length > 0 && (
        <LookThrough
          items={shown}
          at={lookedAt}
          acts={acts}
          onLook={setLookedAt}
          onClose={() => setLookedAt(null)}
        />
      )}
      {!looking && shown.length > 0 && (
        <ItemTable items={shown} acts={acts} onLook={setLookedAt} onColumn={onColumn} />
      )}
      {!looking && selecting && <SelectionBar items={shown} acts={acts} busy={isPending} />}
      {!looking && !selecting && shown.length > 0 && <Keys />}
      {drop.isDragActive && (
        <div className="drop-over" aria-hidden>
          <b>{say`Drop files to put them into this batch`}</b>
        </div>
      )}
      {asked?.of === 'change' && (
        <ChangeItems {...asked} acts={acts} onClose={() => setAsked(null)} />
      )}
      {asked?.of === 'edit' && <EditBatch batch={batch} onClose={() => setAsked(null)} />}
      {asked?.of === 'send' && <SendResults items={made} onClose={() => setAsked(null)} />}
    </main>
  );
}

function RunButton({ batch }: { batch: BatchHead }) {
  const change = useChangeBatch(batch.id);
  const open = countOf(batch, LEFT);
  if (batch.state === 'running') {
    return (
      <Button
        variant="outline-primary"
        disabled={change.isPending}
        title={say`What is being made is finished first`}
        onClick={() => change.mutate({ state: 'paused' })}
      >
        <Pause size={15} aria-hidden /> {say`Pause`}
      </Button>
    );
  }
  return (
    <Button
      disabled={open === 0 || change.isPending}
      onClick={() => change.mutate({ state: 'running' })}
    >
      <Play size={15} aria-hidden /> {batch.state === 'paused' ? say`Go on` : say`Make all`}
    </Button>
  );
}

function ResultButtons({
  batch,
  made,
  onSend,
}: {
  batch: BatchHead;
  made: number;
  onSend(): void;
}) {
  if (made === 0) return null;
  return (
    <>
      <a
        className="btn btn-outline-primary"
        href={resultsAddress(batch.id)}
        title={say`All results that are made, in one ZIP`}
      >
        <Download size={15} aria-hidden /> {say`Fetch ${made}`}
      </a>
      <Button variant="outline-primary" onClick={onSend}>
        <Send size={15} aria-hidden /> {say`Send`}
      </Button>
    </>
  );
}

/** What failed or was cancelled. */
const isNotMade = ({ state }: Pick<BatchItem, 'state'>): boolean =>
  state === 'failed' || state === 'cancelled';

function More({
  batch,
  onAdd,
  onChange,
  onAgain,
  onEdit,
}: {
  batch: BatchHead;
  onAdd(): void;
  /** changes all that are shown */
  onChange(): void;
  onAgain(): void;
  onEdit(): void;
}) {
  const remove = useDeleteBatch();
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="quiet" aria-label={say`More about this batch`}>
        {say`More`}
      </Dropdown.Toggle>
      <Menu>
        <Dropdown.Item onClick={onAdd}>
          <Plus size={14} aria-hidden /> {say`Add files`}
        </Dropdown.Item>
        <Dropdown.Item disabled={batch.pictures === 0} onClick={onChange}>
          {say`Change all that are shown …`}
        </Dropdown.Item>
        <Dropdown.Item disabled={countOf(batch, ['failed', 'cancelled']) === 0} onClick={onAgain}>
          {say`Make again what was not made`}
        </Dropdown.Item>
        <Dropdown.Item onClick={onEdit}>{say`Name and where results go`}</Dropdown.Item>
        <Dropdown.Divider />
        <Dropdown.Item onClick={() => remove.mutate(batch)}>{say`Delete the batch`}</Dropdown.Item>
      </Menu>
    </Dropdown>
  );
}

const Keys = () => (
  <p className="board-keys soft">
    <span>
      <kbd>↑</kbd> <kbd>↓</kbd> {say`along the pictures`}
    </span>
    <span>
      <kbd>Enter</kbd> {say`look at it, 1:1`}
    </span>
    <span>
      <kbd>Space</kbd> {say`select`}
    </span>
    <span>
      <kbd>E</kbd> {say`change`}
    </span>
    <span>
      <kbd>G</kbd> {say`good`}
    </span>
    <span>
      <kbd>B</kbd> {say`to the bench`}
    </span>
    <span>
      <kbd>Del</kbd> {say`out of the batch`}
    </span>
  </p>
);
