import { Button } from 'react-bootstrap';
import { JobState } from '@/core/shop/job';
import { ACT_MOST } from '@/core/shop/jobs-act';
import { api, type Board } from '../data/api';
import { tell } from '../data/notices';
import { useJobsActs } from './jobs-acts';
import { applyRecipeTo, askDelete, editJobs, intoBatch } from './dialog-store';
import { select, selectNone, useSelection } from './selection';
import { say } from '@/core/words/say';

/** What can be done to the jobs that are selected, all at once. */
export function SelectionBar({ board, total }: { board: Board; total: number }) {
  const selected = useSelection((selection) => selection.chosen);
  const { archive, duplicate, setState, isPending } = useJobsActs();
  const jobs = [...selected];
  const all = Math.min(total, ACT_MOST);
  const selectAll = () =>
    api.jobsOf(board).then(
      (found) => select(found, true),
      (error: Error) => tell(error.message, 'trouble'),
    );
  return (
    <div className="selection-bar" role="toolbar" aria-label={say`Selected jobs`}>
      <b>{say`${jobs.length} selected`}</b>
      {jobs.length < all && (
        <Button variant="link" size="sm" onClick={() => void selectAll()}>
          {say`All ${all}`}
        </Button>
      )}
      <Button size="sm" variant="quiet" onClick={() => editJobs(jobs, null)}>
        {say`Change …`}
      </Button>
      <select
        className="form-select form-select-sm"
        aria-label={say`State of the selected jobs`}
        value=""
        disabled={isPending}
        onChange={(event) => setState(jobs, JobState.parse(event.target.value))}
      >
        <option value="" hidden>
          {say`State …`}
        </option>
        {JobState.options.map((state) => (
          <option key={state}>{state}</option>
        ))}
      </select>
      <Button size="sm" variant="quiet" onClick={() => applyRecipeTo(jobs)}>
        {say`By a recipe …`}
      </Button>
      <Button size="sm" variant="quiet" onClick={() => intoBatch(jobs)}>
        {say`Into a batch …`}
      </Button>
      <Button size="sm" variant="quiet" disabled={isPending} onClick={() => duplicate(jobs)}>
        {say`Duplicate`}
      </Button>
      <Button
        size="sm"
        variant="quiet"
        disabled={isPending}
        onClick={() => archive(jobs, !board.archived)}
      >
        {board.archived ? say`Back onto the board` : say`Into the archive`}
      </Button>
      <Button size="sm" variant="quiet" disabled={isPending} onClick={() => askDelete(jobs)}>
        {say`Delete …`}
      </Button>
      <Button size="sm" variant="quiet" className="ms-auto" onClick={selectNone}>
        {say`None`} <kbd>Esc</kbd>
      </Button>
    </div>
  );
}
