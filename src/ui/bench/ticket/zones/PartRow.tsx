import { Trash2 } from 'lucide-react';
import { Joining, newPart, type ComputedKind, type ZonePart } from '@/core/zone/zone';
import { Slider } from '../../../parts/Slider';
import { say } from '@/core/words/say';

/** What computed parts are called. */
export const NAMES: Record<ComputedKind, string> = {
  flat: say`Flat areas`,
  edges: say`Edges`,
  sharp: say`The sharp part`,
  soft: say`The soft part`,
  tones: say`Tones`,
  colour: say`Colour`,
  lettering: 'Lettering',
  faces: 'Faces',
  skin: say`Skin tones`,
  linear: say`Linear gradient`,
  round: say`Round gradient`,
};

/** Sliders of a part: key, label, bounds. */
const FIGURES: Record<ComputedKind, [string, string, number, number, number, string][]> = {
  flat: [['level', say`Flat up to`, 0.5, 40, 0.5, 'levels']],
  edges: [['level', say`Edges from`, 1, 80, 1, 'levels']],
  sharp: [['width', say`Edges rise within`, 1, 16, 0.5, 'px']],
  soft: [['width', say`Edges rise in more than`, 1, 16, 0.5, 'px']],
  tones: [
    ['from', say`From`, 0, 100, 1, '%'],
    ['to', say`To`, 0, 100, 1, '%'],
    ['soft', say`Soft ends`, 0, 100, 1, '%'],
  ],
  colour: [['reach', say`Tolerance`, 2, 160, 1, 'levels']],
  lettering: [['contrast', say`Contrast from`, 10, 200, 1, 'levels']],
  faces: [['grow', say`Size, of each face`, 50, 300, 1, '%']],
  skin: [['reach', say`Tolerance`, 2, 40, 1, 'levels']],
  linear: [
    ['x0', say`Start, across`, 0, 100, 1, '%'],
    ['y0', say`Start, down`, 0, 100, 1, '%'],
    ['x1', say`End, across`, 0, 100, 1, '%'],
    ['y1', say`End, down`, 0, 100, 1, '%'],
  ],
  round: [
    ['x', say`Middle, across`, 0, 100, 1, '%'],
    ['y', say`Middle, down`, 0, 100, 1, '%'],
    ['inner', say`Inner radius`, 0, 100, 1, '%'],
    ['outer', say`Outer radius`, 1, 200, 1, '%'],
  ],
};

interface PartProps {
  part: ZonePart;
  /** name of the zone that it is, where it is one */
  zone?: string | undefined;
  first: boolean;
  onChange(words: string, next: ZonePart): void;
  onDrag(next: ZonePart): void;
  picking: boolean;
  onPick(): void;
  onRemove(): void;
}

/** One part of a zone: how it joins those before it, and what it is computed by. */
export function PartRow(props: PartProps) {
  const { part, zone, first, onChange, onDrag, picking, onPick, onRemove } = props;
  const name = part.kind === 'zone' ? (zone ?? say`A zone that is gone`) : NAMES[part.kind];
  const figures = part.kind === 'zone' ? [] : FIGURES[part.kind];
  const usually = part.kind === 'zone' ? {} : newPart[part.kind]();
  const values = part as unknown as Record<string, number>;
  return (
    <div className="zone-part">
      <div className="zone-line">
        <b>{name}</b>
        {!first && (
          <select
            aria-label={say`How ${name.toLowerCase()} joins`}
            value={part.joining}
            onChange={(event) =>
              onChange(`${name}: ${event.target.value}`, {
                ...part,
                joining: Joining.parse(event.target.value),
              })
            }
          >
            {Joining.options.map((joining) => (
              <option key={joining}>{joining}</option>
            ))}
          </select>
        )}
        <label className="figure">
          <input
            type="checkbox"
            checked={part.inverted}
            onChange={() => onChange(say`${name} inverted`, { ...part, inverted: !part.inverted })}
          />{' '}
          {say`inverted`}
        </label>
        <button
          type="button"
          className="text-button"
          aria-label={say`Take ${name} out`}
          onClick={onRemove}
        >
          <Trash2 size={13} />
        </button>
      </div>
      {part.kind === 'colour' && (
        <div className="zone-line">
          <span className="field-label">{say`Colour`}</span>
          <input
            type="color"
            value={part.colour}
            aria-label={say`Picked colour`}
            onChange={(event) =>
              onChange(say`Colour picked`, { ...part, colour: event.target.value })
            }
          />
          <button type="button" className="text-button" aria-pressed={picking} onClick={onPick}>
            {picking ? say`Click on the picture …` : say`Pick from the picture`}
          </button>
        </div>
      )}
      {figures.map(([key, label, min, max, step, unit]) => {
        const scale = unit === '%' ? 100 : 1;
        const next = (value: number) => ({ ...part, [key]: value / scale }) as ZonePart;
        return (
          <Slider
            key={key}
            label={label}
            value={Number((values[key]! * scale).toFixed(2))}
            min={min}
            max={max}
            step={step}
            unit={unit}
            usual={Number(
              ((usually as unknown as Record<string, number>)[key]! * scale).toFixed(2),
            )}
            onDrag={(value) => onDrag(next(value))}
            onSet={(value) =>
              onChange(`${name}: ${label.toLowerCase()} ${value} ${unit}`, next(value))
            }
          />
        );
      })}
    </div>
  );
}
