import { useRef, type ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { typedNumber } from '@/core/measure/typed';
import { FigureField } from './FigureField';
import { useStepped } from './settling';
import { say } from '@/core/words/say';

interface Props {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  unit: ReactNode;
  /** the unit as it is typed, where it is more than its words */
  unitWord?: string;
  /** double click goes back to it */
  usual: number;
  /** while it is dragged */
  onDrag(value: number): void;
  /** when it is let go, typed, or stepped */
  onSet(value: number): void;
}

/** A slider with its figure; answers while dragged, resolves once. */
export function Slider(props: Props) {
  const { label, value, min, max, step, unit, usual, onDrag, onSet } = props;
  const unitWord = props.unitWord ?? (typeof unit === 'string' ? unit : '');
  const dragged = useRef<number | null>(null);
  const pressed = useRef(false);
  const keys = useStepped(onDrag, onSet);
  const keep = (next: number) => Math.min(max, Math.max(min, Number(next.toFixed(4))));
  const letGo = () => {
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
          label={say`${label}, figure`}
          hideLabel
          text={formatNumber(value)}
          unit={unit}
          read={(text) => typedNumber(text, { least: min, most: max, unit: unitWord })}
          onEnter={onSet}
          onStep={(direction, ten) =>
            keys.step(keep((keys.at() ?? value) + direction * step * (ten ? 10 : 1)))
          }
        />
      </div>
      <Form.Range
        aria-label={label}
        min={min}
        max={max}
        step={step}
        value={value}
        onPointerDown={() => (pressed.current = true)}
        onChange={(event) => {
          const next = Number(event.target.value);
          if (!pressed.current) return keys.step(next);
          dragged.current = next;
          onDrag(next);
        }}
        onPointerUp={() => {
          pressed.current = false;
          letGo();
        }}
        onBlur={() => {
          pressed.current = false;
          letGo();
          keys.settle();
        }}
        onDoubleClick={() => onSet(usual)}
      />
    </div>
  );
}
