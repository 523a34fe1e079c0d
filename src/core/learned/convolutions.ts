import { workroom, type Workroom } from '../raster/rows';
import { ModelProblem, type Network } from './network';
import type { Convolution } from './onnx';

/** Rows are computed so many at a time, counted from a window's top. */
export const ROWS_TOGETHER = 4;

/** What a value is multiplied by where it is negative, after convolutions that bend. */
const SLOPE = 0.1;

interface Layer {
  inputs: number;
  outputs: number;
  /** as the kernel takes them: mixed weights of four outputs together, then biases */
  packed: Float32Array;
}

/** Weights of a column of three on four rows: G of F(4, 3). */
function mixed(top: number, middle: number, bottom: number): number[] {
  return [
    top / 4,
    -(top + middle + bottom) / 6,
    -(top - middle + bottom) / 6,
    top / 24 + middle / 12 + bottom / 6,
    top / 24 - middle / 12 + bottom / 6,
    bottom,
  ];
}

function pack({ outputs, inputs, weights, biases }: Convolution): Layer {
  if (outputs % 4 !== 0) throw new ModelProblem('A layer has no whole groups of four channels.');
  const packed = new Float32Array(outputs * inputs * 18 + outputs);
  for (let o = 0; o < outputs; o++) {
    const group = (o >> 2) * inputs * 72;
    for (let i = 0; i < inputs; i++) {
      const from = (o * inputs + i) * 9;
      for (let x = 0; x < 3; x++) {
        const column = mixed(weights[from + x]!, weights[from + 3 + x]!, weights[from + 6 + x]!);
        column.forEach((weight, j) => {
          packed[group + ((j * inputs + i) * 3 + x) * 4 + (o & 3)] = weight;
        });
      }
    }
  }
  packed.set(biases, outputs * inputs * 18);
  return { inputs, outputs, packed };
}

/** Where pictures of many channels lie in a workroom, in bytes. */
interface Layout {
  row: number;
  plane: number;
  /** of the first pixel of the first channel */
  first: number;
  /** floats of rows that are computed */
  across: number;
}

/** Floats before a row's first pixel, so that vectors stay on whole ones. */
const BEFORE = 4;

function layOut(width: number, height: number): Layout {
  const across = Math.ceil(width / 8) * 8;
  const row = (BEFORE + across + 12) * 4;
  // One row above, and what the last four rows look at below.
  return { row, plane: row * (height + 6), first: row + BEFORE * 4, across };
}

/**
 * A network of 3 x 3 convolutions: one that bends, blocks of two whose result is added to what they
 * were given (He et al. 2016), the first's features added once more, and a last one whose channels
 * are spread over squares of pixels (Shi et al. 2016).
 *
 * A value depends on `convolutions` pixels to either side, and on four times as many rows, in whole
 * fours counted from the window's top: rows are computed together, and so are rounded together.
 * @throws ModelProblem where the convolutions don't follow one another in this way
 */
export function residualNetwork(convolutions: readonly Convolution[]): Network {
  const fits = convolutions.every(
    ({ inputs }, i) => i === 0 || inputs === convolutions[i - 1]!.outputs,
  );
  const channels = convolutions[0]?.outputs ?? 0;
  if (!fits || convolutions.length < 2 || convolutions.length % 2 !== 0) {
    throw new ModelProblem('The layers of a learned model do not follow one another.');
  }
  const layers = convolutions.map(pack);
  const [head, ...rest] = layers as [Layer, ...Layer[]];
  const tail = rest.pop()!;
  const times = Math.sqrt(tail.outputs / 3);

  const run = (planes: Float32Array, width: number, height: number): Float32Array => {
    if (height % ROWS_TOGETHER !== 0) throw new RangeError('rows come in fours');
    const layout = layOut(width, height);
    const picture = layout.plane * channels;
    const weightsAt = 3 * picture;
    const most = Math.max(...layers.map(({ packed }) => packed.byteLength));
    const mixedAt = weightsAt + Math.ceil(most / 16) * 16;
    const workAt = mixedAt + 6 * Math.max(channels, head.inputs) * layout.row;
    const fourAt = workAt + 1024;
    const room = workroom(fourAt + layout.row * (ROWS_TOGETHER + 6) * tail.outputs);
    // Whatever was there before, no number that isn't one may stay.
    room.floats.fill(0, 0, (fourAt + layout.row * (ROWS_TOGETHER + 6) * tail.outputs) / 4);
    const [features, body, between] = [0, picture, 2 * picture];
    const each = { room, layout, weightsAt, mixedAt, workAt, height };

    lay(room, layout, between, planes, width, height);
    convolve(each, head, between, features, SLOPE, null);
    let from = features;
    for (let k = 0; k < rest.length; k += 2) {
      convolve(each, rest[k]!, from, between, SLOPE, null);
      convolve(each, rest[k + 1]!, between, body, 1, from);
      from = body;
    }
    room.add1(body, features, 1, picture / 4);
    const result = new Float32Array(3 * times * times * width * height);
    room.floats.set(tail.packed, weightsAt / 4);
    const small = { row: layout.row, plane: layout.row * ROWS_TOGETHER };
    for (let y = 0; y < height; y += ROWS_TOGETHER) {
      const above = body + y * layout.row;
      room.mixRows(mixedAt, above, layout.row, layout.plane, tail.inputs, layout.row);
      room.convolveRows(
        fourAt,
        mixedAt + (BEFORE - 1) * 4,
        layout.row,
        small.row,
        small.plane,
        weightsAt,
        tail.inputs,
        tail.outputs,
        1,
        0,
        workAt,
        layout.across,
      );
      spread(room.floats, fourAt / 4, small, result, { width, height, times, y });
    }
    return result;
  };
  return { run: async (planes, width, height) => run(planes, width, height) };
}

interface Place {
  room: Workroom;
  layout: Layout;
  weightsAt: number;
  mixedAt: number;
  workAt: number;
  height: number;
}

/** One layer over a whole picture. @param from,to,plus where pictures begin, `plus` 0 for none */
function convolve(
  { room, layout, weightsAt, mixedAt, workAt, height }: Place,
  { inputs, outputs, packed }: Layer,
  from: number,
  to: number,
  slope: number,
  plus: number | null,
): void {
  const { row, plane, first, across } = layout;
  room.floats.set(packed, weightsAt / 4);
  for (let y = 0; y < height; y += ROWS_TOGETHER) {
    room.mixRows(mixedAt, from + y * row, row, plane, inputs, row);
    room.convolveRows(
      to + first + y * row,
      mixedAt + (BEFORE - 1) * 4,
      row,
      row,
      plane,
      weightsAt,
      inputs,
      outputs,
      slope,
      plus === null ? 0 : plus + first + y * row,
      workAt,
      across,
    );
  }
}

/** Input planes to where the first layer reads them. */
function lay(
  { floats }: Workroom,
  { row, plane, first }: Layout,
  at: number,
  planes: Float32Array,
  width: number,
  height: number,
): void {
  for (let c = 0; c * width * height < planes.length; c++) {
    for (let y = 0; y < height; y++) {
      const start = (c * height + y) * width;
      const to = (at + first + c * plane + y * row) / 4;
      floats.set(planes.subarray(start, start + width), to);
    }
  }
}

/** Four rows of many channels to rows of three planes, `times` as large. */
function spread(
  floats: Float32Array,
  at: number,
  { row, plane }: { row: number; plane: number },
  result: Float32Array,
  { width, height, times, y }: { width: number; height: number; times: number; y: number },
): void {
  const wide = width * times;
  for (let c = 0; c < 3; c++) {
    for (let v = 0; v < times; v++) {
      for (let r = 0; r < ROWS_TOGETHER; r++) {
        let to = (c * height * times + (y + r) * times + v) * wide;
        const channel = (c * times + v) * times;
        const from = at + (channel * plane + r * row) / 4;
        for (let x = 0; x < width; x++) {
          for (let u = 0; u < times; u++) result[to++] = floats[from + (u * plane) / 4 + x]!;
        }
      }
    }
  }
}
