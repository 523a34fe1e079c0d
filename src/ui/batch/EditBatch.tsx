import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { BatchChange, type BatchHead } from '@/core/batch/batch';
import { NamePattern } from '@/core/output/names';
import { useChangeBatch } from '../data/batches';
import { FIRST_DRAFT } from './draft';
import { Field, ResultFields } from './PlanFields';
import { say } from '@/core/words/say';

/** What a batch is called, what its results are, and where they go; of those that are made from now on. */
export function EditBatch({ batch, onClose }: { batch: BatchHead; onClose(): void }) {
  const change = useChangeBatch(batch.id);
  const [name, setName] = useState(batch.name);
  const [draft, setDraft] = useState({
    ...FIRST_DRAFT,
    ...{ names: batch.plan.names, folder: batch.plan.folder ?? '' },
  });
  const names = NamePattern.safeParse(draft.names);
  const read = BatchChange.safeParse({ name, names: draft.names, folder: draft.folder || null });
  return (
    <Modal show onHide={onClose} centered aria-labelledby="edit-batch">
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          if (read.success) change.mutate(read.data, { onSuccess: onClose });
        }}
      >
        <Modal.Body className="plan-fields">
          <h2 id="edit-batch" className="dialog-title">{say`About this batch`}</h2>
          <Field label={say`Batch`}>
            {(id) => (
              <input
                id={id}
                className="form-control"
                value={name}
                maxLength={120}
                autoComplete="off"
                onChange={({ target }) => setName(target.value)}
              />
            )}
          </Field>
          <ResultFields
            draft={draft}
            troubles={names.success ? {} : { names: names.error.issues[0]!.message }}
            onChange={(put) => setDraft((before) => ({ ...before, ...put }))}
          />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {say`Cancel`}
          </Button>
          <Button type="submit" disabled={!read.success || change.isPending}>
            {say`Keep`}
          </Button>
        </Modal.Footer>
      </form>
    </Modal>
  );
}
