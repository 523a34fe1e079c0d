import { piecesOf, shapesOf, type Colour, type Curve, type Paint } from './shapes';
import type { TracedPart } from './traced';
import type { Tracing } from './tracing';

/** Hundredths of a pixel of the print: finer than any device. */
const DIGITS = 2;

/**
 * A tracing as SVG, at the size of its print. Each area has a thin rim of its own colour, so that nothing shows between
 * neighbours however a program smooths edges.
 * @param ppi pixels of the print an inch
 */
export function svgOf(tracing: Tracing, part: TracedPart, ppi: number, title: string): string {
  const defs: string[] = [];
  const paths = shapesOf(tracing, part).map(({ curves, paint, alpha }) => {
    const d = curves.map(pathOf).join('');
    const opacity = alpha < 1 ? ` fill-opacity="${short(alpha)}"` : '';
    if ('colour' in paint) {
      const colour = hex(paint.colour);
      return `<path d="${d}" fill="${colour}"${opacity}${opacity ? '' : ` stroke="${colour}"`}/>`;
    }
    const id = `f${defs.length}`;
    defs.push(gradientOf(paint, id));
    return `<path d="${d}" fill="url(#${id})"${opacity}/>`;
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
const points = (values: readonly number[]): string => values.map(short).join(' ');
const escaped = (text: string): string =>
  text.replace(/[&<>]/g, (one) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[one]!);

const hex = (colour: Colour): string =>
  `#${colour
    .map((value) => Math.round(value * 255))
    .map((level) => level.toString(16).padStart(2, '0'))
    .join('')}`;

function pathOf(curve: Curve): string {
  const pieces = piecesOf(curve).map(
    (piece) => `${piece.length === 2 ? 'L' : 'C'}${points(piece)}`,
  );
  return `M${points(curve.slice(0, 2))}${pieces.join('')}Z`;
}

function gradientOf({ from, to, stops }: Exclude<Paint, { colour: Colour }>, id: string): string {
  const inner = stops
    .map(({ at, colour }) => `<stop offset="${short(at)}" stop-color="${hex(colour)}"/>`)
    .join('');
  const [[x1, y1], [x2, y2]] = [from.map(short), to.map(short)] as [string[], string[]];
  return `<linearGradient id="${id}" gradientUnits="userSpaceOnUse" x1="${x1}" y1="${y1}" x2="${x2}" y2="${y2}">${inner}</linearGradient>`;
}
