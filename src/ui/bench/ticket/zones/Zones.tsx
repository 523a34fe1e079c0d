import { Check, Trash2 } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { Dropdown, Form } from 'react-bootstrap';
import { facesFound } from '@/core/faces/words';
import { formatNumber } from '@/core/measure/format';
import {
  FEATHER_LIMIT,
  joinedFrom,
  mapOf,
  mayJoin,
  newPart,
  PARTS_MOST,
  zonePart,
  type ComputedKind,
  type Zone,
  type ZonePart,
} from '@/core/zone/zone';
import { looksAtPicture } from '@/core/zone/render-zone';
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
import { copyOf, newZone, ofZone } from './make';
import { NAMES, PartRow } from './PartRow';
import { usePicked } from '../../../parts/use-picked';

const PARTS: { kind: ComputedKind; name: string; make?: () => ZonePart }[] = [
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
  { kind: 'faces', name: 'Faces' },
  { kind: 'skin', name: 'Skin tones' },
  { kind: 'linear', name: 'Linear gradient' },
  { kind: 'round', name: 'Round gradient' },
];

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
  const edited = tool?.kind === 'zone' && work.zones.find(({ id }) => id === tool.id);
  if (edited) return <ZoneEditor bench={bench} zone={edited} />;
  return (
    <Fold title="Zones" line={work.zones.length === 0 ? 'none' : String(work.zones.length)}>
      {work.zones.map((zone) => (
        <div className="zone-line" key={zone.id}>
          <span>{zone.name}</span>
          <button type="button" className="text-button" onClick={() => editZone(zone.id)}>
            Edit
          </button>
          <button
            type="button"
            className="text-button"
            aria-label={`Copy ${zone.name}`}
            onClick={() => {
              const made = copyOf(zone, work.zones);
              change(`${zone.name} copied`, (next) => next.zones.push(made));
              editZone(made.id);
            }}
          >
            Copy
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

function ZoneEditor({ bench, zone }: { bench: WorkBench; zone: Zone }) {
  const { work, change, sketch } = bench;
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
  const nameOf = (other: string) => work.zones.find((one) => one.id === other)?.name;
  const joinable = work.zones.filter(
    (other) => other.id !== id && mayJoin(other, id, work.zones) && parts.length < PARTS_MOST,
  );
  const used = joinedFrom(bench.trial.treatment.flatMap(zonesOf), work.zones).has(id);
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
          zone={part.kind === 'zone' ? nameOf(part.id) : undefined}
          first={i === 0}
          onChange={(words, next) => put(words, (one) => (one.parts[i] = next))}
          onDrag={(next) => sketch(ofZone(id, (one) => (one.parts[i] = next)))}
          picking={picking === i}
          onPick={() => takeTool({ kind: 'zone', id, picking: picking === i ? null : i })}
          onRemove={() =>
            put(`${part.kind === 'zone' ? nameOf(part.id) : NAMES[part.kind]} taken out`, (one) =>
              one.parts.splice(i, 1),
            )
          }
        />
      ))}
      <Dropdown>
        <Dropdown.Toggle className="text-button" bsPrefix="btn" variant="link">
          Add a part …
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
          {joinable.length > 0 && <Dropdown.Header>Other zones</Dropdown.Header>}
          {joinable.map((other) => (
            <Dropdown.Item
              key={other.id}
              onClick={() =>
                put(`${other.name} joined to ${name}`, (one) => one.parts.push(zonePart(other.id)))
              }
            >
              {other.name}
            </Dropdown.Item>
          ))}
        </Dropdown.Menu>
      </Dropdown>
      {parts.some(({ kind }) => kind === 'faces') && (
        <p className="soft mb-0">{facesFound(bench.original.faces)}</p>
      )}
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
      {looksAtPicture(mapOf(zone, work.zones, bench.original)) && (
        <>
          <Form.Check
            type="switch"
            id="zone-print"
            label="Look at the print’s own pixels"
            checked={zone.print === true}
            onChange={() =>
              put(`${name} looks at the ${zone.print ? 'original' : 'print'}`, (one) => {
                if (one.print) delete one.print;
                else one.print = true;
              })
            }
          />
          {zone.print && (
            <p className="soft mb-0">
              In steps after enlarging it is found on the enlarged picture, cleaned and as fine as
              the print is. Before that, and where the original is shown, it looks at the original.
            </p>
          )}
        </>
      )}
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
            change(`${name} taken out`, (next) => forgetZone(next, id));
            takeTool(null);
          }}
        >
          <Trash2 size={13} /> Take this zone out
        </button>
      </div>
    </div>
  );
}
