import { buildPdf, jpegObject } from '../../src/server/testing/pdf';
import { hash } from './noise';
import { outline, toSvgPath, type Outline } from './lettering';

/** Size in points: 300 x 100 cm at a tenth. */
export const BANNER = { width: 850.39, height: 283.46 };

interface Shape {
  fill: string;
  path: Outline;
}

const box = (x: number, y: number, width: number, height: number): Outline => [
  { type: 'M', x, y },
  { type: 'L', x: x + width, y },
  { type: 'L', x: x + width, y: y + height },
  { type: 'L', x, y: y + height },
  { type: 'Z' },
];

const polygon = (points: [number, number][]): Outline => [
  ...points.map(([x, y], i) => ({ type: i ? ('L' as const) : ('M' as const), x, y })),
  { type: 'Z' },
];

/** A circle, or a part of one from the left over the top, of cubic curves. */
function arc(x: number, y: number, r: number, half = false): Outline {
  const k = r * 0.5523;
  const top: Outline = [
    { type: 'M', x: x - r, y },
    { type: 'C', x1: x - r, y1: y - k, x2: x - k, y2: y - r, x, y: y - r },
    { type: 'C', x1: x + k, y1: y - r, x2: x + r, y2: y - k, x: x + r, y },
  ];
  const bottom: Outline = [
    { type: 'C', x1: x + r, y1: y + k, x2: x + k, y2: y + r, x, y: y + r },
    { type: 'C', x1: x - k, y1: y + r, x2: x - r, y2: y + k, x: x - r, y },
  ];
  return half ? [...top, { type: 'Z' }] : [...top, ...bottom, { type: 'Z' }];
}

/** The banner over the gate: dusk in bands, the dome, stars, and a line of lettering. */
function shapes(): Shape[] {
  const { width, height } = BANNER;
  const sky = [
    '#101b3d',
    '#1a2750',
    '#2a3565',
    '#443f75',
    '#6a4c7c',
    '#97597a',
    '#c4706f',
    '#e49468',
  ];
  const bands = sky.map((fill, i) => ({
    fill,
    path: box(0, (i * height) / sky.length - 0.2, width, height / sky.length + 0.4),
  }));
  const stars = Array.from({ length: 120 }, (_, i) => ({
    fill: '#f4ecd2',
    path: arc(hash(i, 1) * width, hash(i, 2) * height * 0.62, 0.3 + 1.1 * hash(i, 3) ** 4),
  }));
  const ridge = (fill: string, level: number, rough: number, seed: number): Shape => ({
    fill,
    path: polygon([
      [0, height],
      ...Array.from({ length: 43 }, (_, i): [number, number] => [
        (i / 42) * width,
        level - rough * hash(i, seed) - rough * Math.sin(i / 6 + seed),
      ]),
      [width, height],
    ]),
  });
  const letters = (text: string, x: number, y: number, size: number, weight: 400 | 600 | 800) => ({
    fill: '#f6f1e3',
    path: outline(text, { x, y, size, weight }),
  });
  return [
    ...bands,
    ...stars,
    ridge('#3a2f55', 218, 9, 7),
    ridge('#1c1a33', 250, 7, 11),
    { fill: '#f3efe2', path: arc(690, 216, 64, true) },
    { fill: '#20376b', path: box(684, 152, 12, 64) },
    { fill: '#c9993a', path: box(618, 216, 144, 8) },
    { fill: '#d9cfb8', path: box(630, 224, 120, 34) },
    ...[0, 1, 2, 3].map((i) => ({ fill: '#4a3b2c', path: box(645 + i * 27, 231, 9, 15) })),
    letters('One hundred years', 46, 122, 66, 800),
    letters('of looking up', 46, 172, 44, 600),
    letters('Colle Vespra Observatory · open every clear night', 48, 262, 15, 400),
  ];
}

/** The banner as SVG. */
export function bannerSvg(): string {
  const { width, height } = BANNER;
  const paths = shapes().map(({ fill, path }) => `<path fill="${fill}" d="${toSvgPath(path)}"/>`);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="100mm" viewBox="0 0 ${width} ${height}">\n${paths.join('\n')}\n</svg>\n`;
}

/** The banner as PDF, with a photograph placed on it. */
export function bannerPdf(jpeg: Buffer, size: { width: number; height: number }): Buffer {
  const { width, height } = BANNER;
  const n = (value: number) => value.toFixed(2);
  const operators = shapes().map(({ fill, path }) => {
    const colour = [1, 3, 5].map((at) => n(parseInt(fill.slice(at, at + 2), 16) / 255)).join(' ');
    return `${colour} rg ${pdfPath(path, height)} f`;
  });
  const photo = { width: 150, height: 100 };
  operators.push(
    `q 1 1 1 rg 436 36 ${photo.width + 8} ${photo.height + 8} re f ${photo.width} 0 0 ${photo.height} 440 40 cm /P Do Q`,
  );
  return buildPdf(
    [{ width, height, content: operators.join('\n'), resources: '/XObject<</P 1 0 R>>' }],
    [jpegObject(jpeg, size.width, size.height)],
  );
}

/** Path operators; a PDF counts upward, and knows no quadratic curves. */
function pdfPath(path: Outline, height: number): string {
  const p = (x: number, y: number) => `${x.toFixed(2)} ${(height - y).toFixed(2)}`;
  let [ax, ay] = [0, 0];
  return path
    .map((command) => {
      if (command.type === 'Z') return 'h';
      const { x, y } = command;
      const from: [number, number] = [ax, ay];
      [ax, ay] = [x, y];
      if (command.type === 'M') return `${p(x, y)} m`;
      if (command.type === 'L') return `${p(x, y)} l`;
      if (command.type === 'C')
        return `${p(command.x1, command.y1)} ${p(command.x2, command.y2)} ${p(x, y)} c`;
      const third = (a: number, b: number) => a + (2 / 3) * (b - a);
      const one = p(third(from[0], command.x1), third(from[1], command.y1));
      const two = p(third(x, command.x1), third(y, command.y1));
      return `${one} ${two} ${p(x, y)} c`;
    })
    .join(' ');
}
