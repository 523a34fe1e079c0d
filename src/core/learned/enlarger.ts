import { emptyRaster, paste, type Raster, type Window } from '../raster/raster';
import { cells, type Region, type Size } from '../raster/region';
import { LATTICE_REACH, withoutLattice } from './checkerboard';
import type { Network } from './network';
import { mirror } from './planes';
import { RGB } from '../raster/form';

/** So many pixels across and down a network makes of each. */
export const UPSCALING = 4;
/** Pixels of the large grid that lie on some of the small one. */
export const magnifiedRegion = ({ x, y, width, height }: Region): Region => ({
  x: x * UPSCALING,
  y: y * UPSCALING,
  width: width * UPSCALING,
  height: height * UPSCALING,
});

/** Sides of what the network computes at a time, at most: bounds memory. */
const LARGEST = 512;
/** A value depends on so many pixels about it, at most: on one for every convolution. */
export const REACH = 14;
/** … and on so many more for its squares' pattern to be told. */
const RIM = Math.ceil(LATTICE_REACH / UPSCALING);
/** R, G, B, and how badly luminance and colour were compressed. */
const PLANES = 5;

/** How badly a picture was compressed before it was cleaned, 0–1. */
export interface Severity {
  luma: number;
  colour: number;
}

/** Where the small picture is needed for what a network adds over `region` of it. */
export function addedInput(region: Region, size: Size): Region {
  const { x, y, width, height } = grown(region);
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

/** What the network is run on for `part`: with its rims, which may leave the picture. */
const grown = (region: Region): Region => rimmed(region, REACH + RIM);

const rimmed = ({ x, y, width, height }: Region, rim: number): Region => ({
  x: x - rim,
  y: y - rim,
  width: width + 2 * rim,
  height: height + 2 * rim,
});

/**
 * What a network adds to the plain enlargement of a part of the small grid.
 * @param small over at least `addedInput(part)`
 * @returns R, G, B on the large grid
 */
export function added(
  network: Network,
  small: Window,
  part: Region,
  size: Size,
  severity: Severity,
): Window {
  const pieces = piecesOf(part);
  const all = pieces.map((piece): Window => {
    const read = grown(piece);
    const planes = planesFor(small, read, size, severity);
    const about = magnifiedRegion(rimmed(piece, RIM));
    const values = network.run(planes, read.width, read.height, REACH);
    const region = magnifiedRegion(piece);
    return {
      region,
      raster: withoutLattice({ region: about, raster: asRaster(values, about) }, region),
    };
  });
  if (all.length === 1) return all[0]!;
  const region = magnifiedRegion(part);
  const result: Window = { region, raster: emptyRaster(region.width, region.height, RGB) };
  for (const piece of all) paste(piece, result);
  return result;
}

/** A part of the small grid in pieces, none too large to be computed at once. */
const piecesOf = ({ x, y, width, height }: Region): Region[] =>
  cells({ x: 0, y: 0, width, height }, LARGEST, { width, height }).map((piece) => ({
    ...piece,
    x: x + piece.x,
    y: y + piece.y,
  }));

function asRaster(values: Float32Array, { width, height }: Size): Raster {
  const plane = (c: number) => values.subarray(c * width * height, (c + 1) * width * height);
  return { width, height, form: RGB, planes: [plane(0), plane(1), plane(2)] };
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
