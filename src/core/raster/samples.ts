import { emptyRaster, type Raster } from './raster';
import { workroom } from './rows';

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
 * Planes to interleaved samples: clamped to 0–1, scaled, rounded half up. Here and in `toScreen`
 * is the one place where results are rounded, for the file and for the screen by the same kernel.
 * @throws RangeError unless the raster has three planes
 */
export function toSamples(raster: Raster, depth: 8): Uint8Array;
export function toSamples(raster: Raster, depth: Depth): Uint8Array | Uint16Array;
export function toSamples(raster: Raster, depth: Depth): Uint8Array | Uint16Array {
  const count = raster.width * raster.height;
  if (depth === 8) return eightBit(raster, 3).slice(0, count * 3);
  const result = new Uint16Array(count * 3);
  const [red, green, blue] = threePlanes(raster);
  for (let i = 0, j = 0; i < count; i++, j += 3) {
    result[j] = sixteenBits(red[i]!);
    result[j + 1] = sixteenBits(green[i]!);
    result[j + 2] = sixteenBits(blue[i]!);
  }
  return result;
}

const sixteenBits = (value: number): number => {
  const scaled = value * 65535 + 0.5;
  return scaled <= 0 ? 0 : scaled >= 65535 ? 65535 : scaled;
};

/** Three planes to the 8-bit RGBA that a screen takes; alpha is full. */
export function toScreen(raster: Raster): Uint8ClampedArray<ArrayBuffer> {
  const bytes = eightBit(raster, 4).subarray(0, raster.width * raster.height * 4);
  return new Uint8ClampedArray(bytes);
}

/** Rounded 8-bit samples in the kernels' memory: RGB, or RGBA for four channels. */
function eightBit(raster: Raster, channels: 3 | 4): Uint8Array {
  const planes = threePlanes(raster);
  const count = raster.width * raster.height;
  const stride = Math.ceil(count / 16) * 16;
  const room = workroom(stride * (12 + channels));
  planes.forEach((plane, channel) => room.floats.set(plane, channel * stride));
  const [out, red, green, blue] = [stride * 12, 0, stride * 4, stride * 8];
  if (channels === 3) room.interleave3(out, red, green, blue, count);
  else room.interleaveRgba(out, red, green, blue, count);
  return room.bytes.subarray(out, out + stride * channels);
}

function threePlanes(raster: Raster): [Float32Array, Float32Array, Float32Array] {
  if (raster.planes.length !== 3) throw new RangeError('samples are made of three planes');
  return raster.planes as [Float32Array, Float32Array, Float32Array];
}
