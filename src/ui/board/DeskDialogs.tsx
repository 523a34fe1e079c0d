import { AskDelete } from './AskDelete';
import { ApplyToMany } from '../house/ApplyToMany';
import { closeDesk, useDesk } from './desk-store';
import { EditJobs } from './EditJobs';

/** What is asked about jobs of the board, if anything is. */
export function DeskDialogs() {
  const desk = useDesk((state) => state.desk);
  if (desk.open === 'delete') return <AskDelete jobs={desk.jobs} />;
  if (desk.open === 'recipe') return <ApplyToMany jobs={desk.jobs} onClose={closeDesk} />;
  return desk.open === 'edit' ? <EditJobs jobs={desk.jobs} job={desk.job} /> : null;
}
