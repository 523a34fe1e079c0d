import type { ReactNode } from 'react';
import { ButtonGroup, ToggleButton } from 'react-bootstrap';

interface Props<T extends string> {
  name: string;
  label: string;
  value: T;
  options: readonly { value: T; label: ReactNode; title?: string }[];
  onChange(value: T): void;
  className?: string;
}

/** More than so many stand closer, to stay in one row of the ticket. */
const MANY = 5;

/** A row of choices, one of them taken; arrow keys move along it. */
export function Choices<T extends string>({
  name,
  label,
  value,
  options,
  onChange,
  className,
}: Props<T>) {
  return (
    <ButtonGroup
      className={`choices ${options.length > MANY ? 'many' : ''} ${className ?? ''}`}
      role="radiogroup"
      aria-label={label}
    >
      {options.map((option) => (
        <ToggleButton
          key={option.value}
          id={`${name}-${option.value}`}
          name={name}
          type="radio"
          // The radio itself takes the keys; its label is no stop of its own.
          tabIndex={-1}
          role={undefined}
          variant="outline-primary"
          value={option.value}
          title={option.title}
          checked={option.value === value}
          onChange={() => onChange(option.value)}
        >
          {option.label}
        </ToggleButton>
      ))}
    </ButtonGroup>
  );
}
