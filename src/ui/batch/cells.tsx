import { useState, type ReactNode } from 'react';
import type { BatchItem, ItemChange } from '@/core/batch/batch';
import type { SizeRule } from '@/core/batch/size-rule';
import { typedNumber, typedPaper, type Typed } from '@/core/measure/typed';
import { formatPpi } from '@/core/measure/format';
import type { Sizing } from '@/core/shop/lists';
import { NO_LISTS, useLists } from '../data/queries';
import { stepsName, stepsNamed } from './draft';
import { StepsOptions } from './PlanFields';
import { actedOn } from './selection';
import type { ItemsActs } from './use-acts';
import { say } from '@/core/words/say';

interface Props {
  item: BatchItem;
  acts: ItemsActs;
}

/** What is chosen in a list of a row is for all that are selected, where it is one of them. */
const changeOf = ({ item, acts }: Props, change: ItemChange): void =>
  acts.change(actedOn(item.id), change);

/** How a picture is treated; another choice treats it anew. The list is made once it is asked for: rows come by the dozen. */
export function StepsCell({ item, acts }: Props) {
  const [open, setOpen] = useState(false);
  const { house, trial } = item.facts;
  const label = say`${item.fileName}: treated by`;
  const words = house?.changed ? say`${house.name}, changed` : trial;
  if (!open) {
    return (
      <button
        type="button"
        className="cell-choice"
        aria-label={`${label}, ${words}`}
        aria-haspopup="listbox"
        title={words}
        tabIndex={-1}
        onClick={(event) => {
          event.stopPropagation();
          setOpen(true);
        }}
      >
        {words}
      </button>
    );
  }
  return (
    <select
      className="cell-choice"
      aria-label={label}
      autoFocus
      defaultValue={house && !house.changed ? stepsName({ by: 'house', id: house.id }) : ''}
      ref={(element) => openList(element)}
      onClick={(event) => event.stopPropagation()}
      onBlur={() => setOpen(false)}
      onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}
      onChange={({ target }) => {
        const steps = stepsNamed(target.value);
        if (steps) changeOf({ item, acts }, { steps });
        setOpen(false);
      }}
    >
      <option value="" hidden>
        {words}
      </option>
      <StepsOptions leaving={false} kept={false} />
    </select>
  );
}

/** Shows a list's entries at once, where the browser lets that be. */
function openList(element: HTMLSelectElement | null): void {
  try {
    element?.showPicker();
  } catch {
    // It is open at the next press.
  }
}

/** The print's size, typed over: a side, both, or a sheet. */
export function SizeCell({ item, acts }: Props) {
  const { data: lists } = useLists();
  const { pixels, print } = item.facts;
  return (
    <TypedCell
      label={say`${item.fileName}: print`}
      value={print}
      read={(text) => sizeTyped(text, lists ?? NO_LISTS)}
      onKeep={(size) => changeOf({ item, acts }, { size })}
    >
      <span className="figure">{print}</span>
      {pixels && <small className="figure">{`${pixels.width} × ${pixels.height}`}</small>}
    </TypedCell>
  );
}

function sizeTyped(text: string, { sheets, unit }: Sizing): Typed<SizeRule> {
  const typed = typedPaper(text, unit, sheets);
  if (!typed.ok) return typed;
  const { value } = typed;
  const lengths =
    value.of === 'side' ? [value.length] : value.of === 'sides' ? [value.width, value.height] : [];
  if (lengths.some((length) => length?.unit === 'px' || length?.unit === '%')) {
    return { ok: false, why: say`A length on paper, as 60 cm.` };
  }
  if (value.of === 'sheet') {
    return { ok: true, value: { by: 'sheet', sheet: value.sheet, fit: 'crop' } };
  }
  if (value.of === 'side') return { ok: true, value: { by: 'width', length: value.length } };
  const { width, height } = value;
  if (width && height) return { ok: true, value: { by: 'exact', width, height, fit: 'crop' } };
  return width
    ? { ok: true, value: { by: 'width', length: width } }
    : { ok: true, value: { by: 'height', length: height! } };
}

/** The result's resolution, typed over. */
export function PpiCell({ item, acts }: Props) {
  const ppi = formatPpi(item.facts.ppi);
  return (
    <TypedCell
      label={say`${item.fileName}: ppi`}
      value={ppi}
      read={(text) => typedNumber(text, { least: 1, most: 4800, unit: 'ppi' })}
      onKeep={(value) => changeOf({ item, acts }, { ppi: value })}
    >
      <span className="figure">{ppi}</span>
    </TypedCell>
  );
}

/** A figure of a row that becomes a field when it is pressed: Enter keeps what was typed, Escape leaves it. */
function TypedCell<T>({
  label,
  value,
  read,
  onKeep,
  children,
}: {
  label: string;
  value: string;
  read(text: string): Typed<T>;
  onKeep(value: T): void;
  children: ReactNode;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  if (typed === null) {
    return (
      <button
        type="button"
        className="cell-figure"
        tabIndex={-1}
        aria-label={say`${label}, ${value}: change`}
        onClick={(event) => {
          event.stopPropagation();
          setTyped(value);
        }}
      >
        {children}
      </button>
    );
  }
  const found = read(typed);
  return (
    <input
      className="form-control form-control-sm figure"
      aria-label={label}
      aria-invalid={!found.ok}
      title={found.ok ? undefined : found.why}
      value={typed}
      autoFocus
      onFocus={({ target }) => target.select()}
      onClick={(event) => event.stopPropagation()}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={() => setTyped(null)}
      onKeyDown={(event) => {
        event.stopPropagation();
        const row = event.currentTarget.closest('tr');
        if (event.key === 'Enter' && found.ok) {
          if (typed !== value) onKeep(found.value);
          setTyped(null);
          row?.focus();
        }
        if (event.key === 'Escape') {
          setTyped(null);
          row?.focus();
        }
      }}
    />
  );
}
