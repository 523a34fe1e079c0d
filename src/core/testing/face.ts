import { emptyRaster, type Raster } from '../raster/raster';
import { RGB } from '../raster/form';
import type { Size } from '../raster/region';
import { random } from '.';

/** An oval of a colour: its middle and half sides in widths of the face, how soft its rim is, and how dense it is. */
type Oval = [
  x: number,
  y: number,
  a: number,
  b: number,
  soft: number,
  dense: number,
  colour: Colour,
];
type Colour = [number, number, number];

const HAIR: Colour = [60, 42, 30];
const SKIN: Colour = [224, 178, 150];

const EYES = [-0.2, 0.2].flatMap((x): Oval[] => [
  [x, -0.06, 0.15, 0.1, 0.6, 0.35, [120, 80, 60]],
  [x, -0.05, 0.095, 0.045, 0.2, 1, [240, 238, 235]],
  [x, -0.05, 0.045, 0.047, 0.2, 1, [50, 40, 35]],
  [x, -0.17, 0.13, 0.028, 0.4, 0.9, [70, 50, 38]],
]);
const BEHIND: Oval[] = [
  [0, 1.55, 1.1, 0.75, 0.05, 1, [60, 70, 110]],
  [0, 0.75, 0.25, 0.4, 0.1, 1, [190, 145, 120]],
  [0, -0.18, 0.62, 0.72, 0.05, 1, HAIR],
];
const BEFORE: Oval[] = [
  [0, -0.55, 0.5, 0.22, 0.15, 1, HAIR],
  ...EYES,
  [0.05, 0.12, 0.05, 0.17, 0.9, 0.35, [150, 105, 85]],
  [0, 0.2, 0.09, 0.03, 0.7, 0.6, [140, 95, 80]],
  [0, 0.37, 0.17, 0.055, 0.3, 1, [178, 85, 80]],
  [0, 0.365, 0.16, 0.012, 0.5, 0.8, [100, 40, 40]],
];

/** A face drawn on a plain ground. @param at its middle and its width in pixels */
export function drawnFace(size: Size, at: { x: number; y: number; width: number }): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  const noise = random(3);
  for (let y = 0, i = 0; y < size.height; y++) {
    for (let x = 0; x < size.width; x++, i++) {
      const [u, v] = [(x - at.x) / at.width, (y - at.y) / at.width];
      const ground = 120 + (x / size.width) * 40;
      let colour: Colour = [ground, ground + 20, ground + 30];
      for (const oval of BEHIND) colour = laid(colour, oval, u, v);
      // Lit from the left.
      const shade = 1.08 - 0.56 * Math.abs(u + 0.08) ** 1.5 - 0.12 * v;
      const skin = SKIN.map((value) => value * shade) as Colour;
      colour = laid(colour, [0, 0.05, 0.48, 0.66, 0.06, 1, skin], u, v);
      for (const oval of BEFORE) colour = laid(colour, oval, u, v);
      const grain = 4 * (noise() - 0.5);
      raster.planes.forEach((plane, c) => {
        plane[i] = Math.min(1, Math.max(0, (colour[c]! + grain) / 255));
      });
    }
  }
  return raster;
}

function laid(
  under: Colour,
  [x, y, a, b, soft, dense, colour]: Oval,
  u: number,
  v: number,
): Colour {
  const inside = (1 - ((u - x) / a) ** 2 - ((v - y) / b) ** 2) / soft + 0.5;
  const share = dense * Math.min(1, Math.max(0, inside));
  return under.map((value, c) => value * (1 - share) + colour[c]! * share) as Colour;
}
