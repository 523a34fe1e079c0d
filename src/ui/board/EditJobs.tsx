import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { JobChange, type JobHead } from '@/core/shop/job';
import { useJobsActs } from './jobs-acts';
import { closeDialog } from './dialog-store';
import { say } from '@/core/words/say';

/** What an order says of one job, or of several: then what is left empty stays as it is. */
export function EditJobs({ jobs, job }: { jobs: number[]; job: JobHead | null }) {
  const { change, isPending } = useJobsActs();
  const [fields, setFields] = useState({
    title: job?.title ?? '',
    customer: job?.customer ?? '',
    due: job?.due ?? '',
    note: job?.note ?? '',
  });
  const put = (name: keyof typeof fields, value: string) =>
    setFields((before) => ({ ...before, [name]: value }));
  const { title, customer, due, note } = fields;
  const wanted = job
    ? { title, customer, due: due || null, note }
    : {
        ...(customer.trim() && { customer }),
        ...(due && { due }),
        ...(note.trim() && { note }),
      };
  const read = JobChange.safeParse(wanted);
  const field = (name: keyof typeof fields, label: string, extra: object = {}) => (
    <Form.Group controlId={`edit-${name}`} className="order-field">
      <Form.Label>{label}</Form.Label>
      <Form.Control
        value={fields[name]}
        autoComplete="off"
        onChange={(event) => put(name, event.target.value)}
        {...extra}
      />
    </Form.Group>
  );
  return (
    <Modal show onHide={closeDialog} centered aria-labelledby="edit-jobs">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          if (read.success) change(jobs, read.data, closeDialog);
        }}
      >
        <Modal.Body>
          <h2 id="edit-jobs" className="dialog-title">
            {job ? say`Job ${job.number}` : say`${jobs.length} jobs`}
          </h2>
          {!job && <p className="soft">{say`What is left empty stays as it is in each.`}</p>}
          {job && field('title', say`Job`, { maxLength: 120, autoFocus: true })}
          {field('customer', say`Customer`, { maxLength: 120, autoFocus: !job })}
          {field('due', say`Due`, { type: 'date' })}
          {field('note', say`Note`, { as: 'textarea', rows: 3, maxLength: 1000 })}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={closeDialog}>
            {say`Cancel`}
          </Button>
          <Button type="submit" disabled={!read.success || isPending}>
            {say`Keep`}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
