import { useEffect, useMemo, useRef, useState } from 'react';
import { gridSize } from '@/core/frame/framing';
import { canonicalJson } from '@/core/recipe/canonical';
import type { Size } from '@/core/raster/region';
import { Stroke, type Touch } from '@/core/zone/brush';
import { mapOf, maskSize, type Zone, type ZoneMap } from '@/core/zone/zone';
import { ask, PRIORITY } from '@/preview/client';
import { tell } from '../../../data/notices';
import { ofZone } from '../../ticket/zones/make';
import type { WorkBench } from '../../use-work';
import { editZone, useTool, type ZoneLook } from './tool';
import { visible, type Layer } from '../panes/layers';
import { drawStrengths } from '../panes/strengths';
import { onPicture } from './on-picture';
import { useMask } from './use-mask';
import { usePicked } from '../../../parts/use-picked';
import { useViewport } from '../viewport';

interface Props {
  bench: WorkBench;
  layer: Layer;
  view: Size;
  zone: Zone;
}

/** Colour of the veil that shows a zone: bottle green, told from the picture by being even. */
const VEIL = [22, 110, 88] as const;
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
  const shown = useShownZone(canvas, layer, view, map, zoneLook);
  const grid = gridSize(bench.original.size, bench.work.framing);
  const size = useMemo(() => maskSize(grid), [grid.width, grid.height]); // eslint-disable-line react-hooks/exhaustive-deps
  const { mask, begin, keep } = useMask(zone.painted, size);
  const stroke = useRef<{
    stroke: Stroke;
    away: boolean;
    drawn: [number, number];
    end: () => void;
  } | null>(null);
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

  const touchOf = (event: React.PointerEvent): Touch & { at: [number, number] } => {
    const box = event.currentTarget.getBoundingClientRect();
    const at: [number, number] = [event.clientX - box.left, event.clientY - box.top];
    const [x, y] = places.toGrid(...at);
    // A mouse presses evenly.
    const pressure = event.pointerType === 'pen' ? event.pressure : 1;
    return { x: x * toMask, y: y * toMask, pressure, at };
  };
  const sketch = (at: [number, number], pressure: number, away: boolean) => {
    const from = stroke.current?.drawn ?? at;
    const radius = Math.max(0.5, brush.size * places.scale * (0.3 + 0.7 * pressure));
    dab(canvas.current!, from, at, radius, brush.softness, brush.flow, away, zoneLook);
    if (stroke.current) stroke.current.drawn = at;
  };
  const pick = (event: React.PointerEvent) => {
    editZone(zone.id);
    const colour = colourUnder(event);
    if (!colour) return;
    bench.change(
      `Colour picked for ${zone.name}`,
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
        `${away ? 'Taken from' : 'Painted on'} ${zone.name}`,
        ofZone(zone.id, (one) => (one.painted = painted)),
      );
    } catch (error) {
      tell(error instanceof Error ? error.message : 'The stroke could not be kept.', 'trouble');
    } finally {
      end();
    }
  };
  return (
    <div
      className={`picture-tool ${panning ? 'passive' : ''}`}
      data-zone={shown}
      onPointerDown={(event) => {
        event.stopPropagation();
        if (picking !== null) {
          pick(event);
          return;
        }
        if (!mask.current || event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const touch = touchOf(event);
        const away = brush.takingAway !== event.altKey;
        stroke.current = {
          stroke: new Stroke(mask.current, {
            radius: brush.size * toMask,
            softness: brush.softness,
            flow: brush.flow,
            takingAway: away,
          }),
          away,
          drawn: touch.at,
          end: begin(),
        };
        if (event.shiftKey && ended.current) {
          const [x, y] = places.toStage(ended.current.x / toMask, ended.current.y / toMask);
          stroke.current.stroke.to(ended.current);
          stroke.current.drawn = [x, y];
        }
        stroke.current.stroke.to(touch);
        ended.current = touch;
        sketch(touch.at, touch.pressure, away);
      }}
      onPointerMove={(event) => {
        const touch = touchOf(event);
        setCursor(touch.at);
        if (!stroke.current) return;
        stroke.current.stroke.to(touch);
        ended.current = touch;
        sketch(touch.at, touch.pressure, stroke.current.away);
      }}
      onPointerUp={() => void finish()}
      onPointerCancel={() => void finish()}
      onPointerLeave={() => setCursor(null)}
    >
      <canvas
        ref={canvas}
        width={view.width}
        height={view.height}
        style={{ opacity: zoneLook === 'hidden' ? 0 : 1 }}
        role="img"
        aria-label={`Zone ${zone.name}`}
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

/** Colour of the picture under the pointer: the mean of 5 x 5 pixels of the stage. */
function colourUnder(event: React.PointerEvent): string | null {
  const view = event.currentTarget.parentElement;
  const pane = view?.querySelector<HTMLCanvasElement>('.pane canvas');
  if (!pane) return null;
  const box = pane.getBoundingClientRect();
  const scale = pane.width / box.width;
  const x = Math.round((event.clientX - box.left) * scale);
  const y = Math.round((event.clientY - box.top) * scale);
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
        const tint = look === 'alone' ? null : { colour: VEIL, alpha: VEIL_ALPHA };
        drawStrengths(canvas.current, strengths, region, layer, centre, view, tint);
        setShown(key);
      })
      .catch(() => {
        if (stop.signal.aborted) return;
        tell('The zone could not be shown. Reload the page to try again.', 'trouble');
      });
    return () => stop.abort();
  }, [canvas, layer, region, key, centre, view, look]);
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
): void {
  const ratio = devicePixelRatio || 1;
  const context = canvas.getContext('2d')!;
  context.save();
  context.globalCompositeOperation = away ? 'destination-out' : 'source-over';
  const colour = look === 'alone' ? (away ? '0,0,0' : '255,255,255') : VEIL.join(',');
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
