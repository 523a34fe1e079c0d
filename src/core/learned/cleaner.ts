import { toYCbCr, type YCbCr } from '../raster/colour';
import { emptyRaster, type Raster, type Window } from '../raster/raster';
import { cells, clip, grow, type Region, type Size } from '../raster/region';
import type { Network } from './network';

/** Pixels that the network computes at a time, on an absolute grid, so that cutting changes nothing. */
const TILE = 128;
/** Pixels around a tile that its results look at: ten convolutions at half resolution. */
const RIM = 20;
/** What the network is given: training/networks.py says in which order. */
const PLANES = 12;
const CHANGE_GAIN = 4;

/** What a cleaner is told of the damage. */
export interface Damage {
  /** of luminance's and of colour's compression, 0–1 */
  severity: { luma: number; colour: number };
  /** whether colour has half the samples */
  halved: boolean;
  /** standard deviation of noise in levels */
  noise: number;
  /** where a block begins, at or left of the picture; null where there are none */
  blocks: { x: number; y: number } | null;
}

/** The tiles that hold `region`, as one region of the picture. */
const tiled = (region: Region, size: Size): Region => {
  const parts = cells(region, TILE, size);
  const [first, last] = [parts[0]!, parts.at(-1)!];
  return {
    x: first.x,
    y: first.y,
    width: last.x + last.width - first.x,
    height: last.y + last.height - first.y,
  };
};

/** Where the given picture and the classical estimate are needed for `region`. */
export const learnedPull = (region: Region, size: Size): Region =>
  grow(tiled(region, size), RIM, size);

/**
 * The picture as a network leaves it: the classical estimate and what the network adds to it.
 * @param given,estimate over at least `learnedPull(region)`
 * @returns R, G, B of `region`, and alpha as it was
 */
export async function cleanLearned(
  network: Network,
  given: Window,
  estimate: Window,
  region: Region,
  size: Size,
  damage: Damage,
): Promise<Raster> {
  const before = toYCbCr(given.raster);
  const after = toYCbCr(estimate.raster);
  const result = emptyRaster(region.width, region.height, estimate.raster.planes.length);
  for (const tile of cells(region, TILE, size)) {
    const added = await addedTo(
      network,
      tile,
      before,
      given.region,
      after,
      estimate.region,
      size,
      damage,
    );
    const part = clipTo(tile, region);
    paint(result, region, estimate, added, tile, part);
  }
  return result;
}

const clipTo = (tile: Region, region: Region): Region => {
  const inside = clip(
    { ...tile, x: tile.x - region.x, y: tile.y - region.y },
    { width: region.width, height: region.height },
  );
  return { ...inside, x: inside.x + region.x, y: inside.y + region.y };
};

/** What the network adds over a tile: Y, Cb, Cr in parts of 1, over the tile's square with its rim. */
async function addedTo(
  network: Network,
  tile: Region,
  before: YCbCr,
  covered: Region,
  after: YCbCr,
  estimated: Region,
  size: Size,
  damage: Damage,
): Promise<Float32Array> {
  // Always the same square, so that sums are taken in the same order wherever a picture ends.
  const count = SQUARE * SQUARE;
  const planes = new Float32Array(PLANES * count);
  const { blocks, severity } = damage;
  const told = [severity.luma, severity.colour, damage.halved ? 1 : 0, damage.noise / 50];
  told.forEach((value, i) => planes.fill(value, (6 + i) * count, (7 + i) * count));
  const keys = ['y', 'cb', 'cr'] as const;
  // What lies farther than the rim beyond a border is seen by nobody, but must be there.
  const left = Math.max(0, tile.x - RIM);
  const top = Math.max(0, tile.y - RIM);
  for (let v = 0, i = 0; v < SQUARE; v++) {
    const y = Math.max(mirror(tile.y - RIM + v, size.height), top);
    const down = blocks ? toMiddle(tile.y - RIM + v - blocks.y) : 0;
    for (let u = 0; u < SQUARE; u++, i++) {
      const x = Math.max(mirror(tile.x - RIM + u, size.width), left);
      const at = (y - covered.y) * covered.width + x - covered.x;
      const there = (y - estimated.y) * estimated.width + x - estimated.x;
      for (let k = 0; k < 3; k++) {
        const level = before[keys[k]!][at]!;
        planes[k * count + i] = level / 255;
        planes[(3 + k) * count + i] = (CHANGE_GAIN * (after[keys[k]!][there]! - level)) / 255;
      }
      if (!blocks) continue;
      planes[10 * count + i] = toMiddle(tile.x - RIM + u - blocks.x);
      planes[11 * count + i] = down;
    }
  }
  return network.run(planes, SQUARE, SQUARE);
}

const SQUARE = TILE + 2 * RIM;

/** Distance to the middle of a block, 0–1. */
const toMiddle = (at: number): number => Math.abs((((at % 8) + 8) % 8) - 3.5) / 3.5;

/** Beyond its borders a picture goes on as its mirror image, as far as the rim looks. */
function mirror(at: number, count: number): number {
  const turned = at < 0 ? -1 - at : at >= count ? 2 * count - 1 - at : at;
  return Math.min(Math.max(turned, 0), count - 1);
}

function paint(
  result: Raster,
  region: Region,
  { region: estimated, raster }: Window,
  added: Float32Array,
  tile: Region,
  part: Region,
): void {
  const count = SQUARE * SQUARE;
  const [red, green, blue, alpha] = raster.planes as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array | undefined,
  ];
  const [r, g, b, a] = result.planes as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array | undefined,
  ];
  for (let y = part.y; y < part.y + part.height; y++) {
    for (let x = part.x; x < part.x + part.width; x++) {
      const from = (y - estimated.y) * estimated.width + x - estimated.x;
      const to = (y - region.y) * region.width + x - region.x;
      const i = (y - tile.y + RIM) * SQUARE + x - tile.x + RIM;
      const luma = added[i]!;
      const cb = added[count + i]!;
      const cr = added[2 * count + i]!;
      r[to] = red[from]! + luma + 1.402 * cr;
      g[to] = green[from]! + luma - 0.344136 * cb - 0.714136 * cr;
      b[to] = blue[from]! + luma + 1.772 * cb;
      if (a && alpha) a[to] = alpha[from]!;
    }
  }
}
