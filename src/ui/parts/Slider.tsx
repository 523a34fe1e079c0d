import { useRef, type ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { FigureField } from './FigureField';

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  unit: ReactNode;
  /** double click goes back to it */
  usual: number;
  /** while it is dragged */
  onDrag(value: number): void;
  /** when it is let go, typed, or stepped */
  onSet(value: number): void;
}

/** A slider with its figure; answers while dragged, resolves once. */
export function Slider({ label, value, min, max, step, unit, usual, onDrag, onSet }: Props) {
  const dragged = useRef<number | null>(null);
  const keep = (next: number) => Math.min(max, Math.max(min, Number(next.toFixed(4))));
  const resolve = () => {
    if (dragged.current !== null) onSet(dragged.current);
    dragged.current = null;
  };
  return (
    <div className="slider">
      <div className="top">
        <span className="field-label" aria-hidden>
          {label}
        </span>
        <FigureField
          label={`${label}, figure`}
          hideLabel
          text={formatNumber(value)}
          unit={unit}
          onEnter={(text) => {
            const typed = Number(text.replace(',', '.'));
            if (text.trim() === '' || !Number.isFinite(typed) || typed < min || typed > max) {
              return `From ${formatNumber(min)} to ${formatNumber(max)}; ${formatNumber(value)} stays.`;
            }
            onSet(typed);
            return null;
          }}
          onStep={(direction, ten) => onSet(keep(value + direction * step * (ten ? 10 : 1)))}
        />
      </div>
      <Form.Range
        aria-label={label}
        min={min}
        max={max}
        step={step}
        value={value}
        onChange={(event) => {
          dragged.current = Number(event.target.value);
          onDrag(dragged.current);
        }}
        onPointerUp={resolve}
        onKeyUp={resolve}
        onBlur={resolve}
        onDoubleClick={() => onSet(usual)}
      />
    </div>
  );
}
