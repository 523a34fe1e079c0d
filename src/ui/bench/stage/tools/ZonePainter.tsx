import { useEffect, useMemo, useRef, useState } from 'react';
import { gridSize } from '@/core/frame/framing';
import { canonicalJson } from '@/core/recipe/canonical';
import type { Size } from '@/core/raster/region';
import { Stroke, type Touch } from '@/core/zone/brush';
import type { Veil } from '@/core/zone/veil';
import { mapOf, maskSize, type Zone, type ZoneMap } from '@/core/zone/zone';
import { ask, PRIORITY } from '@/preview/client';
import { tell } from '../../../data/notices';
import { ofZone } from '../../ticket/zones/make';
import type { WorkBench } from '../../use-work';
import { editZone, useTool, type ZoneLook } from './tool';
import { visible, type Layer } from '../panes/layers';
import { drawStrengths } from '../panes/strengths';
import { onPicture } from './on-picture';
import { toolKeys } from './tool-keys';
import { useMask } from './use-mask';
import { useVeil } from './use-veil';
import { usePicked } from '../../../parts/use-picked';
import { useViewport } from '../viewport';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  layer: Layer;
  view: Size;
  zone: Zone;
}

/** A finger rests while it goes no farther, in CSS pixels. */
const FINGER = 4;

/** How much of the picture a veil hides. */
const VEIL_ALPHA = 0.58;

/** The zone under work over the picture, and the brush that paints it. */
export function ZonePainter({ bench, layer, view, zone }: Props) {
  const { centre } = usePicked(useViewport, 'centre');
  const { tool, brush, zoneLook, panning } = usePicked(
    useTool,
    'tool',
    'brush',
    'zoneLook',
    'panning',
  );
  const picking = tool?.kind === 'zone' ? tool.picking : null;
  const canvas = useRef<HTMLCanvasElement>(null);
  const map = mapOf(zone, bench.work.zones, bench.original);
  const veil = useVeil(bench);
  const shown = useShownZone(canvas, layer, view, map, zoneLook, veil);
  const grid = gridSize(bench.original.size, bench.work.framing);
  const size = useMemo(() => maskSize(grid), [grid.width, grid.height]); // eslint-disable-line react-hooks/exhaustive-deps
  const { mask, begin, keep } = useMask(zone.painted, size);
  const stroke = useRef<{
    stroke: Stroke;
    away: boolean;
    drawn: [number, number];
    end: () => void;
  } | null>(null);
  /** a finger that has not moved yet: another may follow */
  const waiting = useRef<{ at: [number, number]; begun: () => void } | null>(null);
  /** where the last stroke ended, in pixels of the mask */
  const ended = useRef<Touch | null>(null);
  const latest = useRef(bench);
  latest.current = bench;
  const [cursor, setCursor] = useState<[number, number] | null>(null);

  const places = onPicture(bench, layer, view, centre);
  const scale = places?.scale;
  useEffect(() => {
    // A brush that covers the view paints nothing but all of it.
    if (scale && brush.size * scale > view.width / 4) {
      const size = Math.max(1, Math.round(view.width / 20 / scale));
      useTool.setState({ brush: { ...brush, size } });
    }
    // Once, where painting begins: afterwards it is as one chooses.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [zone.id]);
  if (!places) return null;
  const toMask = size.width / grid.width;

  const touchAt = (at: [number, number], pressure = 1): Touch & { at: [number, number] } => {
    const [x, y] = places.toGrid(...at);
    return { x: x * toMask, y: y * toMask, pressure, at };
  };
  const touchOf = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    // A mouse presses evenly.
    const pressure = event.pointerType === 'pen' ? event.pressure : 1;
    return touchAt([event.clientX - box.left, event.clientY - box.top], pressure);
  };
  /** Begins a stroke, straight from where the last one ended if that is wanted. */
  const start = (touch: ReturnType<typeof touchAt>, away: boolean, straight: boolean) => {
    stroke.current = {
      stroke: new Stroke(mask.current!, {
        radius: brush.size * toMask,
        softness: brush.softness,
        flow: brush.flow,
        takingAway: away,
      }),
      away,
      drawn: touch.at,
      end: begin(),
    };
    if (straight && ended.current) {
      stroke.current.drawn = places.toStage(ended.current.x / toMask, ended.current.y / toMask);
      stroke.current.stroke.to(ended.current);
    }
    goOn(touch);
  };
  const goOn = (touch: ReturnType<typeof touchAt>) => {
    stroke.current!.stroke.to(touch);
    ended.current = touch;
    sketch(touch.at, touch.pressure, stroke.current!.away);
  };
  const sketch = (at: [number, number], pressure: number, away: boolean) => {
    const from = stroke.current?.drawn ?? at;
    const radius = Math.max(0.5, brush.size * places.scale * (0.3 + 0.7 * pressure));
    dab(canvas.current!, from, at, radius, brush.softness, brush.flow, away, zoneLook, veil);
    if (stroke.current) stroke.current.drawn = at;
  };
  const pick = (at: [number, number]) => {
    editZone(zone.id);
    const colour = colourAt(canvas.current!, at);
    if (!colour) return;
    bench.change(
      say`Colour picked for ${zone.name}`,
      ofZone(zone.id, (one) => {
        const part = one.parts[picking!];
        if (part?.kind === 'colour') part.colour = colour;
      }),
    );
  };
  const finish = async () => {
    if (!stroke.current) return;
    const { away, end } = stroke.current;
    stroke.current = null;
    try {
      const painted = await keep();
      latest.current.change(
        `${away ? say`Taken from` : say`Painted on`} ${zone.name}`,
        ofZone(zone.id, (one) => (one.painted = painted)),
      );
    } catch (error) {
      tell(error instanceof Error ? error.message : say`The stroke could not be kept.`, 'trouble');
    } finally {
      end();
    }
  };
  const keys = toolKeys({
    cursor,
    view,
    onMove: (at) => {
      setCursor(at);
      if (stroke.current) goOn(touchAt(at));
    },
    onDown: (at, event) => {
      if (picking !== null) pick(at);
      else if (mask.current) start(touchAt(at), brush.takingAway !== event.altKey, false);
    },
    onUp: () => void finish(),
  });
  return (
    <div
      className={`picture-tool ${panning ? 'passive' : ''}`}
      data-zone={shown}
      onPointerDown={(event) => {
        event.stopPropagation();
        if (picking !== null) {
          pick(touchOf(event).at);
          return;
        }
        if (!mask.current || event.button !== 0) return;
        // Two fingers move the picture: the first of them paints nothing.
        if (!event.isPrimary) {
          waiting.current = null;
          return;
        }
        event.currentTarget.setPointerCapture(event.pointerId);
        const from = touchOf(event);
        const begun = () => start(from, brush.takingAway !== event.altKey, event.shiftKey);
        if (event.pointerType === 'touch') waiting.current = { at: from.at, begun };
        else begun();
      }}
      onPointerMove={(event) => {
        const touch = touchOf(event);
        setCursor(touch.at);
        const held = waiting.current;
        if (held && Math.hypot(touch.at[0] - held.at[0], touch.at[1] - held.at[1]) > FINGER) {
          held.begun();
          waiting.current = null;
        }
        if (stroke.current) goOn(touch);
      }}
      onPointerUp={() => {
        waiting.current?.begun();
        waiting.current = null;
        void finish();
      }}
      onPointerCancel={() => {
        waiting.current = null;
        void finish();
      }}
      onPointerLeave={() => setCursor(null)}
      aria-label={say`Brush on ${zone.name}: arrow keys move it, with Shift farther; Space paints`}
      {...keys}
    >
      <canvas
        ref={canvas}
        width={view.width}
        height={view.height}
        style={{ opacity: zoneLook === 'hidden' ? 0 : 1 }}
        role="img"
        aria-label={say`Zone ${zone.name}`}
      />
      {cursor && (
        <i
          className="brush-ring"
          style={{ left: cursor[0], top: cursor[1], width: 2 * brush.size * places.scale }}
        />
      )}
    </div>
  );
}

/** Colour of the picture at a place of the stage: the mean of 5 x 5 of its pixels. */
function colourAt(tool: HTMLElement, at: [number, number]): string | null {
  const pane = tool.closest('.view')?.querySelector<HTMLCanvasElement>('.pane canvas');
  if (!pane) return null;
  const scale = pane.width / pane.getBoundingClientRect().width;
  const [x, y] = at.map((side) => Math.round(side * scale)) as [number, number];
  const { data } = pane.getContext('2d')!.getImageData(x - 2, y - 2, 5, 5);
  const mean = (channel: number): string => {
    let sum = 0;
    for (let i = channel; i < data.length; i += 4) sum += data[i]!;
    return Math.round((sum * 4) / data.length)
      .toString(16)
      .padStart(2, '0');
  };
  // Beside the picture there is nothing to pick.
  return data[51] === 0 ? null : `#${mean(0)}${mean(1)}${mean(2)}`;
}

/** Draws a zone as the worker computes it; says which one is shown. */
function useShownZone(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  layer: Layer,
  view: Size,
  zone: ZoneMap,
  look: ZoneLook,
  veil: Veil,
): string {
  const centre = useViewport((state) => state.centre);
  const [shown, setShown] = useState('');
  const key = canonicalJson(zone);
  const region = useMemo(() => visible(layer, centre, view), [layer, centre, view]);

  useEffect(() => {
    if (region.width < 1 || region.height < 1) return;
    const stop = new AbortController();
    const map: ZoneMap = JSON.parse(key);
    const { original, recipe } = layer;
    ask(
      'zone',
      { original, recipe, zone: map, region },
      { priority: PRIORITY.seen, group: 'zone', signal: stop.signal },
    )
      .then((strengths) => {
        if (!canvas.current) return;
        const tint = look === 'alone' ? null : { colour: veil, alpha: VEIL_ALPHA };
        drawStrengths(canvas.current, strengths, region, layer, centre, view, tint);
        setShown(key);
      })
      .catch(() => {
        if (stop.signal.aborted) return;
        tell(say`The zone could not be shown. Reload the page to try again.`, 'trouble');
      });
    return () => stop.abort();
  }, [canvas, layer, region, key, centre, view, look, veil]);
  return shown;
}

/** A sketch of what the brush leaves, until the zone itself is there. */
function dab(
  canvas: HTMLCanvasElement,
  from: [number, number],
  to: [number, number],
  radius: number,
  softness: number,
  flow: number,
  away: boolean,
  look: ZoneLook,
  veil: Veil,
): void {
  const ratio = devicePixelRatio || 1;
  const context = canvas.getContext('2d')!;
  context.save();
  context.globalCompositeOperation = away ? 'destination-out' : 'source-over';
  const colour = look === 'alone' ? (away ? '0,0,0' : '255,255,255') : veil.join(',');
  if (look === 'alone') context.globalCompositeOperation = 'source-over';
  context.lineCap = 'round';
  context.lineWidth = 2 * radius * ratio * (1 - softness / 2);
  context.strokeStyle = `rgba(${colour},${flow * (away || look === 'alone' ? 1 : VEIL_ALPHA)})`;
  context.beginPath();
  context.moveTo(from[0] * ratio, from[1] * ratio);
  context.lineTo(to[0] * ratio + 0.01, to[1] * ratio);
  context.stroke();
  context.restore();
}
