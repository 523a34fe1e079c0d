import { useEffect, useId, useRef, useState, type ReactNode } from 'react';
import type { Typed } from '@/core/measure/typed';

interface Props<T> {
  label: string;
  /** the field's text while nobody types in it */
  text: string;
  /** what was typed, or in words what is wrong with it */
  read(text: string): Typed<T>;
  onEnter(value: T): void;
  /** shows what is typed at once, as far as it makes sense; `null` when it is given up */
  onType?(value: T | null): void;
  /** arrow keys: the text one step up or down (ten with shift) */
  onStep?(direction: 1 | -1, ten: boolean): void;
  unit?: ReactNode;
  hideLabel?: boolean;
}

/** A figure with its unit: typed text is taken at Enter or when the field is left. */
export function FigureField<T>(props: Props<T>) {
  const { label, text, read, onEnter, onType, onStep, unit, hideLabel } = props;
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);

  // A change from elsewhere (undo, the other side) takes the place of what was typed; one that
  // typing itself brought about doesn't.
  const typing = useRef(false);
  useEffect(() => {
    if (typing.current) return;
    setTyped(null);
    setTrouble(null);
  }, [text]);

  const enter = () => {
    typing.current = false;
    if (typed === null || (typed === text && !onType)) {
      setTyped(null);
      return;
    }
    const value = read(typed);
    setTrouble(value.ok ? null : value.why);
    if (!value.ok) return;
    setTyped(null);
    onEnter(value.value);
  };
  const giveUp = () => {
    if (typing.current) onType?.(null);
    typing.current = false;
    setTyped(null);
    setTrouble(null);
  };

  return (
    <div className="figure-field">
      <label className={hideLabel ? 'visually-hidden' : 'field-label'} htmlFor={id}>
        {label}
      </label>
      <div className={`figure-input ${trouble ? 'wrong' : ''}`}>
        <input
          id={id}
          ref={input}
          value={typed ?? text}
          autoComplete="off"
          aria-invalid={trouble !== null}
          aria-describedby={trouble ? `${id}-trouble` : undefined}
          onChange={({ target: { value } }) => {
            setTyped(value);
            if (!onType) return;
            typing.current = true;
            const now = read(value);
            onType(now.ok ? now.value : null);
          }}
          onFocus={() => input.current?.select()}
          onBlur={enter}
          onKeyDown={(event) => {
            if (event.key === 'Enter') enter();
            if (event.key === 'Escape') giveUp();
            if (onStep && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
              event.preventDefault();
              onStep(event.key === 'ArrowUp' ? 1 : -1, event.shiftKey);
            }
          }}
        />
        {typeof unit === 'string' ? <span>{unit}</span> : unit}
      </div>
      {trouble && (
        <p className="field-trouble" id={`${id}-trouble`} role="alert">
          {trouble}
        </p>
      )}
    </div>
  );
}
