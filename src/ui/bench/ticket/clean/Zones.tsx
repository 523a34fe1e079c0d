import { Check, Trash2 } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { Dropdown, Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import type { Work } from '@/core/recipe/work';
import {
  FEATHER_LIMIT,
  Joining,
  newPart,
  type Zone,
  type ZonePart,
  type ZonePartKind,
} from '@/core/zone/zone';
import { forgetZone, zonesOf } from '@/core/recipe/zone-use';
import { Choices } from '../../../parts/Choices';
import { Fold } from '../../../parts/Fold';
import { Slider } from '../../../parts/Slider';
import { slides, type WorkBench } from '../../use-work';
import {
  editZone,
  takeTool,
  useTool,
  type BrushSettings,
  type ZoneLook,
} from '../../stage/tools/tool';
import { newZone } from '../steps/ZoneField';
import { usePicked } from '../../../parts/use-picked';

const PARTS: { kind: ZonePartKind; name: string; make?: () => ZonePart }[] = [
  { kind: 'flat', name: 'Flat areas' },
  { kind: 'edges', name: 'Edges' },
  { kind: 'sharp', name: 'The sharp part' },
  { kind: 'soft', name: 'The soft part' },
  { kind: 'tones', name: 'Shadows' },
  {
    kind: 'tones',
    name: 'Mid-tones',
    make: () => ({ ...newPart.tones(), from: 0.3, to: 0.7 }),
  },
  { kind: 'tones', name: 'Lights', make: () => ({ ...newPart.tones(), from: 0.7, to: 1 }) },
  { kind: 'colour', name: 'A colour' },
  { kind: 'lettering', name: 'Lettering' },
  { kind: 'skin', name: 'Skin tones' },
  { kind: 'linear', name: 'Linear gradient' },
  { kind: 'round', name: 'Round gradient' },
];

const NAMES: Record<ZonePartKind, string> = {
  flat: 'Flat areas',
  edges: 'Edges',
  sharp: 'The sharp part',
  soft: 'The soft part',
  tones: 'Tones',
  colour: 'Colour',
  lettering: 'Lettering',
  skin: 'Skin tones',
  linear: 'Linear gradient',
  round: 'Round gradient',
};

const LOOKS: { value: ZoneLook; label: string }[] = [
  { value: 'over', label: 'Over the picture' },
  { value: 'alone', label: 'Alone' },
  { value: 'hidden', label: 'Hidden' },
];

/** What of the brush is a share. */
const SHARES = [
  { key: 'softness', label: 'Softness', least: 0, usual: 60 },
  { key: 'flow', label: 'Flow', least: 1, usual: 100 },
] as const;

/** The zones of a picture; one of them may be under work. */
export function Zones({ bench }: { bench: WorkBench }) {
  const { work, change } = bench;
  const tool = useTool((state) => state.tool);
  const zone = tool?.kind === 'zone' && work.zones.find(({ id }) => id === tool.id);
  if (zone) return <ZoneEditor bench={bench} zone={zone} />;
  return (
    <Fold title="Zones" line={work.zones.length === 0 ? 'none' : String(work.zones.length)}>
      {work.zones.map(({ id, name }) => (
        <div className="zone-line" key={id}>
          <span>{name}</span>
          <button type="button" className="text-button" onClick={() => editZone(id)}>
            Edit
          </button>
        </div>
      ))}
      <button
        type="button"
        className="text-button"
        onClick={() => {
          const made = newZone(work.zones);
          change(`${made.name} begun`, (next) => next.zones.push(made));
          editZone(made.id);
        }}
      >
        Begin a zone
      </button>
    </Fold>
  );
}

/** A change to one zone of a work. */
export const ofZone =
  (id: string, change: (zone: Zone) => void) =>
  (work: Work): void => {
    const zone = work.zones.find((one) => one.id === id);
    if (zone) change(zone);
  };

function ZoneEditor({ bench, zone }: { bench: WorkBench; zone: Zone }) {
  const { change, sketch } = bench;
  const { tool, brush, zoneLook } = usePicked(useTool, 'tool', 'brush', 'zoneLook');
  const picking = tool?.kind === 'zone' ? tool.picking : null;
  const { id, name, parts } = zone;
  const put = (words: string, edit: (zone: Zone) => void) => change(words, ofZone(id, edit));
  const setBrush = (part: Partial<BrushSettings>) =>
    useTool.setState({ brush: { ...brush, ...part } });
  const editor = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // The list alone is scrolled; scrollIntoView would move the page beneath it as well.
    const list = editor.current!.closest('.ticket-sections')!;
    const top = editor.current!.getBoundingClientRect().top - list.getBoundingClientRect().top;
    list.scrollTop += top;
  }, []);
  const used = bench.trial.treatment.some((step) => zonesOf(step).includes(id));
  return (
    <div className="zone-editor" ref={editor} role="group" aria-label={`Zone ${name}`}>
      <div className="zone-line">
        <Form.Control
          size="sm"
          aria-label="Name of the zone"
          key={name}
          defaultValue={name}
          maxLength={60}
          onBlur={(event) => {
            const next = event.target.value.trim();
            if (next && next !== name) put(`Zone named ${next}`, (one) => (one.name = next));
          }}
        />
        <button type="button" className="text-button" onClick={() => takeTool(null)}>
          <Check size={14} /> Done
        </button>
      </div>
      <p className="soft mb-0">
        {!used
          ? 'No step uses it yet: choose it under “Where” of a step.'
          : 'Paint on the picture. Alt takes away; shift draws straight from the last place.'}
      </p>
      <Choices
        name="brush"
        label="What the brush does"
        value={brush.takingAway ? 'away' : 'add'}
        options={[
          { value: 'add', label: 'Add' },
          { value: 'away', label: 'Take away' },
        ]}
        onChange={(value) => setBrush({ takingAway: value === 'away' })}
      />
      <Slider
        label="Brush"
        value={brush.size}
        min={1}
        max={600}
        step={1}
        unit="px"
        usual={60}
        onDrag={(size) => setBrush({ size })}
        onSet={(size) => setBrush({ size })}
      />
      {SHARES.map(({ key, label, least, usual }) => (
        <Slider
          key={key}
          label={label}
          value={Math.round(brush[key] * 100)}
          min={least}
          max={100}
          step={1}
          unit="%"
          usual={usual}
          onDrag={(value) => setBrush({ [key]: value / 100 })}
          onSet={(value) => setBrush({ [key]: value / 100 })}
        />
      ))}
      {parts.map((part, i) => (
        <PartRow
          key={`${i} ${part.kind}`}
          part={part}
          first={i === 0}
          onChange={(words, next) => put(words, (one) => (one.parts[i] = next))}
          onDrag={(next) => sketch(ofZone(id, (one) => (one.parts[i] = next)))}
          picking={picking === i}
          onPick={() => takeTool({ kind: 'zone', id, picking: picking === i ? null : i })}
          onRemove={() => put(`${NAMES[part.kind]} taken out`, (one) => one.parts.splice(i, 1))}
        />
      ))}
      <Dropdown>
        <Dropdown.Toggle className="text-button" bsPrefix="btn" variant="link">
          Add what is computed …
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {PARTS.map(({ kind, name: title, make }) => (
            <Dropdown.Item
              key={title}
              onClick={() =>
                put(`${title} added to ${name}`, (one) =>
                  one.parts.push(make?.() ?? newPart[kind]()),
                )
              }
            >
              {title}
            </Dropdown.Item>
          ))}
        </Dropdown.Menu>
      </Dropdown>
      <p className="soft mb-0">
        Faces are not found by themselves: skin tones, and the brush, do it.
      </p>
      <Slider
        label="Feather"
        value={zone.feather}
        min={0}
        max={FEATHER_LIMIT}
        step={0.5}
        unit="px"
        usual={0}
        {...slides(
          bench,
          (feather) => ofZone(id, (one) => (one.feather = feather)),
          (feather) => `Feather ${formatNumber(feather)} px`,
        )}
      />
      <Form.Check
        type="switch"
        id="zone-inverted"
        label="Inverted"
        checked={zone.inverted}
        onChange={() => put(`${name} inverted`, (one) => (one.inverted = !zone.inverted))}
      />
      <Choices
        name="zone-look"
        label="How the zone is shown"
        value={zoneLook}
        options={LOOKS}
        onChange={(value) => useTool.setState({ zoneLook: value })}
      />
      <div className="zone-line">
        <button
          type="button"
          className="text-button"
          disabled={!zone.painted}
          onClick={() => put('Painting wiped off', (one) => (one.painted = null))}
        >
          Wipe the painting off
        </button>
        <button
          type="button"
          className="text-button"
          onClick={() => {
            change(`${name} taken out`, (next) => {
              next.zones = next.zones.filter((one) => one.id !== id);
              for (const trial of next.trials) forgetZone(trial.treatment, id);
            });
            takeTool(null);
          }}
        >
          <Trash2 size={13} /> Take this zone out
        </button>
      </div>
    </div>
  );
}

/** Sliders of a part: key, label, bounds. */
const FIGURES: Record<ZonePartKind, [string, string, number, number, number, string][]> = {
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
  first: boolean;
  onChange(words: string, next: ZonePart): void;
  onDrag(next: ZonePart): void;
  picking: boolean;
  onPick(): void;
  onRemove(): void;
}

function PartRow({ part, first, onChange, onDrag, picking, onPick, onRemove }: PartProps) {
  const name = NAMES[part.kind];
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
      {FIGURES[part.kind].map(([key, label, min, max, step, unit]) => {
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
              ((newPart[part.kind]() as unknown as Record<string, number>)[key]! * scale).toFixed(
                2,
              ),
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
