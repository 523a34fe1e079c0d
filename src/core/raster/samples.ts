import { dithered } from './dither';
import { emptyRaster, type Raster } from './raster';
import { scratchMemory } from './rows';
import { encodedForm } from './form';

/** Interleaved whole-number samples as files hold them. */
export type Samples = Uint8Array | Uint16Array | Uint8ClampedArray;

/** Bits a sample. */
export type Depth = 8 | 16;

/** The largest sample value at a depth: 255 or 65535. */
export const fullScale = (depth: Depth): number => (depth === 8 ? 255 : 65535);

/** One level of an 8-bit file on the core's 0–1 scale. */
export const LEVEL = 1 / 255;

/** Samples from the bytes that hold them (16 bit: little-endian). */
export const samplesIn = (bytes: Uint8Array, depth: Depth): Uint8Array | Uint16Array =>
  depth === 8 ? bytes : new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2);

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
  const raster = emptyRaster(width, height, encodedForm(keep));
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

/** Where a raster lies in its picture, for what is dithered by its place. */
export interface At {
  x: number;
  y: number;
}

/**
 * Planes to interleaved samples: clamped to 0–1, scaled, rounded half up. Here and in `toScreen`
 * is the one place where results are rounded, for the file and for the screen by the same kernel.
 * Colours of a device are written as they are, however many there are.
 * @param dither where it lies in its picture, where 8 bits are to keep what is finer on the mean
 * @throws RangeError where the raster holds amounts of light
 */
export function toSamples(raster: Raster, depth: 8, dither?: At | null): Uint8Array;
export function toSamples(
  raster: Raster,
  depth: Depth,
  dither?: At | null,
): Uint8Array | Uint16Array;
export function toSamples(
  exact: Raster,
  depth: Depth,
  dither: At | null = null,
): Uint8Array | Uint16Array {
  return lentSamples(exact, depth, dither).slice();
}

/**
 * The same without a copy, for whoever writes them at once: they may lie in the kernels' memory, and are good until
 * anything else is computed.
 */
export function lentSamples(
  exact: Raster,
  depth: Depth,
  dither: At | null = null,
): Uint8Array | Uint16Array {
  const raster = dither && depth === 8 ? dithered(exact, dither) : exact;
  const { planes, form } = raster;
  const count = raster.width * raster.height;
  const encoded = form.space === 'encoded' && form.colours === 3;
  if (encoded && depth === 8 && form.alpha) {
    const rgba = eightBit(raster, 4).subarray(0, count * 4);
    const alpha = planes[3]!;
    for (let i = 0; i < count; i++) rgba[4 * i + 3] = rounded(alpha[i]!, 255);
    return rgba;
  }
  if (encoded && depth === 8) return eightBit(raster, 3).subarray(0, count * 3);
  if (depth === 8 && planes.length === 4) return fourPlanes(raster);
  if (form.space === 'light') throw new RangeError('samples are encoded, not amounts of light');
  const channels = planes.length;
  const full = fullScale(depth);
  const result = depth === 8 ? new Uint8Array(count * channels) : new Uint16Array(count * channels);
  planes.forEach((plane, channel) => {
    for (let i = 0, j = channel; i < count; i++, j += channels)
      result[j] = rounded(plane[i]!, full);
  });
  return result;
}

/** Four planes as rounded 8-bit samples, whatever they are amounts of. */
function fourPlanes({ planes, width, height }: Raster): Uint8Array {
  const count = width * height;
  const stride = Math.ceil(count / 16) * 16;
  const memory = scratchMemory(stride * 20);
  planes.forEach((plane, i) => memory.floats.set(plane, i * stride));
  const [out, b, c, d] = [stride * 16, stride * 4, stride * 8, stride * 12];
  memory.interleave4(out, 0, b, c, d, count);
  return memory.bytes.subarray(out, out + count * 4);
}

function rounded(value: number, full: number): number {
  const scaled = value * full + 0.5;
  return scaled <= 0 ? 0 : scaled >= full ? full : scaled;
}

/** Planes to the 8-bit RGBA that a screen takes; without a plane of its own alpha is full. */
export function toScreen(exact: Raster, dither: At | null = null): Uint8ClampedArray<ArrayBuffer> {
  const raster = dither ? dithered(exact, dither) : exact;
  const bytes = raster.form.alpha ? toSamples(raster, 8) : eightBit(raster, 4);
  return new Uint8ClampedArray(bytes.subarray(0, raster.width * raster.height * 4));
}

/** Rounded 8-bit samples in the kernels' memory: RGB, or RGBA with full alpha. */
function eightBit(raster: Raster, channels: 3 | 4): Uint8Array {
  const planes = colourPlanes(raster);
  const count = raster.width * raster.height;
  const stride = Math.ceil(count / 16) * 16;
  const memory = scratchMemory(stride * (12 + channels));
  planes.forEach((plane, channel) => memory.floats.set(plane, channel * stride));
  const [out, red, green, blue] = [stride * 12, 0, stride * 4, stride * 8];
  if (channels === 3) memory.interleave3(out, red, green, blue, count);
  else memory.interleaveRgba(out, red, green, blue, count);
  return memory.bytes.subarray(out, out + stride * channels);
}

function colourPlanes({ planes, form }: Raster): [Float32Array, Float32Array, Float32Array] {
  if (form.colours !== 3 || form.space !== 'encoded') {
    throw new RangeError('a screen takes encoded colours');
  }
  return planes.slice(0, 3) as [Float32Array, Float32Array, Float32Array];
}
