'use client';

import { useRouter } from 'next/navigation';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { JobState, type TakenIn } from '@/core/shop/job';
import type { Board as Shown } from '../data/api';
import { useBeginJob, useBoard } from '../data/queries';
import { DropZone } from '../intake/DropZone';
import { NewJobDialog } from '../intake/NewJobDialog';
import { useIntake } from '../intake/use-intake';
import { JobTable } from './JobTable';

/** The rack of tickets. */
export function Board() {
  const router = useRouter();
  const begin = useBeginJob();
  const [taken, setTaken] = useState<TakenIn[]>([]);
  const [state, setState] = useState<JobState | null>(null);
  const [archived, setArchived] = useState(false);
  const [sorted, setSorted] = useState<Pick<Shown, 'order' | 'down'>>({
    order: 'due',
    down: false,
  });
  const [search, setSearch] = useState('');
  // Typing never waits for the table.
  const wanted = useDeferredValue(search);
  const searchField = useRef<HTMLInputElement>(null);
  const intake = useIntake(setTaken);

  useEffect(() => {
    const focusSearch = (event: KeyboardEvent) => {
      if (event.key !== '/' || event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      searchField.current?.focus();
    };
    addEventListener('keydown', focusSearch);
    return () => removeEventListener('keydown', focusSearch);
  }, []);

  const shown: Shown = { archived, state, search: wanted, ...sorted };
  const { data: page, error } = useBoard(shown);
  const archive = page?.archive ?? 0;
  const empty = page?.shop === 0;
  return (
    <main className="board">
      <header>
        <h1>{archived ? 'In the archive' : 'On the board'}</h1>
        {!empty && (
          <>
            <div className="states" role="group" aria-label="State">
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
                    {option ? option[0]!.toUpperCase() + option.slice(1) : 'All'} {count}
                  </button>
                );
              })}
            </div>
            <div className="search">
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
                  {archived ? 'Back to the board' : `Archive ${archive}`}
                </button>
              )}
              <span className="field">
                <Form.Control
                  ref={searchField}
                  type="search"
                  placeholder="Search job, customer …"
                  aria-label="Search job or customer"
                  value={search}
                  onChange={(event) => setSearch(event.target.value)}
                />
                {search === '' && <kbd>/</kbd>}
              </span>
            </div>
          </>
        )}
      </header>
      {error && <p className="trouble">{error.message}</p>}
      {page && page.total > 0 && (
        <JobTable
          board={page.board}
          total={page.total}
          onOrder={(order, down) => setSorted({ order, down })}
        />
      )}
      {!empty && page?.total === 0 && (
        <p className="soft">
          {archived && archive === 0
            ? 'The archive is empty.'
            : 'No job is like that. Change the search or the state.'}
        </p>
      )}
      {page && (
        <DropZone
          empty={empty}
          sending={intake.sending}
          onFiles={(files) => void intake.take(files)}
        />
      )}
      {taken.length > 0 && (
        <NewJobDialog
          key={taken.map((one) => one.digest).join()}
          taken={taken}
          busy={begin.isPending}
          onCancel={() => setTaken([])}
          onBegin={(wantedJobs) =>
            begin.mutate(wantedJobs, {
              onSuccess: (begun) => {
                setTaken([]);
                if (begun.length === 1) router.push(`/bench/${begun[0]!.id}`);
              },
            })
          }
        />
      )}
    </main>
  );
}
