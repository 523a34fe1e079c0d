import type { SaxesTagPlain } from 'saxes';
import { followedBy } from '@/core/placed/place';
import type { Affine } from '@/core/placed/placed';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { fitted, lengthIn, transformOf } from './svg-units';

/** Elements of which what they hold is drawn where they are named, if at all. */
const ELSEWHERE = new Set(['defs', 'symbol', 'pattern', 'mask', 'clipPath', 'marker', 'filter']);
/** Elements that draw what they hold, when they are named, in ways of their own. */
const OWN_WAYS = new Set(['pattern', 'marker', 'filter']);
/** Places of one element that are looked for, and steps on the way to them; references can multiply without end. */
const PLACES = 40;
const STEPS = 2000;

const STILL: Affine = [1, 0, 0, 1, 0, 0];

/** A style that moves or sizes something. */
const MOVES = /(?:^|[;{\s])(?:transform|x|y|width|height)\s*:/i;

/** Whether a drawing's own style sheets may move or size what they name. */
export const movesByStyle = (text: string): boolean =>
  [...text.matchAll(/<(?:\w+:)?style\b[^>]*>([\s\S]*?)<\/(?:\w+:)?style/gi)].some(([, sheet]) =>
    MOVES.test(sheet!),
  );

/** What shows of a drawing, in its own units, and how that is laid on its page; null where it is cut. */
export interface Root {
  box: Rect;
  map: Affine | null;
}

/** An element as far as it moves what it holds. */
export interface Element {
  kind: string;
  id: string | undefined;
  attributes: Record<string, string>;
  parent: Element | null;
  /** from what it holds to its parent's user space; null where that is not followed */
  map: Affine | null;
  /** what percentages in it are of; null where that is not known */
  viewport: Size | null;
}

/** Where an element is drawn, from its own user space to CSS pixels of the page. */
export interface Places {
  known: Affine[];
  /** whether it is drawn in ways that are not followed as well */
  unknown: boolean;
}

/** The elements of an SVG that is being parsed, and where references draw them once more. */
export class SvgElements {
  private readonly open: Element[] = [];
  private readonly uses = new Map<string, Element[]>();

  /** The element that begins. @param root how the outermost one is laid on its page */
  begin({ name, attributes }: SaxesTagPlain, root: Root): Element {
    const kind = name.replace(/^.*:/, '');
    const parent = this.open.at(-1) ?? null;
    const element: Element = { kind, id: attributes.id, attributes, parent, ...laid() };
    this.open.push(element);
    if (kind === 'use') {
      const named = hrefOf(attributes).replace(/^#/, '');
      this.uses.set(named, [...(this.uses.get(named) ?? []), element]);
    }
    return element;

    function laid(): Pick<Element, 'map' | 'viewport'> {
      if (!parent) return { map: root.map, viewport: root.box };
      const { viewport } = parent;
      if (MOVES.test(attributes.style ?? '')) return { map: null, viewport };
      const own = transformOf(attributes.transform);
      if (kind === 'svg') {
        const box = boxIn(attributes, viewport);
        return box && !attributes.transform
          ? within(attributes, box)
          : { map: null, viewport: null };
      }
      // What a symbol shows is laid into the rectangle of whatever names it.
      return { map: kind === 'symbol' ? STILL : own, viewport };
    }
  }

  end(): void {
    this.open.pop();
  }

  /** All places in which an element is drawn, once the drawing is read. */
  placesOf(element: Element): Places {
    const places = { known: [], unknown: false, steps: 0 };
    this.climb(element, STILL, places, new Set());
    return places;
  }

  /** @param map from the element that is looked for to this one's own user space; null where that is not followed */
  private climb(
    at: Element,
    map: Affine | null,
    to: Places & { steps: number },
    through: Set<Element>,
  ): void {
    if (to.known.length >= PLACES || ++to.steps > STEPS) {
      to.unknown = true;
      return;
    }
    const own = map && at.map && followedBy(map, at.map);
    for (const use of (at.id !== undefined && this.uses.get(at.id)) || []) {
      // A reference to what it stands in draws nothing.
      if (through.has(use)) continue;
      const moved = own && laidBy(use, at);
      this.climb(use, moved && followedBy(own, moved), to, new Set([...through, use]));
    }
    if (OWN_WAYS.has(at.kind)) to.unknown = true;
    if (ELSEWHERE.has(at.kind)) return;
    if (at.parent) this.climb(at.parent, own, to, through);
    else if (own) to.known.push(own);
    else to.unknown = true;
  }
}

/** How a reference lays what it names; null where that is not followed. */
function laidBy(use: Element, named: Element): Affine | null {
  const { attributes, viewport } = use;
  if (named.kind === 'svg') return null;
  if (named.kind === 'symbol' && named.attributes.viewBox) {
    const box = boxIn(attributes, viewport);
    return box && within(named.attributes, box).map;
  }
  const x = lengthIn(attributes.x ?? '0', viewport?.width ?? null);
  const y = lengthIn(attributes.y ?? '0', viewport?.height ?? null);
  return x === null || y === null ? null : [1, 0, 0, 1, x, y];
}

/** The rectangle of an element that holds a drawing of its own; all of what it lies in where it names none. */
function boxIn(attributes: Record<string, string>, viewport: Size | null): Rect | null {
  const x = lengthIn(attributes.x ?? '0', viewport?.width ?? null);
  const y = lengthIn(attributes.y ?? '0', viewport?.height ?? null);
  const width = lengthIn(attributes.width ?? '100%', viewport?.width ?? null);
  const height = lengthIn(attributes.height ?? '100%', viewport?.height ?? null);
  return x === null || y === null || width === null || height === null
    ? null
    : { x, y, width, height };
}

/** How what an element shows of a drawing is laid into a rectangle. */
function within(
  { viewBox, preserveAspectRatio }: Record<string, string>,
  box: Rect,
): Pick<Element, 'map' | 'viewport'> {
  const shown = viewBox === undefined ? { ...box, x: 0, y: 0 } : viewBoxOf(viewBox);
  if (!shown || !(shown.width > 0 && shown.height > 0)) return { map: null, viewport: null };
  const laid = fitted(shown, box, preserveAspectRatio);
  if (!laid || laid.cut) return { map: null, viewport: shown };
  const [x, y] = [laid.width / shown.width, laid.height / shown.height];
  return { map: [x, 0, 0, y, laid.x - shown.x * x, laid.y - shown.y * y], viewport: shown };
}

/** A viewBox attribute as a rectangle; null where it is none. */
export function viewBoxOf(text: string | undefined): Rect | null {
  const numbers = (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [x, y, width, height] = numbers;
  return numbers.length === 4 && numbers.every(Number.isFinite)
    ? { x: x!, y: y!, width: width!, height: height! }
    : null;
}

/** What an element refers to. */
export const hrefOf = (attributes: Record<string, string>): string =>
  attributes.href ?? attributes['xlink:href'] ?? '';
