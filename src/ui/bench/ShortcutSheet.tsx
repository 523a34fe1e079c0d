import { Modal } from 'react-bootstrap';
import { SHORTCUTS } from './shortcuts';
import { useView } from './view-store';
import { usePicked } from '../parts/use-picked';

export function ShortcutSheet() {
  const { sheet, set } = usePicked(useView, 'sheet', 'set');
  return (
    <Modal
      show={sheet}
      onHide={() => set({ sheet: false })}
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
