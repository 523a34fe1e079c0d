import { format, parseISO } from 'date-fns';
import { History, Redo2, Undo2 } from 'lucide-react';
import { Button, Dropdown } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { JobState } from '@/core/shop/job';
import { useChangeJob } from '../../data/queries';
import { ShortcutSheet } from '../ShortcutSheet';
import { Menu } from '../../parts/Menu';
import type { WorkBench } from '../use-work';
import { Foot } from './Foot';
import { AddPictures, Pieces, useMorePictures } from './Pieces';
import { BackToPage } from './BackToPage';
import { INSIDE_SECTIONS, SECTION_NAMES } from './open';
import { SECTIONS } from './sections';
import { Trials } from './Trials';
import { say } from '@/core/words/say';

/** The job ticket: the whole treatment at a glance, in the order of the work. */
export function Ticket({ bench }: { bench: WorkBench }) {
  const { job, inside } = bench;
  const changeJob = useChangeJob(job.id);
  const more = useMorePictures(job);
  const { getRootProps, isDragActive } = useDropzone({
    onDrop: (files) => void more.take(files),
    noClick: true,
    noKeyboard: true,
  });
  return (
    <section
      {...getRootProps({
        className: `ticket ${isDragActive ? 'over' : ''}`,
        'aria-label': say`Job ticket`,
        tabIndex: -1,
      })}
      data-saving={bench.saving}
    >
      <header className="ticket-head">
        <div className="d-flex justify-content-between align-items-start">
          <div className="d-flex gap-3 align-items-baseline">
            <span className="number">{job.number}</span>
            <select
              className="job-state"
              aria-label={say`State of the job`}
              value={job.state}
              onChange={(event) => changeJob.mutate({ state: JobState.parse(event.target.value) })}
            >
              {JobState.options.map((state) => (
                <option key={state}>{state}</option>
              ))}
            </select>
          </div>
          <div className="history d-flex gap-1">
            <AddPictures sending={more.sending} onFiles={(files) => void more.take(files)} />
            <Changes bench={bench} />
          </div>
        </div>
        <h1>{job.title}</h1>
        <p>
          {job.customer || say`no customer named`}
          {job.due && <> {say`· due ${format(parseISO(job.due), 'EEE d MMM')}`}</>}
        </p>
        {job.note && <p className="job-note">{job.note}</p>}
        {inside ? <BackToPage bench={bench} /> : <Pieces job={job} />}
        <Trials bench={bench} />
      </header>
      <div className="ticket-sections">
        {(inside ? INSIDE_SECTIONS : SECTION_NAMES).map((name) => {
          const Section = SECTIONS[name];
          return <Section key={name} bench={bench} />;
        })}
      </div>
      <Foot bench={bench} />
      <ShortcutSheet />
    </section>
  );
}

/** Undo, redo, and the list of changes to jump in. */
function Changes({ bench }: { bench: WorkBench }) {
  const { undo, redo, job, moveTo } = bench;
  const { history, current } = job.piece;
  const at = history.findIndex((entry) => entry.id === current);
  return (
    <>
      <Button
        variant="quiet"
        size="sm"
        disabled={!undo}
        onClick={() => undo?.()}
        aria-label={say`Undo`}
        title={say`Undo (Ctrl Z)`}
      >
        <Undo2 size={15} />
      </Button>
      <Button
        variant="quiet"
        size="sm"
        disabled={!redo}
        onClick={() => redo?.()}
        aria-label={say`Redo`}
        title={say`Redo (Ctrl Shift Z)`}
      >
        <Redo2 size={15} />
      </Button>
      <Dropdown align="end">
        <Dropdown.Toggle
          variant="quiet"
          size="sm"
          aria-label={say`List of changes`}
          title={say`List of changes`}
          bsPrefix="btn"
        >
          <History size={15} />
        </Dropdown.Toggle>
        <Menu>
          {history.map((entry, i) => (
            <Dropdown.Item
              key={entry.id}
              aria-current={entry.id === current}
              onClick={() => entry.id !== current && moveTo(entry.id)}
              className={entry.id === current ? 'active' : i > at ? 'soft' : undefined}
            >
              <span className="figure me-3">{format(entry.at, 'HH:mm:ss')}</span>
              {entry.label}
              {entry.author?.initials && <span className="soft"> · {entry.author.initials}</span>}
            </Dropdown.Item>
          ))}
        </Menu>
      </Dropdown>
    </>
  );
}
