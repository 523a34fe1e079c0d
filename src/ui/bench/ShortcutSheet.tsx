import { Modal } from 'react-bootstrap';
import { SHORTCUTS, useSheet } from './shortcuts';

export function ShortcutSheet() {
  const sheet = useSheet((state) => state.open);
  return (
    <Modal
      show={sheet}
      onHide={() => useSheet.setState({ open: false })}
      centered
      size="sm"
      aria-labelledby="shortcut-sheet"
    >
      <Modal.Body>
        <h2 className="fs-6" id="shortcut-sheet">
          Keys of the bench
        </h2>
        <dl className="facts">
          {SHORTCUTS.map(({ keys, what }) => (
            <div key={keys} style={{ display: 'contents' }}>
              <dt>{what}</dt>
              <dd>
                <kbd>{keys}</kbd>
              </dd>
            </div>
          ))}
        </dl>
      </Modal.Body>
    </Modal>
  );
}
