import { useEffect, useId, useRef, useState, type ReactNode } from 'react';

interface Props {
  label: string;
  /** the field's text while nobody types in it */
  text: string;
  /** takes what was typed, or says in words why not */
  onEnter(text: string): string | null;
  /** shows what is typed at once, as far as it makes sense; `null` when it is given up */
  onType?(text: string | null): void;
  /** arrow keys: the text one step up or down (ten with shift) */
  onStep?(direction: 1 | -1, ten: boolean): void;
  unit?: ReactNode;
  hideLabel?: boolean;
}

/** A figure with its unit: typed text is taken at Enter or when the field is left. */
export function FigureField({ label, text, onEnter, onType, onStep, unit, hideLabel }: Props) {
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
    const wrong = onEnter(typed);
    setTrouble(wrong);
    if (!wrong) setTyped(null);
  };

  return (
    <div>
      <label className={hideLabel ? 'visually-hidden' : 'field-label'} htmlFor={id}>
        {label}
      </label>
      <div className={`figure-input ${trouble ? 'wrong' : ''}`}>
        <input
          id={id}
          ref={input}
          value={typed ?? text}
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={trouble !== null}
          aria-describedby={trouble ? `${id}-trouble` : undefined}
          onChange={(event) => {
            setTyped(event.target.value);
            if (!onType) return;
            typing.current = true;
            onType(event.target.value);
          }}
          onFocus={() => input.current?.select()}
          onBlur={enter}
          onKeyDown={(event) => {
            if (event.key === 'Enter') enter();
            if (event.key === 'Escape') {
              if (typing.current) onType?.(null);
              typing.current = false;
              setTyped(null);
              setTrouble(null);
            }
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
