import { LUMA } from '../raster/colour';
import { fieldAt, type Field } from './field';
import { placingOf, type TracedPart } from './traced';
import { OUTSIDE, type Edge, type Tracing } from './tracing';

/** Hundredths of a pixel of the print: finer than any device. */
const DIGITS = 2;
/** Areas that let so much through are none. */
const CLEAR = 0.02;
/** Stops of what stands for an area that changes over its extent. */
const STOPS = 5;

/**
 * A tracing as SVG, at the size of its print. Areas are painted the largest first, each with a thin rim of its own colour,
 * so that nothing shows between neighbours however a program smooths edges; what changes over its extent becomes a
 * gradient along which it changes most.
 * @param ppi pixels of the print an inch
 */
export function svgOf(tracing: Tracing, part: TracedPart, ppi: number, title: string): string {
  const { xx, xy, x0, yx, yy, y0 } = placingOf(part, tracing.size);
  const place = (x: number, y: number): string =>
    `${short(xx * x + xy * y + x0)} ${short(yx * x + yy * y + y0)}`;
  const loops = loopsOf(tracing);
  const defs: string[] = [];
  const paths = loops
    .map((list, fill) => ({ list, fill, extent: extentOf(list) }))
    .filter(({ list, fill }) => list.length > 0 && alphaOf(tracing, fill) > CLEAR)
    .sort((a, b) => b.extent - a.extent || a.fill - b.fill)
    .map(({ list, fill }) => {
      const d = list.map((curve) => pathOf(curve, place)).join('');
      const one = tracing.fills[fill]!;
      const alpha = alphaOf(tracing, fill);
      const opacity = alpha < 1 - CLEAR ? ` fill-opacity="${short(alpha)}"` : '';
      if (!one.field) {
        const colour = hex(one.colour, alpha);
        return `<path d="${d}" fill="${colour}"${opacity}${opacity ? '' : ` stroke="${colour}"`}/>`;
      }
      defs.push(gradientOf(one.field, `f${fill}`, alpha, place));
      return `<path d="${d}" fill="url(#f${fill})"${opacity}/>`;
    });
  const inches = (pixels: number) => (pixels / ppi).toFixed(4);
  const { width, height } = part;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${inches(width)}in" height="${inches(height)}in" viewBox="0 0 ${width} ${height}">`,
    `<title>${escaped(title)}</title>`,
    ...(defs.length > 0 ? [`<defs>${defs.join('')}</defs>`] : []),
    `<g fill-rule="evenodd" stroke-width="0.4">`,
    ...paths,
    '</g>',
    '</svg>',
    '',
  ].join('\n');
}

const short = (value: number): string => String(Number(value.toFixed(DIGITS)));
const escaped = (text: string): string =>
  text.replace(/[&<>]/g, (one) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[one]!);

const alphaOf = ({ channels, fills }: Tracing, fill: number): number =>
  channels === 4 ? Math.min(1, Math.max(0, fills[fill]!.colour[3]!)) : 1;

/** A premultiplied colour as #rrggbb. */
const hex = (colour: readonly number[], alpha: number): string =>
  `#${colour
    .slice(0, 3)
    .map((value) => Math.min(255, Math.max(0, Math.round((value / alpha) * 255))))
    .map((level) => level.toString(16).padStart(2, '0'))
    .join('')}`;

/** One curve: two handles and a point after the first point, x and y of each. */
type Curve = number[];

/** Of each fill, the closed curves about it. */
export function loopsOf({ fills, edges }: Tracing): Curve[][] {
  const own: Curve[][] = fills.map(() => []);
  const ends = fills.map(() => new Map<string, Curve[]>());
  const name = (x: number, y: number) => `${x} ${y}`;
  const add = (fill: number, curve: Curve) => {
    if (fill === OUTSIDE || curve.length < 8) return;
    const begin = name(curve[0]!, curve[1]!);
    if (begin === name(curve.at(-2)!, curve.at(-1)!)) own[fill]!.push(curve);
    else ends[fill]!.set(begin, [...(ends[fill]!.get(begin) ?? []), curve]);
  };
  for (const edge of edges) {
    // All about one area go the same way round it.
    if (edge.left === edge.right) continue;
    add(edge.right, edge.curve);
    add(edge.left, reversed(edge));
  }
  ends.forEach((open, fill) => {
    for (const [begin, list] of open)
      for (let curve = list.pop(); curve; curve = list.pop()) {
        const loop = [...curve];
        for (;;) {
          const next = open.get(name(loop.at(-2)!, loop.at(-1)!))?.pop();
          if (!next || name(loop.at(-2)!, loop.at(-1)!) === begin) {
            if (next) open.get(begin)!.push(next);
            break;
          }
          for (let i = 2; i < next.length; i++) loop.push(next[i]!);
        }
        own[fill]!.push(loop);
      }
  });
  return own;
}

function reversed({ curve }: Edge): Curve {
  const back: Curve = [];
  for (let i = curve.length - 2; i >= 0; i -= 2) back.push(curve[i]!, curve[i + 1]!);
  return back;
}

/** The area of what holds some curves. */
function extentOf(list: readonly Curve[]): number {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const curve of list)
    for (let i = 0; i < curve.length; i += 2) {
      left = Math.min(left, curve[i]!);
      right = Math.max(right, curve[i]!);
      top = Math.min(top, curve[i + 1]!);
      bottom = Math.max(bottom, curve[i + 1]!);
    }
  return (right - left) * (bottom - top);
}

function pathOf(curve: Curve, place: (x: number, y: number) => string): string {
  const parts = [`M${place(curve[0]!, curve[1]!)}`];
  for (let i = 2; i + 5 < curve.length; i += 6) {
    const at = (k: number) => place(curve[i + k]!, curve[i + k + 1]!);
    parts.push(isStraight(curve, i) ? `L${at(4)}` : `C${at(0)} ${at(2)} ${at(4)}`);
  }
  return `${parts.join('')}Z`;
}

/** Whether both handles lie on thirds of the line between the ends. */
function isStraight(curve: Curve, i: number): boolean {
  const thirds = [0, 1].map((c) => (curve[i + 4 + c]! - curve[i - 2 + c]!) / 3);
  return [0, 1].every(
    (c) =>
      Math.abs(curve[i + c]! - curve[i - 2 + c]! - thirds[c]!) < 1e-6 &&
      Math.abs(curve[i + 2 + c]! - curve[i - 2 + c]! - 2 * thirds[c]!) < 1e-6,
  );
}

/** A gradient in the direction in which a field's luminance changes most. */
function gradientOf(
  field: Field,
  id: string,
  alpha: number,
  place: (x: number, y: number) => string,
): string {
  const { x, y, step, across, down } = field;
  const right = x + step * (across - 1);
  const bottom = y + step * (down - 1);
  const lightness = (u: number, v: number) =>
    [LUMA.red, LUMA.green, LUMA.blue].reduce(
      (sum, share, c) => sum + share * fieldAt(field, c, u, v),
      0,
    );
  const middle = { x: (x + right) / 2, y: (y + bottom) / 2 };
  const slopeX = (lightness(right, middle.y) - lightness(x, middle.y)) / (right - x);
  const slopeY = (lightness(middle.x, bottom) - lightness(middle.x, y)) / (bottom - y);
  const slope = Math.sqrt(slopeX * slopeX + slopeY * slopeY);
  const [wayX, wayY] = slope > 0 ? [slopeX / slope, slopeY / slope] : [1, 0];
  const reach = (Math.abs(wayX) * (right - x) + Math.abs(wayY) * (bottom - y)) / 2;
  const at = (share: number) =>
    [middle.x + share * reach * wayX, middle.y + share * reach * wayY] as const;
  const stops = Array.from({ length: STOPS }, (_, k) => {
    const share = (2 * k) / (STOPS - 1) - 1;
    const colour = [0, 1, 2].map((c) => fieldAt(field, c, ...at(share)));
    return `<stop offset="${short(k / (STOPS - 1))}" stop-color="${hex(colour, alpha)}"/>`;
  }).join('');
  const [from, to] = [at(-1), at(1)].map(([u, v]) => place(u, v).split(' '));
  return `<linearGradient id="${id}" gradientUnits="userSpaceOnUse" x1="${from![0]}" y1="${from![1]}" x2="${to![0]}" y2="${to![1]}">${stops}</linearGradient>`;
}
