import { Button, Modal } from 'react-bootstrap';
import { useJobsActs } from './jobs-acts';
import { closeDialog } from './dialog-store';
import { say } from '@/core/words/say';

/** Asks before jobs go with their pictures. */
export function AskDelete({ jobs }: { jobs: number[] }) {
  const { remove, isPending } = useJobsActs();
  return (
    <Modal show onHide={closeDialog} centered aria-labelledby="ask-delete">
      <Modal.Body>
        <h2 id="ask-delete" className="dialog-title">
          {jobs.length === 1
            ? say`Delete this job with its pictures?`
            : say`Delete ${jobs.length} jobs with their pictures?`}
        </h2>
        <p className="mb-0">
          {say`Originals that no other job uses, zones and files go within a day; until then it can be taken back. The record of what was sent to a device stays.`}
        </p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={closeDialog}>
          {say`Cancel`}
        </Button>
        <Button
          variant="danger"
          autoFocus
          disabled={isPending}
          onClick={() => {
            remove(jobs);
            closeDialog();
          }}
        >
          {say`Delete`}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
