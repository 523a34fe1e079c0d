'use client';

import { Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { JobState, type TakenIn } from '@/core/shop/job';
import type { Board as Shown } from '../data/api';
import { useBeginJob, useBoard } from '../data/queries';
import { FirstVisit, useVisits } from '../intake/FirstVisit';
import { NewJobDialog } from '../intake/NewJobDialog';
import { SendingLine } from '../intake/SendingLine';
import { useIntake, type Refused } from '../intake/use-intake';
import { BoardDialogs } from './BoardDialogs';
import { Filters, NO_FILTER } from './Filters';
import { JobTable } from './JobTable';
import { SelectionBar } from './SelectionBar';
import { selectNone, useSelection } from './selection';
import { NEWEST, URGENT, useOrder } from './order-store';
import { say } from '@/core/words/say';

/** The rack of tickets. Files are dropped anywhere on it. */
export function Board() {
  const router = useRouter();
  const begin = useBeginJob();
  const [arrived, setArrived] = useState<{ taken: TakenIn[]; refused: Refused[] } | null>(null);
  const [state, setState] = useState<JobState | null>(null);
  const [archived, setArchived] = useState(false);
  const [filter, setFilter] = useState(NO_FILTER);
  const { order, down } = useOrder();
  const selecting = useSelection((selection) => selection.chosen.size > 0);
  const [search, setSearch] = useState('');
  // Typing never waits for the table.
  const wanted = useDeferredValue(search);
  const searchField = useRef<HTMLInputElement>(null);
  const intake = useIntake((taken, refused) => setArrived({ taken, refused }));
  const drop = useDropzone({
    onDrop: (files) => void intake.take(files),
    disabled: intake.sending !== null,
    noClick: true,
    noKeyboard: true,
  });

  useEffect(() => void useOrder.persist.rehydrate(), []);
  useEffect(() => {
    const focusSearch = (event: KeyboardEvent) => {
      if (event.key !== '/' || event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      searchField.current?.focus();
    };
    // Before a dialog hears of it: that closes itself, and the selection stays.
    const unselect = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && !document.querySelector('.modal')) selectNone();
    };
    addEventListener('keydown', focusSearch);
    addEventListener('keydown', unselect, { capture: true });
    return () => {
      removeEventListener('keydown', focusSearch);
      removeEventListener('keydown', unselect, { capture: true });
    };
  }, []);

  const shown: Shown = { archived, state, search: wanted, ...filter, order, down };
  const { data: page, error } = useBoard(shown);
  const archive = page?.archive ?? 0;
  const empty = page?.shop === 0;
  useVisits(page !== undefined && !empty);
  return (
    <main {...drop.getRootProps({ className: 'board', tabIndex: -1, role: undefined })}>
      <input {...drop.getInputProps({ 'aria-label': say`Pictures` })} />
      <header>
        <h1>{archived ? say`In the archive` : say`On the board`}</h1>
        {!empty && (
          <>
            <div className="states" role="group" aria-label={say`State`}>
              {[null, ...JobState.options].map((option) => {
                const count = (option ? page?.states[option] : page?.jobs) ?? 0;
                if (option && count === 0) return null;
                return (
                  <button
                    key={option}
                    type="button"
                    aria-pressed={state === option}
                    onClick={() => setState(option)}
                  >
                    {option ? option[0]!.toUpperCase() + option.slice(1) : say`All`} {count}
                  </button>
                );
              })}
              {(archive > 0 || archived) && (
                <button
                  type="button"
                  className="to-archive"
                  aria-pressed={archived}
                  onClick={() => {
                    setArchived(!archived);
                    setState(null);
                  }}
                >
                  {archived ? say`Back to the board` : say`Archive ${archive}`}
                </button>
              )}
            </div>
            <div className="search">
              <Form.Select
                className="board-order"
                aria-label={say`Order`}
                value={
                  order === URGENT.order && !down
                    ? 'urgent'
                    : order === NEWEST.order && down
                      ? 'newest'
                      : ''
                }
                onChange={(event) =>
                  useOrder.setState(event.target.value === 'newest' ? NEWEST : URGENT)
                }
              >
                <option value="urgent">{say`Most urgent first`}</option>
                <option value="newest">{say`Newest first`}</option>
                <option value="" hidden>
                  {say`By column`}
                </option>
              </Form.Select>
              <span className="field">
                <Form.Control
                  ref={searchField}
                  type="search"
                  placeholder={say`Search job, customer …`}
                  aria-label={say`Search job or customer`}
                  value={search}
                  onChange={(event) => setSearch(event.target.value)}
                />
                {search === '' && <kbd>/</kbd>}
              </span>
              <Button
                disabled={intake.sending !== null}
                title={say`Choose pictures; or drop them anywhere here, or paste`}
                onClick={drop.open}
              >
                <Plus size={15} aria-hidden /> {say`New job`}
              </Button>
            </div>
          </>
        )}
      </header>
      {page && !empty && <Filters page={page} chosen={filter} onChoose={setFilter} />}
      {error && <p className="trouble">{error.message}</p>}
      {intake.sending && <SendingLine sending={intake.sending} />}
      {page && page.total > 0 && (
        <JobTable
          board={page.board}
          total={page.total}
          onOrder={(next, way) => useOrder.setState({ order: next, down: way })}
        />
      )}
      {page && selecting && <SelectionBar board={shown} total={page.total} />}
      {page && page.total > 0 && !selecting && (
        <p className="board-keys soft">
          <span>
            <kbd>↑</kbd> <kbd>↓</kbd> {say`along the jobs`}
          </span>
          <span>
            <kbd>Enter</kbd> {say`to the bench`}
          </span>
          <span>
            <kbd>Space</kbd> {say`select`}
          </span>
          <span>
            <kbd>E</kbd> {say`change the order`}
          </span>
          <span>
            <kbd>A</kbd> {say`into the archive, or back`}
          </span>
          <span>
            <kbd>Del</kbd> {say`delete`}
          </span>
          <span>
            <kbd>/</kbd> {say`search`}
          </span>
        </p>
      )}
      {!empty && page?.total === 0 && (
        <p className="soft">
          {archived && archive === 0
            ? say`The archive is empty.`
            : say`No job is like that. Change the search or what is shown.`}
        </p>
      )}
      {empty && !intake.sending && <FirstVisit onChoose={drop.open} />}
      {drop.isDragActive && (
        <div className="drop-over" aria-hidden>
          <b>{say`Drop pictures to begin a job`}</b>
          <span>{say`Pictures, SVG and PDF · the file itself is never changed`}</span>
        </div>
      )}
      <BoardDialogs />
      {arrived && (
        <NewJobDialog
          key={arrived.taken.map((one) => one.digest).join()}
          {...arrived}
          busy={begin.isPending}
          onCancel={() => setArrived(null)}
          onBegin={(wantedJobs) =>
            begin.mutate(wantedJobs, {
              onSuccess: (begun) => {
                setArrived(null);
                if (begun.length === 1) router.push(`/bench/${begun[0]!.id}`);
              },
            })
          }
        />
      )}
    </main>
  );
}
