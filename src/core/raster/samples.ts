import { emptyRaster, type Raster } from './raster';

/** Interleaved whole-number samples as files hold them. */
export type Samples = Uint8Array | Uint16Array | Uint8ClampedArray;

/** Bits a sample. */
export type Depth = 8 | 16;

/** The largest sample value at a depth: 255 or 65535. */
export const fullScale = (depth: Depth): number => (depth === 8 ? 255 : 65535);

/** One level of an 8-bit file on the core's 0–1 scale. */
export const LEVEL = 1 / 255;

/**
 * Interleaved samples to planes of 0–1.
 * @param channels samples a pixel in the input; the first `keep` of them are taken
 */
export function fromSamples(
  samples: Samples,
  width: number,
  height: number,
  channels: number,
  depth: Depth,
  keep = channels,
): Raster {
  const raster = emptyRaster(width, height, keep);
  const scale = 1 / fullScale(depth);
  for (let channel = 0; channel < keep; channel++) {
    const plane = raster.planes[channel]!;
    for (let i = 0, j = channel; i < plane.length; i++, j += channels) {
      plane[i] = samples[j]! * scale;
    }
  }
  return raster;
}

/**
 * Planes to interleaved samples: clamped to 0–1, scaled, rounded half up. The one place where
 * results are rounded, for the file and for the screen alike.
 */
export function toSamples(raster: Raster, depth: 8): Uint8Array;
export function toSamples(raster: Raster, depth: Depth): Uint8Array | Uint16Array;
export function toSamples(raster: Raster, depth: Depth): Uint8Array | Uint16Array {
  const channels = raster.planes.length;
  const count = raster.width * raster.height;
  const result = depth === 8 ? new Uint8Array(count * channels) : new Uint16Array(count * channels);
  const full = fullScale(depth);
  for (let channel = 0; channel < channels; channel++) {
    const plane = raster.planes[channel]!;
    for (let i = 0, j = channel; i < count; i++, j += channels) {
      const value = plane[i]! * full + 0.5;
      result[j] = value <= 0 ? 0 : value >= full ? full : value;
    }
  }
  return result;
}

/** Three channels of 8-bit samples to the RGBA that a screen takes; alpha is full. */
export function toScreen(raster: Raster): Uint8ClampedArray<ArrayBuffer> {
  const samples = toSamples(raster, 8);
  const pixels = raster.width * raster.height;
  const result = new Uint8ClampedArray(pixels * 4);
  for (let i = 0, from = 0, to = 0; i < pixels; i++, from += 3, to += 4) {
    result[to] = samples[from]!;
    result[to + 1] = samples[from + 1]!;
    result[to + 2] = samples[from + 2]!;
    result[to + 3] = 255;
  }
  return result;
}
