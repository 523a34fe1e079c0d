import { v4 as newId } from 'uuid';
import { useEffect, useRef, useState } from 'react';
import type { Size } from '@/core/raster/region';
import { isOfKind, type StepChoice } from '@/core/steps';
import type { Spot } from '@/core/steps/retouch/retouch';
import type { Shape } from '@/core/steps/retouch/shape';
import { ask, PRIORITY } from '@/preview/client';
import { tell } from '../../../data/notices';
import { beforeRetouching } from '@/core/recipe/views';
import { wholeOriginal } from '../../preview-original';
import { ofStepAt, type WorkBench } from '../../use-work';
import { spottingOf, takeTool, useTool } from './tool';
import type { Layer } from '../panes/layers';
import { onPicture, type OnPicture } from './on-picture';
import { usePicked } from '../../../parts/use-picked';
import { toolKeys } from './tool-keys';
import { useViewport } from '../viewport';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  layer: Layer;
  view: Size;
  step: StepChoice;
  index: number;
}

/** How soft the edge of a spot made by hand is. */
const SOFTNESS = 0.35;

/** Spots on the picture: made by clicking and painting, accepted by clicking a suggested one. */
export function SpotTool({ bench, layer, view, step, index }: Props) {
  const { resolved, job } = bench;
  const { centre } = usePicked(useViewport, 'centre');
  const { tool, spotRadius, suggested, panning } = usePicked(
    useTool,
    'tool',
    'spotRadius',
    'suggested',
    'panning',
  );
  const spotting = spottingOf(tool);
  const cloneFrom = tool?.kind === 'clone' ? tool.from : null;
  const [path, setPath] = useState<[number, number][] | null>(null);
  const [cursor, setCursor] = useState<[number, number] | null>(null);
  const latest = useRef(bench);
  useEffect(() => void (latest.current = bench));
  const places = onPicture(bench, layer, view, centre);
  if (!places || !resolved.ok || !isOfKind(step, 'retouch')) return null;
  const { spots } = step.settings;

  const add = (words: string, made: Spot) =>
    latest.current.change(
      words,
      ofStepAt(index, (one) => {
        if (isOfKind(one, 'retouch')) one.settings.spots.push(made);
      }),
    );
  const heal = async (shape: Shape) => {
    const { digest, findings } = job.piece;
    const original = wholeOriginal(digest, findings, resolved.recipe);
    const recipe = beforeRetouching(resolved.recipe);
    try {
      const offset = await ask(
        'spotSource',
        { original, recipe, shape, avoid: [...spots, ...suggested] },
        { priority: PRIORITY.seen, group: 'spots' },
      );
      if (offset) add(say`Spot healed`, { id: newId(), how: 'heal', offset, ...shape });
      else {
        tell(
          say`There is nothing like it nearby to heal this spot from. Clone it instead.`,
          'trouble',
        );
      }
    } catch {
      tell(say`The spot could not be healed. Nothing was changed; try again.`, 'trouble');
    }
  };
  const finish = () => {
    if (!path) return;
    setPath(null);
    const shape = { points: path, radius: spotRadius, softness: SOFTNESS };
    if (spotting === 'heal') {
      void heal(shape);
      return;
    }
    const [x, y] = path[0]!;
    const offset: [number, number] = [Math.round(cloneFrom!.x - x), Math.round(cloneFrom!.y - y)];
    add(say`Spot cloned`, { id: newId(), how: 'clone', offset, ...shape });
  };
  const atOf = (event: React.PointerEvent): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  /** @returns whether a spot is begun there, rather than where it is cloned from */
  const begin = (at: [number, number]): boolean => {
    const [x, y] = places.toGrid(...at);
    setCursor(at);
    if (spotting === 'clone' && !cloneFrom) {
      takeTool({ kind: 'clone', from: { x, y } });
      return false;
    }
    setPath([[x, y]]);
    return true;
  };
  const goOn = (at: [number, number]) => {
    const point = places.toGrid(...at);
    setCursor(at);
    if (!path || path.length >= 400) return;
    const [x, y] = path.at(-1)!;
    if (Math.hypot(point[0] - x, point[1] - y) > Math.max(1, spotRadius / 2)) {
      setPath([...path, point]);
    }
  };
  const keys = toolKeys({
    ...{ cursor, view, onMove: goOn, onUp: finish },
    onDown: (at) => void begin(at),
  });
  return (
    <div
      className={`picture-tool ${!spotting || panning ? 'passive' : ''}`}
      onPointerDown={(event) => {
        if (!spotting || event.button !== 0) return;
        event.stopPropagation();
        if (begin(atOf(event))) event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => spotting && goOn(atOf(event))}
      onPointerUp={finish}
      onPointerCancel={() => setPath(null)}
      onPointerLeave={() => setCursor(null)}
      {...(spotting && {
        'aria-label': say`Spots: arrow keys move the tool, with Shift farther; Space heals or clones`,
        ...keys,
      })}
    >
      <svg aria-label={say`Spots`} role="img">
        {spots.map((spot) => (
          <Outline key={spot.id} shape={spot} places={places} className={spot.how} />
        ))}
        {suggested.map((spot) => (
          <Outline
            key={spot.id}
            shape={spot}
            places={places}
            className="suggested"
            onAccept={() => {
              add(say`Spot healed`, { ...spot, id: newId() });
              useTool.setState({ suggested: suggested.filter((one) => one !== spot) });
            }}
          />
        ))}
        {path && (
          <Outline
            shape={{ points: path, radius: spotRadius, softness: 0 }}
            places={places}
            className="drawn"
          />
        )}
        {spotting === 'clone' && cloneFrom && (
          <Outline
            shape={{ points: [[cloneFrom.x, cloneFrom.y]], radius: spotRadius, softness: 0 }}
            places={places}
            className="source"
          />
        )}
      </svg>
      {cursor && spotting && (
        <i
          className="brush-ring"
          style={{ left: cursor[0], top: cursor[1], width: 2 * spotRadius * places.scale }}
        />
      )}
    </div>
  );
}

interface OutlineProps {
  shape: Shape;
  places: OnPicture;
  className: string;
  onAccept?: () => void;
}

function Outline({ shape, places, className, onAccept }: OutlineProps) {
  const points = shape.points.map(([x, y]) => places.toStage(x, y));
  const radius = Math.max(4, shape.radius * places.scale);
  const accept = onAccept && {
    role: 'button',
    tabIndex: 0,
    'aria-label': say`Heal this suggested spot`,
    onPointerDown: (event: React.PointerEvent) => {
      event.stopPropagation();
      onAccept();
    },
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === 'Enter') onAccept();
    },
  };
  const [x, y] = points[0]!;
  return points.length === 1 ? (
    <circle className={className} cx={x} cy={y} r={radius} {...accept} />
  ) : (
    <g className={className} {...accept}>
      <polyline points={points.map((point) => point.join()).join(' ')} />
      {[points[0]!, points.at(-1)!].map(([u, v], i) => (
        <circle key={i} cx={u} cy={v} r={radius} />
      ))}
    </g>
  );
}
