import { Modal } from 'react-bootstrap';
import { useSheet } from './shortcut-sheet-store';
import { SHORTCUTS } from './shortcuts';
import { say } from '@/core/words/say';

/** Side by side, so that all are seen at once. */
const HALF = Math.ceil(SHORTCUTS.length / 2);
const COLUMNS = [SHORTCUTS.slice(0, HALF), SHORTCUTS.slice(HALF)];

export function ShortcutSheet() {
  const sheet = useSheet((state) => state.open);
  return (
    <Modal
      show={sheet}
      onHide={() => useSheet.setState({ open: false })}
      centered
      size="lg"
      aria-labelledby="shortcut-sheet"
    >
      <Modal.Body>
        <h2 className="fs-6" id="shortcut-sheet">
          {say`Keys of the bench`}
        </h2>
        <div className="key-columns">
          {COLUMNS.map((column, i) => (
            <dl className="facts" key={i}>
              {column.map(({ keys, what }) => (
                <div key={keys} style={{ display: 'contents' }}>
                  <dt>{what}</dt>
                  <dd>
                    <kbd>{keys}</kbd>
                  </dd>
                </div>
              ))}
            </dl>
          ))}
        </div>
      </Modal.Body>
    </Modal>
  );
}
