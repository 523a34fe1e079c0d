import { ZOOM, type Paper, type Place } from '../measure/paper';
import { planPrint, type Picture, type PrintPlan } from '../measure/plan';
import { fromInches, MILLIMETRE, type Unit } from '../measure/units';
import type { Size } from '../raster/region';
import type { Rect } from './framing';

/** What of a rectangle is dragged: all of it, or the sides that are named. */
export interface Grip {
  x: -1 | 0 | 1;
  y: -1 | 0 | 1;
}

/** The whole rectangle. */
export const WHOLE: Grip = { x: 0, y: 0 };

const clamp = (value: number, least: number, most: number): number =>
  Math.min(Math.max(value, least), Math.max(least, most));

/**
 * A rectangle on a grid, dragged by a grip; it stays on the grid, on whole pixels.
 * @param shape width over height that is kept, or null
 */
export function draggedRect(
  rect: Rect,
  grip: Grip,
  by: { x: number; y: number },
  bounds: Size,
  shape: number | null,
): Rect {
  if (grip.x === 0 && grip.y === 0) {
    return {
      ...rect,
      x: Math.round(clamp(rect.x + by.x, 0, bounds.width - rect.width)),
      y: Math.round(clamp(rect.y + by.y, 0, bounds.height - rect.height)),
    };
  }
  const along = (start: number, span: number, side: -1 | 0 | 1, move: number, limit: number) => {
    const end = start + span;
    if (side < 0) {
      const first = clamp(Math.round(start + move), 0, end - 1);
      return { start: first, span: end - first };
    }
    if (side > 0) return { start, span: clamp(Math.round(end + move), start + 1, limit) - start };
    return { start, span };
  };
  const x = along(rect.x, rect.width, grip.x, by.x, bounds.width);
  const y = along(rect.y, rect.height, grip.y, by.y, bounds.height);
  const free = { x: x.start, y: y.start, width: x.span, height: y.span };
  return shape === null ? free : shaped(free, rect, grip, bounds, shape);
}

/** `free` in a shape: the side that was dragged leads, the opposite corner or middle stays. */
function shaped(free: Rect, before: Rect, grip: Grip, bounds: Size, shape: number): Rect {
  const leads = grip.y === 0 || (grip.x !== 0 && free.width / free.height >= shape);
  let width = leads ? free.width : free.height * shape;
  const anchor = (start: number, span: number, side: number) =>
    side < 0 ? start + span : side > 0 ? start : start + span / 2;
  const ax = anchor(before.x, before.width, grip.x);
  const ay = anchor(before.y, before.height, grip.y);
  const room = (at: number, side: number, limit: number) =>
    side < 0 ? at : side > 0 ? limit - at : 2 * Math.min(at, limit - at);
  width = Math.min(width, room(ax, grip.x, bounds.width), room(ay, grip.y, bounds.height) * shape);
  const size = {
    width: Math.max(1, Math.round(width)),
    height: Math.max(1, Math.round(width / shape)),
  };
  const start = (at: number, side: number, span: number, limit: number) =>
    clamp(Math.round(side < 0 ? at - span : side > 0 ? at : at - span / 2), 0, limit - span);
  return {
    x: start(ax, grip.x, size.width, bounds.width),
    y: start(ay, grip.y, size.height, bounds.height),
    ...size,
  };
}

/** The largest rectangle of a shape within another, about its middle, on whole pixels. */
export function largestOfShape(rect: Rect, shape: number): Rect {
  const width = Math.max(1, Math.round(Math.min(rect.width, rect.height * shape)));
  const height = Math.max(1, Math.round(Math.min(rect.height, rect.width / shape)));
  return {
    x: Math.round(rect.x + (rect.width - width) / 2),
    y: Math.round(rect.y + (rect.height - height) / 2),
    width,
    height,
  };
}

/** A window of another size whose sides stay where they aren't dragged. */
const anchored = (window: Rect, grip: Grip, size: Size): Rect => ({
  x: grip.x < 0 ? window.x + window.width - size.width : window.x,
  y: grip.y < 0 ? window.y + window.height - size.height : window.y,
  ...size,
});

/** The place at which the paper's window would begin at x, y. */
function placeAt(picture: Rect, window: Rect, zoom: number, before: Place): Place {
  const share = (start: number, left: number, kept: number) =>
    Math.abs(left) < 1e-9 ? kept : clamp(start / left, 0, 1);
  return {
    x: share(window.x - picture.x, picture.width - window.width, before.x),
    y: share(window.y - picture.y, picture.height - window.height, before.y),
    zoom: clamp(zoom, ZOOM.least, ZOOM.most),
  };
}

/**
 * A paper after its window on the picture was dragged. All of it: another part. By a corner: the
 * same paper on a larger or smaller part. By a side: a longer or shorter paper at the same scale;
 * beyond the picture's edge it becomes a margin.
 * @param by in pixels of the frame
 */
export function draggedPaper(
  picture: Picture,
  paper: Paper,
  plan: PrintPlan,
  grip: Grip,
  by: { x: number; y: number },
): Paper {
  const { window } = plan;
  const { rect } = picture;
  const { place } = paper;
  if (grip.x === 0 && grip.y === 0) {
    const moved = { ...window, x: window.x + by.x, y: window.y + by.y };
    return { ...paper, place: placeAt(rect, moved, place.zoom, place) };
  }
  // What is stretched has neither parts nor a scale of its own: it is cropped from here on.
  const cropped: Paper = paper.fit === 'stretch' ? { ...paper, fit: 'crop' } : paper;
  if (grip.x !== 0 && grip.y !== 0) {
    const wider = 1 + Math.max((grip.x * by.x) / window.width, (grip.y * by.y) / window.height);
    const zoom = clamp(place.zoom / Math.max(wider, 0.02), ZOOM.least, ZOOM.most);
    const size = {
      width: (window.width * place.zoom) / zoom,
      height: (window.height * place.zoom) / zoom,
    };
    return { ...cropped, place: placeAt(rect, anchored(window, grip, size), zoom, place) };
  }
  return draggedSide(picture, cropped, plan, grip, by);
}

function draggedSide(
  picture: Picture,
  paper: Paper,
  plan: PrintPlan,
  grip: Grip,
  by: { x: number; y: number },
): Paper {
  const { window, ordered, ppiAfter } = plan;
  const across = grip.x !== 0;
  const span = across ? window.width : window.height;
  const wanted = Math.max(span * 0.02, span + (across ? grip.x * by.x : grip.y * by.y));
  const inches = across ? ordered.width : ordered.height;
  const side = (name: 'width' | 'height', value: number) => {
    const unit: Unit = paperUnit(paper);
    const axis = { originalPixels: picture.rect[name], ppi: ppiAfter };
    return { value: rounded(fromInches(value, unit, axis), unit), unit };
  };
  const longer = (inches * wanted) / span;
  const next: Paper = {
    ...paper,
    width: side('width', across ? longer : ordered.width),
    height: side('height', across ? ordered.height : longer),
    place: { ...paper.place, zoom: 1 },
  };
  // As it would lie without a zoom, to know which zoom keeps the scale.
  const plain = planPrint(picture, next, ppiAfter);
  if (!plain.ok) return paper;
  const scale = window.width / ordered.width;
  const size = {
    width: plain.plan.ordered.width * scale,
    height: plain.plan.ordered.height * scale,
  };
  const zoom = plain.plan.window.width / size.width;
  const begin = anchored(window, grip, size);
  return { ...next, place: placeAt(picture.rect, begin, zoom, paper.place) };
}

/** The unit that the paper is spoken of in. */
function paperUnit({ width, height }: Paper): Unit {
  const unit = width?.unit ?? height?.unit ?? 'cm';
  return unit === 'px' || unit === '%' ? 'cm' : unit;
}

/** Dragged lengths are whole millimetres, or what comes near them in other units. */
const rounded = (value: number, unit: Unit): number =>
  Math.max(10 ** -MILLIMETRE[unit], Number(value.toFixed(MILLIMETRE[unit])));
