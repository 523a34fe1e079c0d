import { ModelProblem } from '../learned/network';
import type { Convolution } from '../learned/onnx';
import type { Size } from '../raster/region';
import { scratchLayout, scratchMemory, SPARE, type ScratchMemory } from '../raster/rows';

/** A place of the detector's answer is a square of so many pixels. */
export const PLACE = 32;

/** What a detector answers: so many planes of places. */
export interface Answer extends Size {
  /** [plane][y][x] */
  values: Float32Array;
}

/** @param planes R, G, B on the 0–1 scale, row by row */
export type Detector = (planes: readonly Float32Array[], size: Size) => Answer;

/** What a value is multiplied by where it is negative, after every layer but the last. */
const SLOPE = 0.1;
/** What is taken off red, green and blue first, on the scale from 0 to 255. */
const MEAN = [117.001, 114.697, 97.404];
/** How often a picture is halved before it is answered. */
const HALVINGS = 5;

interface Layer {
  inputs: number;
  outputs: number;
  /** filters of 3 x 3, one a channel, that come before channels are mixed; null where there are none */
  each: Float32Array | null;
  /** pixels about a place that are mixed, to a side: 1 or 3 */
  side: number;
  /** of four outputs at a time: their biases, then of each input their weights */
  packed: Float32Array;
  slope: number;
}

/**
 * A network that looks for faces: six layers, halved after each of the first five, and one that answers at each place
 * (Redmon & Farhadi 2017; filters of each channel by itself before channels are mixed, Howard et al. 2017). It is computed in
 * floats, in the same order in every engine.
 * @throws ModelProblem where the convolutions don't follow one another in this way
 */
export function faceDetector(convolutions: readonly Convolution[]): Detector {
  const layers = layersOf(convolutions);
  return (planes, size) => {
    const across = Math.ceil(size.width / PLACE) * PLACE;
    const down = Math.ceil(size.height / PLACE) * PLACE;
    let picture = pictureOf(planes, size, { width: across, height: down });
    for (const layer of layers.slice(0, HALVINGS)) picture = halved(picture, layer);
    const [last, answer] = layers.slice(HALVINGS) as [Layer, Layer];
    return plain(widened(plain(picture, last)), answer);
  };
}

function layersOf(convolutions: readonly Convolution[]): Layer[] {
  const layers: Layer[] = [];
  let each: Float32Array | null = null;
  let channels = 3;
  for (const { inputs, outputs, weights, biases } of convolutions) {
    const side = Math.sqrt(weights.length / (inputs * outputs));
    const alone = inputs === 1 && outputs === channels && side === 3 && !each;
    if (alone) each = weights;
    else if (inputs === channels && (side === 1 || side === 3)) {
      layers.push({
        inputs,
        outputs,
        each,
        side,
        packed: pack(inputs * side ** 2, weights, biases),
        slope: SLOPE,
      });
      each = null;
      channels = outputs;
    } else throw new ModelProblem('The layers of a learned model do not follow one another.');
  }
  if (layers.length !== HALVINGS + 2 || each) {
    throw new ModelProblem('A learned model has other layers than one that looks for faces.');
  }
  layers.at(-1)!.slope = 1;
  return layers;
}

/** Weights as `mixFour` takes them; outputs that are missing from the last four are zero. */
function pack(inputs: number, weights: Float32Array, biases: Float32Array): Float32Array {
  const groups = Math.ceil(biases.length / 4);
  const packed = new Float32Array(groups * 4 * (inputs + 1));
  biases.forEach((bias, output) => {
    const at = (output >> 2) * 4 * (inputs + 1) + (output & 3);
    packed[at] = bias;
    for (let k = 0; k < inputs; k++) packed[at + 4 * (k + 1)] = weights[output * inputs + k]!;
  });
  return packed;
}

/** Planes with a rim of zeros, one wide, as filters look beyond a picture's borders. */
interface Picture extends Size {
  channels: number;
  /** floats from a row to the next; there are two rows more than the height */
  stride: number;
  floats: Float32Array;
}

/** Rows are computed in whole vectors, and read a little past their end. */
const inVectors = (n: number): number => Math.ceil(n / 16) * 16;

function blank({ width, height }: Size, channels: number): Picture {
  const stride = inVectors(width + 2) + SPARE;
  return {
    width,
    height,
    channels,
    stride,
    floats: new Float32Array(stride * (height + 2) * channels),
  };
}

/** Where a row begins. */
const rowAt = ({ stride, height }: Picture, channel: number, y: number): number =>
  (channel * (height + 2) + y + 1) * stride + 1;

function pictureOf(planes: readonly Float32Array[], own: Size, size: Size): Picture {
  const picture = blank(size, planes.length);
  planes.forEach((plane, channel) => {
    const mean = MEAN[channel]! / 255;
    for (let y = 0; y < own.height; y++) {
      const to = rowAt(picture, channel, y);
      const from = y * own.width;
      for (let x = 0; x < own.width; x++) picture.floats[to + x] = plane[from + x]! - mean;
    }
  });
  return picture;
}

/** So many rows of a picture lie in the kernels' memory at a time: an even number. */
const BAND = 32;

/** What a layer makes of rows of a picture. */
interface Rows {
  memory: ScratchMemory;
  /** computes a row into one of two slots, rows in their order; of each output it begins at the float `at(slot, output)` */
  compute(y: number, slot: 0 | 1): void;
  at(slot: 0 | 1, output: number): number;
  /** room for a row that is half as long, as a float */
  halfAt: number;
}

function rowsOf(picture: Picture, layer: Layer): Rows {
  const { width, height, stride, channels } = picture;
  const n = inVectors(width);
  const inputs = layer.inputs * layer.side ** 2;
  const groups = Math.ceil(layer.outputs / 4);
  const place = scratchLayout();
  const high = BAND + 2;
  const pictureAt = place(channels * high * stride + SPARE);
  const weightsAt = place(layer.packed.length);
  const eachAt = place(layer.each?.length ?? 0);
  const filteredAt = place(channels * n);
  const tableAt = place(inputs);
  const mixedAt = place(2 * groups * 4 * n);
  const halfAt = place(n + SPARE);
  const memory = scratchMemory(place(0) * 4);
  memory.floats.set(layer.packed, weightsAt);
  if (layer.each) memory.floats.set(layer.each, eachAt);
  const at = (slot: 0 | 1, output: number) => mixedAt + (slot * groups * 4 + output) * n;
  const begins = (channel: number, x: number, y: number) =>
    (pictureAt + (channel * high + y + 1) * stride + x + 1) * 4;
  /** Lays the rows from one on, and those about them, into the kernels' memory. */
  const lay = (top: number) => {
    const rows = Math.min(BAND, height - top) + 2;
    for (let channel = 0; channel < channels; channel++) {
      const from = (channel * (height + 2) + top) * stride;
      const band = picture.floats.subarray(from, from + rows * stride);
      memory.floats.set(band, pictureAt + channel * high * stride);
    }
  };
  const rim = (layer.side - 1) / 2;
  return {
    memory,
    at,
    halfAt,
    compute(row, slot) {
      const y = row % BAND;
      if (y === 0) lay(row);
      for (let channel = 0, k = 0; channel < channels; channel++) {
        if (layer.each) {
          const filtered = (filteredAt + channel * n) * 4;
          memory.tapsRow(
            filtered,
            begins(channel, -1, y - 1),
            stride * 4,
            (eachAt + channel * 9) * 4,
            3,
            n,
          );
          memory.ints[tableAt + k++] = filtered;
        } else {
          for (let v = -rim; v <= rim; v++) {
            for (let u = -rim; u <= rim; u++)
              memory.ints[tableAt + k++] = begins(channel, u, y + v);
          }
        }
      }
      for (let group = 0; group < groups; group++) {
        const weights = (weightsAt + group * 4 * (inputs + 1)) * 4;
        memory.mixFour(
          at(slot, group * 4) * 4,
          n * 4,
          tableAt * 4,
          inputs,
          weights,
          layer.slope,
          n,
        );
      }
    },
  };
}

/** Math.max, quicker, of numbers alone. */
const larger = (a: number, b: number): number => (a > b ? a : b);

/** A layer, and of each square of two by two places the largest value. */
function halved(picture: Picture, layer: Layer): Picture {
  const { memory, compute, at, halfAt } = rowsOf(picture, layer);
  const size = { width: picture.width / 2, height: picture.height / 2 };
  const result = blank(size, layer.outputs);
  const { floats } = memory;
  for (let y = 0; y < size.height; y++) {
    compute(2 * y, 0);
    compute(2 * y + 1, 1);
    for (let output = 0; output < layer.outputs; output++) {
      memory.halveRow(halfAt * 4, at(0, output) * 4, at(1, output) * 4, inVectors(size.width));
      const half = floats.subarray(halfAt, halfAt + size.width);
      result.floats.set(half, rowAt(result, output, y));
    }
  }
  return result;
}

/** A layer as it is. */
function plain(picture: Picture, layer: Layer): Answer {
  const { width, height } = picture;
  const { memory, compute, at } = rowsOf(picture, layer);
  const values = new Float32Array(width * height * layer.outputs);
  for (let y = 0; y < height; y++) {
    compute(y, 0);
    for (let output = 0; output < layer.outputs; output++) {
      const from = at(0, output);
      values.set(memory.floats.subarray(from, from + width), (output * height + y) * width);
    }
  }
  return { width, height, values };
}

/** At each place the largest of it, the next, and those below. */
function widened({ width, height, values }: Answer): Picture {
  const channels = values.length / (width * height);
  const result = blank({ width, height }, channels);
  for (let channel = 0; channel < channels; channel++) {
    for (let y = 0; y < height; y++) {
      const row = (channel * height + y) * width;
      const below = y + 1 < height ? row + width : row;
      const to = rowAt(result, channel, y);
      for (let x = 0; x < width; x++) {
        const next = x + 1 < width ? x + 1 : x;
        const above = larger(values[row + x]!, values[row + next]!);
        result.floats[to + x] = larger(above, larger(values[below + x]!, values[below + next]!));
      }
    }
  }
  return result;
}
