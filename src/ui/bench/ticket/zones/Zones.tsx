import { Menu } from '../../../parts/Menu';
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
import { say } from '@/core/words/say';

const PARTS: { kind: ComputedKind; name: string; make?: () => ZonePart }[] = [
  { kind: 'flat', name: say`Flat areas` },
  { kind: 'edges', name: say`Edges` },
  { kind: 'sharp', name: say`The sharp part` },
  { kind: 'soft', name: say`The soft part` },
  { kind: 'tones', name: say`Shadows` },
  {
    kind: 'tones',
    name: say`Mid-tones`,
    make: () => ({ ...newPart.tones(), from: 0.3, to: 0.7 }),
  },
  { kind: 'tones', name: say`Highlights`, make: () => ({ ...newPart.tones(), from: 0.7, to: 1 }) },
  { kind: 'colour', name: say`A colour` },
  { kind: 'lettering', name: 'Lettering' },
  { kind: 'faces', name: 'Faces' },
  { kind: 'skin', name: say`Skin tones` },
  { kind: 'linear', name: say`Linear gradient` },
  { kind: 'round', name: say`Round gradient` },
];

const LOOKS: { value: ZoneLook; label: string }[] = [
  { value: 'over', label: say`Over the picture` },
  { value: 'alone', label: say`Alone` },
  { value: 'hidden', label: say`Hidden` },
];

/** What of the brush is a share. */
const SHARES = [
  { key: 'softness', label: say`Softness`, least: 0, usual: 60 },
  { key: 'flow', label: say`Flow`, least: 1, usual: 100 },
] as const;

/** The zones of a picture; one of them may be under work. */
export function Zones({ bench }: { bench: WorkBench }) {
  const { work, change } = bench;
  const tool = useTool((state) => state.tool);
  const edited = tool?.kind === 'zone' && work.zones.find(({ id }) => id === tool.id);
  if (edited) return <ZoneEditor bench={bench} zone={edited} />;
  return (
    <Fold title={say`Zones`} line={work.zones.length === 0 ? say`none` : String(work.zones.length)}>
      {work.zones.map((zone) => (
        <div className="zone-line" key={zone.id}>
          <span>{zone.name}</span>
          <button type="button" className="text-button" onClick={() => editZone(zone.id)}>
            {say`Edit`}
          </button>
          <button
            type="button"
            className="text-button"
            aria-label={say`Copy ${zone.name}`}
            onClick={() => {
              const made = copyOf(zone, work.zones);
              change(say`${zone.name} copied`, (next) => next.zones.push(made));
              editZone(made.id);
            }}
          >
            {say`Copy`}
          </button>
        </div>
      ))}
      <button
        type="button"
        className="text-button"
        onClick={() => {
          const made = newZone(work.zones);
          change(say`${made.name} begun`, (next) => next.zones.push(made));
          editZone(made.id);
        }}
      >
        {say`Begin a zone`}
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
    <div className="zone-editor" ref={editor} role="group" aria-label={say`Zone ${name}`}>
      <div className="zone-line">
        <Form.Control
          size="sm"
          aria-label={say`Name of the zone`}
          key={name}
          defaultValue={name}
          maxLength={60}
          onBlur={(event) => {
            const next = event.target.value.trim();
            if (next && next !== name) put(say`Zone named ${next}`, (one) => (one.name = next));
          }}
        />
        <button type="button" className="text-button" onClick={() => takeTool(null)}>
          <Check size={14} /> {say`Done`}
        </button>
      </div>
      <p className="soft mb-0">
        {!used
          ? say`No step uses it yet: choose it under “Where” of a step.`
          : say`Paint on the picture. Alt takes away; shift draws straight from the last place.`}
      </p>
      <Choices
        name="brush"
        label={say`What the brush does`}
        value={brush.takingAway ? 'away' : 'add'}
        options={[
          { value: 'add', label: say`Add` },
          { value: 'away', label: say`Take away` },
        ]}
        onChange={(value) => setBrush({ takingAway: value === 'away' })}
      />
      <Slider
        label={say`Brush`}
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
            put(
              say`${part.kind === 'zone' ? nameOf(part.id) : NAMES[part.kind]} taken out`,
              (one) => one.parts.splice(i, 1),
            )
          }
        />
      ))}
      <Dropdown>
        <Dropdown.Toggle className="text-button" bsPrefix="btn" variant="link">
          {say`Select automatically …`}
        </Dropdown.Toggle>
        <Menu>
          {PARTS.map(({ kind, name: title, make }) => (
            <Dropdown.Item
              key={title}
              onClick={() =>
                put(say`${title} added to ${name}`, (one) =>
                  one.parts.push(make?.() ?? newPart[kind]()),
                )
              }
            >
              {title}
            </Dropdown.Item>
          ))}
          {joinable.length > 0 && <Dropdown.Header>{say`Other zones`}</Dropdown.Header>}
          {joinable.map((other) => (
            <Dropdown.Item
              key={other.id}
              onClick={() =>
                put(say`${other.name} joined to ${name}`, (one) =>
                  one.parts.push(zonePart(other.id)),
                )
              }
            >
              {other.name}
            </Dropdown.Item>
          ))}
        </Menu>
      </Dropdown>
      {parts.some(({ kind }) => kind === 'faces') && (
        <p className="soft mb-0">{facesFound(bench.original.faces)}</p>
      )}
      <Slider
        label={say`Feather`}
        value={zone.feather}
        min={0}
        max={FEATHER_LIMIT}
        step={0.5}
        unit="px"
        usual={0}
        {...slides(
          bench,
          (feather) => ofZone(id, (one) => (one.feather = feather)),
          (feather) => say`Feather ${formatNumber(feather)} px`,
        )}
      />
      {looksAtPicture(mapOf(zone, work.zones, bench.original)) && (
        <>
          <Form.Check
            type="switch"
            id="zone-print"
            label={say`Look at the print’s own pixels`}
            checked={zone.print === true}
            onChange={() =>
              put(say`${name} looks at the ${zone.print ? say`original` : say`print`}`, (one) => {
                if (one.print) delete one.print;
                else one.print = true;
              })
            }
          />
          {zone.print && (
            <p className="soft mb-0">
              {say`In steps after enlarging it is found on the enlarged picture, cleaned and as fine as the print is. Before that, and where the original is shown, it looks at the original.`}
            </p>
          )}
        </>
      )}
      <Form.Check
        type="switch"
        id="zone-inverted"
        label={say`Inverted`}
        checked={zone.inverted}
        onChange={() => put(say`${name} inverted`, (one) => (one.inverted = !zone.inverted))}
      />
      <Choices
        name="zone-look"
        label={say`How the zone is shown`}
        value={zoneLook}
        options={LOOKS}
        onChange={(value) => useTool.setState({ zoneLook: value })}
      />
      <div className="zone-line">
        <button
          type="button"
          className="text-button"
          disabled={!zone.painted}
          onClick={() => put(say`Painted zone cleared`, (one) => (one.painted = null))}
        >
          {say`Clear the painted zone`}
        </button>
        <button
          type="button"
          className="text-button"
          onClick={() => {
            change(say`${name} taken out`, (next) => forgetZone(next, id));
            takeTool(null);
          }}
        >
          <Trash2 size={13} /> {say`Remove this zone`}
        </button>
      </div>
    </div>
  );
}
