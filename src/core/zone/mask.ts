import type { Region, Size } from '../raster/region';

/**
 * What was painted on a zone, 8 bits each, row by row. A pixel of the zone becomes
 * `value x (255 - cover) / 255 + ink`: strokes that add leave ink and cover, strokes that take away
 * leave cover alone.
 */
export interface Mask {
  width: number;
  height: number;
  ink: Uint8Array;
  cover: Uint8Array;
}

/** A mask with nothing painted. */
export const emptyMask = ({ width, height }: Size): Mask => ({
  width,
  height,
  ink: new Uint8Array(width * height),
  cover: new Uint8Array(width * height),
});

/** A mask as one run of bytes: all ink, then all cover. */
export function maskBytes({ ink, cover }: Mask): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(ink.length * 2);
  bytes.set(ink);
  bytes.set(cover, ink.length);
  return bytes;
}

/**
 * The mask in such bytes.
 * @throws RangeError where they are not as many as its size says
 */
export function maskFromBytes(bytes: Uint8Array, { width, height }: Size): Mask {
  const count = width * height;
  if (bytes.length !== 2 * count) {
    throw new RangeError(
      `A mask of ${width} x ${height} has ${2 * count} bytes, these are ${bytes.length}.`,
    );
  }
  return { width, height, ink: bytes.subarray(0, count), cover: bytes.subarray(count) };
}

/** What was painted over a region: two planes of 0–1, as a mask has them. */
export interface PaintedPlanes {
  ink: Float32Array;
  cover: Float32Array;
}

/** Lays what was painted over values of the same region. */
export function layPainted(values: Float32Array, { ink, cover }: PaintedPlanes): void {
  for (let i = 0; i < values.length; i++) values[i] = values[i]! * (1 - cover[i]!) + ink[i]!;
}

/** What was painted over `region` of a picture of `size`; a coarser mask is read between its pixels. */
export function paintedOver(mask: Mask, region: Region, size: Size): PaintedPlanes {
  const { width, height } = mask;
  const count = region.width * region.height;
  const planes = { ink: new Float32Array(count), cover: new Float32Array(count) };
  const same = width === size.width && height === size.height;
  for (const plane of ['ink', 'cover'] as const) {
    if (same) copyPlane(planes[plane], mask[plane], width, region);
    else readBetween(planes[plane], mask[plane], mask, region, size);
  }
  return planes;
}

function copyPlane(out: Float32Array, from: Uint8Array, width: number, region: Region): void {
  for (let y = 0, i = 0; y < region.height; y++) {
    let at = (region.y + y) * width + region.x;
    for (let x = 0; x < region.width; x++, i++, at++) out[i] = from[at]! / 255;
  }
}

function readBetween(
  out: Float32Array,
  from: Uint8Array,
  { width, height }: Size,
  region: Region,
  size: Size,
): void {
  const across = width / size.width;
  const down = height / size.height;
  for (let y = 0, i = 0; y < region.height; y++) {
    const v = Math.min(Math.max((region.y + y + 0.5) * down - 0.5, 0), height - 1);
    const top = Math.floor(v);
    const high = top * width;
    const low = Math.min(top + 1, height - 1) * width;
    const dv = v - top;
    for (let x = 0; x < region.width; x++, i++) {
      const u = Math.min(Math.max((region.x + x + 0.5) * across - 0.5, 0), width - 1);
      const left = Math.floor(u);
      const right = Math.min(left + 1, width - 1);
      const du = u - left;
      const above = (1 - du) * from[high + left]! + du * from[high + right]!;
      const below = (1 - du) * from[low + left]! + du * from[low + right]!;
      out[i] = ((1 - dv) * above + dv * below) / 255;
    }
  }
}
