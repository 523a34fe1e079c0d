import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { NO_LISTS, useLists } from '../data/queries';
import { FIRST_DRAFT, LEAVE, readChange, type Draft, type Troubles } from './draft';
import type { PlanColumn } from './plan-column';
import { PlanFields } from './PlanFields';
import type { ItemsActs } from './use-acts';
import { say } from '@/core/words/say';

const AS_IT_IS: Draft = {
  ...FIRST_DRAFT,
  ...{ rule: { by: LEAVE, text: '', fit: 'crop' }, steps: LEAVE },
};

/** Changes some pictures of a batch; what is left as it is stays so in each. */
export function ChangeItems({
  items,
  only,
  acts,
  onClose,
}: {
  items: number[];
  /** the one column that is changed; null where any may be */
  only: PlanColumn | null;
  acts: ItemsActs;
  onClose(): void;
}) {
  const { data: lists } = useLists();
  const [draft, setDraft] = useState(AS_IT_IS);
  const [troubles, setTroubles] = useState<Troubles>({});
  return (
    <Modal show onHide={onClose} centered aria-labelledby="change-items">
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          const read = readChange(draft, lists ?? NO_LISTS);
          if (!read.ok) return setTroubles(read.troubles);
          if (Object.keys(read.value).length > 0) acts.change(items, read.value);
          onClose();
        }}
      >
        <Modal.Body className="plan-fields">
          <h2 id="change-items" className="dialog-title">
            {items.length === 1 ? say`Change 1 picture` : say`Change ${items.length} pictures`}
          </h2>
          <PlanFields
            {...{ draft, troubles, leaving: true, ordered: true, only }}
            onChange={(change) => setDraft((before) => ({ ...before, ...change }))}
          />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {say`Cancel`}
          </Button>
          <Button type="submit">{say`Change`}</Button>
        </Modal.Footer>
      </form>
    </Modal>
  );
}
