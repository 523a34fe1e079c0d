import { Trash2 } from 'lucide-react';
import { Joining, newPart, type ComputedKind, type ZonePart } from '@/core/zone/zone';
import { Slider } from '../../../parts/Slider';

/** What computed parts are called. */
export const NAMES: Record<ComputedKind, string> = {
  flat: 'Flat areas',
  edges: 'Edges',
  sharp: 'The sharp part',
  soft: 'The soft part',
  tones: 'Tones',
  colour: 'Colour',
  lettering: 'Lettering',
  faces: 'Faces',
  skin: 'Skin tones',
  linear: 'Linear gradient',
  round: 'Round gradient',
};

/** Sliders of a part: key, label, bounds. */
const FIGURES: Record<ComputedKind, [string, string, number, number, number, string][]> = {
  flat: [['level', 'Flat up to', 0.5, 40, 0.5, 'levels']],
  edges: [['level', 'Edges from', 1, 80, 1, 'levels']],
  sharp: [['width', 'Edges rise within', 1, 16, 0.5, 'px']],
  soft: [['width', 'Edges rise in more than', 1, 16, 0.5, 'px']],
  tones: [
    ['from', 'From', 0, 100, 1, '%'],
    ['to', 'To', 0, 100, 1, '%'],
    ['soft', 'Soft ends', 0, 100, 1, '%'],
  ],
  colour: [['reach', 'Alike within', 2, 160, 1, 'levels']],
  lettering: [['contrast', 'Contrast from', 10, 200, 1, 'levels']],
  faces: [['grow', 'Size, of each face', 50, 300, 1, '%']],
  skin: [['reach', 'Alike within', 2, 40, 1, 'levels']],
  linear: [
    ['x0', 'Nothing at, across', 0, 100, 1, '%'],
    ['y0', 'Nothing at, down', 0, 100, 1, '%'],
    ['x1', 'All at, across', 0, 100, 1, '%'],
    ['y1', 'All at, down', 0, 100, 1, '%'],
  ],
  round: [
    ['x', 'Middle, across', 0, 100, 1, '%'],
    ['y', 'Middle, down', 0, 100, 1, '%'],
    ['inner', 'All within', 0, 100, 1, '%'],
    ['outer', 'Nothing beyond', 1, 200, 1, '%'],
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
  const name = part.kind === 'zone' ? (zone ?? 'A zone that is gone') : NAMES[part.kind];
  const figures = part.kind === 'zone' ? [] : FIGURES[part.kind];
  const usually = part.kind === 'zone' ? {} : newPart[part.kind]();
  const values = part as unknown as Record<string, number>;
  return (
    <div className="zone-part">
      <div className="zone-line">
        <b>{name}</b>
        {!first && (
          <select
            aria-label={`How ${name.toLowerCase()} joins`}
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
        <label className="figure-sm">
          <input
            type="checkbox"
            checked={part.inverted}
            onChange={() => onChange(`${name} inverted`, { ...part, inverted: !part.inverted })}
          />{' '}
          inverted
        </label>
        <button
          type="button"
          className="text-button"
          aria-label={`Take ${name} out`}
          onClick={onRemove}
        >
          <Trash2 size={13} />
        </button>
      </div>
      {part.kind === 'colour' && (
        <div className="zone-line">
          <span className="field-label">Colour</span>
          <input
            type="color"
            value={part.colour}
            aria-label="Picked colour"
            onChange={(event) => onChange('Colour picked', { ...part, colour: event.target.value })}
          />
          <button type="button" className="text-button" aria-pressed={picking} onClick={onPick}>
            {picking ? 'Click on the picture …' : 'Pick from the picture'}
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
