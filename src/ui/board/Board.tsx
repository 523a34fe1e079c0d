'use client';

import { useRouter } from 'next/navigation';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { JobState, type TakenIn } from '@/core/shop/job';
import { useBeginJob, useJobs } from '../data/queries';
import { DropZone } from '../intake/DropZone';
import { NewJobDialog } from '../intake/NewJobDialog';
import { useIntake } from '../intake/use-intake';
import { JobTable } from './JobTable';
import { rowOf, shownRows } from './rows';

/** The rack of tickets. */
export function Board() {
  const router = useRouter();
  const { data: jobs, error } = useJobs();
  const begin = useBeginJob();
  const [taken, setTaken] = useState<TakenIn[]>([]);
  const [state, setState] = useState<JobState | null>(null);
  const [archived, setArchived] = useState(false);
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

  const rows = useMemo(() => (jobs ?? []).map(rowOf), [jobs]);
  const shown = useMemo(
    () => shownRows(rows, { archived, state, search: wanted }),
    [rows, archived, state, wanted],
  );
  const counted = rows.filter((row) => row.archived === archived);
  const archive = rows.filter((row) => row.archived).length;
  const empty = jobs?.length === 0;
  return (
    <main className="board">
      <header>
        <h1>{archived ? 'In the archive' : 'On the board'}</h1>
        {!empty && (
          <>
            <div className="states" role="group" aria-label="State">
              {[null, ...JobState.options].map((option) => {
                const count = counted.filter((row) => !option || row.state === option).length;
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
      {!empty && jobs && shown.length > 0 && <JobTable rows={shown} />}
      {!empty && jobs && shown.length === 0 && (
        <p className="soft">
          {archived && archive === 0
            ? 'The archive is empty.'
            : 'No job is like that. Change the search or the state.'}
        </p>
      )}
      {jobs && (
        <DropZone
          empty={empty ?? false}
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
