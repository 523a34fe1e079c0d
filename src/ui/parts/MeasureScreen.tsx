import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { MM_PER_INCH } from '@/core/measure/units';
import { keepScreen, SCREEN_PPI, SITTING, useScreen } from '../data/screen';
import { Choices } from './Choices';
import { Slider } from './Slider';
import { say } from '@/core/words/say';

/** A bank card, in millimetres (ISO/IEC 7810, ID-1), and how long the line beside a ruler is. */
const CARD = { width: 85.6, height: 53.98, corner: 3.18 };
const LINE = 100;

interface Props {
  onClose(): void;
  /** hears that it is measured */
  onKept?(): void;
}

/** Measures the screen once, by a bank card or a ruler held against it. */
export function MeasureScreen({ show, ...props }: Props & { show: boolean }) {
  return (
    <Modal show={show} onHide={props.onClose} centered aria-labelledby="calibration">
      {show && <Measuring {...props} />}
    </Modal>
  );
}

function Measuring({ onClose, onKept }: Props) {
  const screen = useScreen();
  const ratio = devicePixelRatio || 1;
  const [ppi, setPpi] = useState(screen.ppi ?? SCREEN_PPI.usual * ratio);
  const [sitting, setSitting] = useState(screen.sitting);
  const [by, setBy] = useState<'card' | 'ruler'>('card');
  const mm = ppi / MM_PER_INCH / ratio;
  const keep = () => {
    if (!keepScreen({ ppi, sitting })) return;
    onKept?.();
    onClose();
  };
  return (
    <Modal.Body className="calibration">
      <h2 className="fs-6" id="calibration">
        {say`How large does this screen show things?`}
      </h2>
      <Choices<'card' | 'ruler'>
        name="calibrate-by"
        label={say`Measured by`}
        value={by}
        options={[
          { value: 'card', label: say`A bank card` },
          { value: 'ruler', label: say`A ruler` },
        ]}
        onChange={setBy}
      />
      <p className="soft mb-0">
        {by === 'card'
          ? say`Hold a bank card against the screen and move the slider until the frame is as large as it.`
          : say`Hold a ruler against the screen and move the slider until the line is ${LINE} mm long.`}
      </p>
      <div className="held-against">
        {by === 'card' ? (
          <div
            className="card-frame"
            style={{
              width: CARD.width * mm,
              height: CARD.height * mm,
              borderRadius: CARD.corner * mm,
            }}
          />
        ) : (
          <div className="ruler-line" style={{ width: LINE * mm }}>
            {Array.from({ length: LINE / 10 + 1 }, (_, i) => (
              <i key={i} style={{ left: `${i * 10}%` }} />
            ))}
          </div>
        )}
      </div>
      <Slider
        label={say`Pixels of the screen`}
        unit="ppi"
        value={Math.round(ppi * 10) / 10}
        min={SCREEN_PPI.least}
        max={SCREEN_PPI.most}
        step={0.5}
        usual={SCREEN_PPI.usual * ratio}
        onDrag={setPpi}
        onSet={setPpi}
      />
      <Slider
        label={say`You sit so far from it`}
        unit="cm"
        value={Math.round(sitting * 100)}
        min={SITTING.least * 100}
        max={SITTING.most * 100}
        step={5}
        usual={SITTING.usual * 100}
        onDrag={(value) => setSitting(value / 100)}
        onSet={(value) => setSitting(value / 100)}
      />
      <p className="soft mb-0">
        {say`It is kept in this browser. On another screen it is measured anew: press the size in the bar once more.`}
      </p>
      <div className="d-flex gap-2 justify-content-end">
        <Button variant="quiet" onClick={onClose}>
          {say`Cancel`}
        </Button>
        <Button variant="primary" onClick={keep}>
          {say`Keep`}
        </Button>
      </div>
    </Modal.Body>
  );
}
