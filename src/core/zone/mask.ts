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

/** Lays what was painted over `values`, which cover `region` of a picture of `size`. */
export function layPainted(values: Float32Array, region: Region, size: Size, mask: Mask): void {
  if (mask.width === size.width && mask.height === size.height) {
    for (let y = 0, i = 0; y < region.height; y++) {
      let at = (region.y + y) * mask.width + region.x;
      for (let x = 0; x < region.width; x++, i++, at++) {
        values[i] = values[i]! * (1 - mask.cover[at]! / 255) + mask.ink[at]! / 255;
      }
    }
    return;
  }
  // A coarser mask is read between its pixels.
  const { ink, cover, width, height } = mask;
  const across = width / size.width;
  const down = height / size.height;
  for (let y = 0, i = 0; y < region.height; y++) {
    const v = Math.min(Math.max((region.y + y + 0.5) * down - 0.5, 0), height - 1);
    const top = Math.floor(v);
    const low = Math.min(top + 1, height - 1) * width;
    const dv = v - top;
    for (let x = 0; x < region.width; x++, i++) {
      const u = Math.min(Math.max((region.x + x + 0.5) * across - 0.5, 0), width - 1);
      const left = Math.floor(u);
      const right = Math.min(left + 1, width - 1);
      const du = u - left;
      const a = (1 - du) * (1 - dv);
      const b = du * (1 - dv);
      const c = (1 - du) * dv;
      const d = du * dv;
      const high = top * width;
      const inked =
        a * ink[high + left]! +
        b * ink[high + right]! +
        c * ink[low + left]! +
        d * ink[low + right]!;
      const covered =
        a * cover[high + left]! +
        b * cover[high + right]! +
        c * cover[low + left]! +
        d * cover[low + right]!;
      values[i] = values[i]! * (1 - covered / 255) + inked / 255;
    }
  }
}
