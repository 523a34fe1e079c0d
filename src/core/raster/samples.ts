import { emptyRaster, type Raster } from './raster';
import { scratchMemory } from './rows';

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
  if (keep >= 3) {
    // The colours in one go: every sample is fetched from memory once.
    const [red, green, blue] = raster.planes as [Float32Array, Float32Array, Float32Array];
    for (let i = 0, j = 0; i < red.length; i++, j += channels) {
      red[i] = samples[j]! * scale;
      green[i] = samples[j + 1]! * scale;
      blue[i] = samples[j + 2]! * scale;
    }
  }
  for (let channel = keep >= 3 ? 3 : 0; channel < keep; channel++) {
    const plane = raster.planes[channel]!;
    for (let i = 0, j = channel; i < plane.length; i++, j += channels) {
      plane[i] = samples[j]! * scale;
    }
  }
  return raster;
}

/**
 * Planes to interleaved samples: clamped to 0–1, scaled, rounded half up. Here and in `toScreen`
 * is the one place where results are rounded, for the file and for the screen by the same kernel.
 * @throws RangeError unless the raster has three planes, or four with alpha
 */
export function toSamples(raster: Raster, depth: 8): Uint8Array;
export function toSamples(raster: Raster, depth: Depth): Uint8Array | Uint16Array;
export function toSamples(raster: Raster, depth: Depth): Uint8Array | Uint16Array {
  const { planes } = raster;
  const count = raster.width * raster.height;
  if (depth === 8 && planes.length === 4) {
    const rgba = eightBit(raster, 4).slice(0, count * 4);
    const alpha = planes[3]!;
    for (let i = 0; i < count; i++) rgba[4 * i + 3] = rounded(alpha[i]!, 255);
    return rgba;
  }
  if (depth === 8) return eightBit(raster, 3).slice(0, count * 3);
  colourPlanes(raster);
  const channels = planes.length;
  const result = new Uint16Array(count * channels);
  planes.forEach((plane, channel) => {
    for (let i = 0, j = channel; i < count; i++, j += channels)
      result[j] = rounded(plane[i]!, 65535);
  });
  return result;
}

function rounded(value: number, full: number): number {
  const scaled = value * full + 0.5;
  return scaled <= 0 ? 0 : scaled >= full ? full : scaled;
}

/** Planes to the 8-bit RGBA that a screen takes; without a plane of its own alpha is full. */
export function toScreen(raster: Raster): Uint8ClampedArray<ArrayBuffer> {
  const bytes = raster.planes.length === 4 ? toSamples(raster, 8) : eightBit(raster, 4);
  return new Uint8ClampedArray(bytes.subarray(0, raster.width * raster.height * 4));
}

/** Rounded 8-bit samples in the kernels' memory: RGB, or RGBA with full alpha. */
function eightBit(raster: Raster, channels: 3 | 4): Uint8Array {
  const planes = colourPlanes(raster);
  const count = raster.width * raster.height;
  const stride = Math.ceil(count / 16) * 16;
  const room = scratchMemory(stride * (12 + channels));
  planes.forEach((plane, channel) => room.floats.set(plane, channel * stride));
  const [out, red, green, blue] = [stride * 12, 0, stride * 4, stride * 8];
  if (channels === 3) room.interleave3(out, red, green, blue, count);
  else room.interleaveRgba(out, red, green, blue, count);
  return room.bytes.subarray(out, out + stride * channels);
}

function colourPlanes({ planes }: Raster): [Float32Array, Float32Array, Float32Array] {
  if (planes.length !== 3 && planes.length !== 4) {
    throw new RangeError('samples are made of three planes, or four with alpha');
  }
  return planes.slice(0, 3) as [Float32Array, Float32Array, Float32Array];
}
