import { Button } from 'react-bootstrap';
import { AGAIN, type BatchItem } from '@/core/batch/batch';
import { select, selectNone, useSelection } from './selection';
import type { ItemsActs } from './use-acts';
import { say } from '@/core/words/say';

/** What can be done to the pictures that are selected, all at once. */
export function SelectionBar({
  items,
  acts,
  busy,
}: {
  items: readonly BatchItem[];
  acts: ItemsActs;
  busy: boolean;
}) {
  const selected = useSelection((selection) => selection.chosen);
  const chosen = [...selected];
  const again = items.filter(({ id, state }) => selected.has(id) && AGAIN.includes(state));
  const button = (label: string, act: () => void, disabled = false) => (
    <Button size="sm" variant="quiet" disabled={busy || disabled} onClick={act}>
      {label}
    </Button>
  );
  return (
    <div className="selection-bar" role="toolbar" aria-label={say`Selected pictures`}>
      <b>{say`${chosen.length} selected`}</b>
      {chosen.length < items.length && (
        <Button
          variant="link"
          size="sm"
          onClick={() =>
            select(
              items.map(({ id }) => id),
              true,
            )
          }
        >
          {say`All ${items.length}`}
        </Button>
      )}
      {button(say`Change …`, () => acts.askChange(chosen))}
      {button(say`Make first`, () => acts.move(chosen, 'first'))}
      {button(say`Make last`, () => acts.move(chosen, 'last'))}
      {button(say`Make again`, () => acts.retry(again.map(({ id }) => id)), again.length === 0)}
      {button(say`Good`, () => acts.judge(chosen, 'good'))}
      {button(say`To the bench`, () => acts.judge(chosen, 'to the bench'))}
      {button(say`Not judged`, () => acts.judge(chosen, null))}
      {button(say`Out of the batch`, () => {
        acts.leave(chosen);
        selectNone();
      })}
      <Button size="sm" variant="quiet" className="ms-auto" onClick={selectNone}>
        {say`None`} <kbd>Esc</kbd>
      </Button>
    </div>
  );
}
