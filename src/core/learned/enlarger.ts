import type { Window } from '../raster/raster';
import { cells, type Region, type Size } from '../raster/region';
import { ROWS_TOGETHER } from './convolutions';
import type { Network } from './network';
import { mirror } from './planes';

/** So many pixels across and down a network makes of each. */
export const MAGNIFICATION = 4;
/** Sides of what the network computes at a time, at most: bounds memory. */
const LARGEST = 448;
/** 3 x 3 convolutions of the network, one after another: so many pixels to either side it looks … */
export const CONVOLUTIONS = 10;
const RIM_X = CONVOLUTIONS;
/** … and so many rows take part in its rounding, since they are computed four together. */
const RIM_Y = CONVOLUTIONS * ROWS_TOGETHER;
/** R, G, B, and how badly luminance and colour were compressed. */
const PLANES = 5;

/** How badly a picture was compressed before it was cleaned, 0–1. */
export interface Severity {
  luma: number;
  colour: number;
}

/** Where the small picture is needed for what a network adds over `region` of it. */
export function addedPull(region: Region, size: Size): Region {
  const { x, y, width, height } = windowFor(region);
  const across = mirrored(x, x + width, size.width);
  const down = mirrored(y, y + height, size.height);
  return { x: across.from, y: down.from, width: across.count, height: down.count };
}

/** The pixels that stand in a run of them, of which some may lie beyond the picture's borders. */
function mirrored(begin: number, end: number, count: number): { from: number; count: number } {
  const places = Array.from({ length: end - begin }, (_, i) => mirror(begin + i, count));
  const from = Math.min(...places);
  return { from, count: Math.max(...places) - from + 1 };
}

/** What the network is run on for `part`: with its rims, which may leave the picture, in whole fours. */
function windowFor(part: Region): Region {
  const four = ROWS_TOGETHER;
  const top = Math.floor(part.y / four) * four - RIM_Y;
  const bottom = Math.ceil((part.y + part.height) / four) * four + RIM_Y;
  return { x: part.x - RIM_X, y: top, width: part.width + 2 * RIM_X, height: bottom - top };
}

/**
 * Adds to a plain enlargement, in place, what a network adds to it.
 * @param large three planes over a part of the large grid that begins and ends with pixels of the
 *   small one
 * @param small over at least `addedPull` of that part
 */
export async function addTo(
  large: Window,
  network: Network,
  small: Window,
  size: Size,
  severity: Severity,
): Promise<void> {
  const four = MAGNIFICATION;
  const { region, raster } = large;
  for (const part of piecesOf(region)) {
    const read = windowFor(part);
    const planes = planesFor(small, read, size, severity);
    const found = await network.run(planes, read.width, read.height);
    const wide = read.width * four;
    const left = (part.x - read.x) * four;
    const top = (part.y - read.y) * four;
    raster.planes.forEach((plane, c) => {
      for (let v = 0; v < part.height * four; v++) {
        let from = (c * read.height * four + top + v) * wide + left;
        let to = (part.y * four + v - region.y) * region.width + part.x * four - region.x;
        for (let u = 0; u < part.width * four; u++) plane[to++]! += found[from++]!;
      }
    });
  }
}

/** A part of the large grid in pieces of the small one, none too large to be computed at once. */
function piecesOf({ x, y, width, height }: Region): Region[] {
  const four = MAGNIFICATION;
  const all = { x: 0, y: 0, width: width / four, height: height / four };
  return cells(all, LARGEST, all).map((piece) => ({
    ...piece,
    x: x / four + piece.x,
    y: y / four + piece.y,
  }));
}

/** The planes that the network reads; beyond its borders a picture goes on as its mirror image. */
function planesFor(
  { region, raster }: Window,
  { x: left, y: top, width, height }: Region,
  size: Size,
  severity: Severity,
): Float32Array {
  const count = width * height;
  const planes = new Float32Array(PLANES * count);
  planes.fill(severity.luma, 3 * count, 4 * count);
  planes.fill(severity.colour, 4 * count);
  const columns = Int32Array.from(
    { length: width },
    (_, u) => mirror(left + u, size.width) - region.x,
  );
  for (let c = 0; c < 3; c++) {
    const from = raster.planes[c]!;
    for (let v = 0, i = c * count; v < height; v++) {
      const line = (mirror(top + v, size.height) - region.y) * region.width;
      for (let u = 0; u < width; u++, i++) planes[i] = from[line + columns[u]!]!;
    }
  }
  return planes;
}
