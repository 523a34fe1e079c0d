import { AskDelete } from './AskDelete';
import { NewBatch } from '../batch/NewBatch';
import { ApplyToMany } from '../house/ApplyToMany';
import { closeDialog, useBoardDialog } from './dialog-store';
import { EditJobs } from './EditJobs';

/** What is asked about jobs of the board, if anything is. */
export function BoardDialogs() {
  const dialog = useBoardDialog((state) => state.dialog);
  if (dialog.open === 'delete') return <AskDelete jobs={dialog.jobs} />;
  if (dialog.open === 'recipe') return <ApplyToMany jobs={dialog.jobs} onClose={closeDialog} />;
  if (dialog.open === 'batch') {
    return <NewBatch begun={{ jobs: dialog.jobs }} onClose={closeDialog} />;
  }
  return dialog.open === 'edit' ? <EditJobs jobs={dialog.jobs} job={dialog.job} /> : null;
}
