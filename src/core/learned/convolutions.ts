import type { Region, Size } from '../raster/region';
import { scratchMemory, type ScratchMemory } from '../raster/rows';
import { ModelProblem, type Network } from './network';
import type { Convolution } from './onnx';

/** What a value is multiplied by where it is negative, after convolutions that bend. */
const SLOPE = 0.1;

/**
 * Values are whole numbers of so many parts, within four on either side: what our networks compute
 * stays well inside of that, whatever they are given, and is cut off there.
 */
const PARTS = 2048;
const LIMIT = 8191;
/** Weights of an output are whole numbers whose magnitudes add up to about this: sums fit 32 bits. */
const MOST = 65_000;
const WIDEST = 32_767;

interface Layer {
  /** two by two, the last one perhaps with nothing */
  pairs: number;
  outputs: number;
  /** as the kernels take them: mixed weights of four outputs together, then their scales and biases */
  packed: Int32Array;
}

/** Three weights on two pixels are four products, twice as large: G of F(2, 3). */
const mixed = (first: number, middle: number, last: number): number[] => [
  2 * first,
  first + middle + last,
  first - middle + last,
  2 * last,
];

/** Nine weights on squares of two by two pixels: sixteen, four times as large, row by row. */
function mixedSquare(weights: ArrayLike<number>): number[] {
  const columns = [0, 1, 2].map((x) => mixed(weights[x]!, weights[3 + x]!, weights[6 + x]!));
  return [0, 1, 2, 3].flatMap((j) => mixed(columns[0]![j]!, columns[1]![j]!, columns[2]![j]!));
}

/** How many times larger an output's weights are as whole numbers. */
function scaleFor(weights: Float32Array): number {
  let sum = 0;
  let widest = 0;
  for (let i = 0; i < weights.length; i += 9) {
    const own = weights.subarray(i, i + 9).map(Math.abs);
    const all = own.reduce((total, weight) => total + weight, 0);
    sum += all;
    widest = Math.max(widest, all, ...mixedSquare(own));
  }
  // Rounding adds up to half to each of nine.
  const scale = Math.min(MOST / sum, (WIDEST - 5) / widest);
  return Number.isFinite(scale) ? scale : 1;
}

/** @param parts what a result of one is */
function pack({ outputs, inputs, weights, biases }: Convolution, parts: number): Layer {
  if (outputs % 4 !== 0) throw new ModelProblem('A layer has no whole groups of four channels.');
  const pairs = Math.ceil(inputs / 2);
  const packed = new Int32Array(outputs * pairs * 16 + outputs * 2);
  const halves = new Int16Array(packed.buffer);
  const facts = new Float32Array(packed.buffer, outputs * pairs * 64);
  for (let o = 0; o < outputs; o++) {
    const group = (o >> 2) * pairs * 64;
    const own = weights.subarray(o * inputs * 9, (o + 1) * inputs * 9);
    const scale = scaleFor(own);
    for (let i = 0; i < inputs; i++) {
      const whole = own.subarray(i * 9, (i + 1) * 9).map((weight) => Math.round(scale * weight));
      mixedSquare(whole).forEach((weight, j) => {
        const at = group + (j * pairs + (i >> 1)) * 4 + (o & 3);
        halves[2 * at + (i & 1)] = weight;
      });
    }
    const fact = (o >> 2) * 8 + (o & 3);
    facts[fact] = parts / (4 * scale * PARTS);
    facts[fact + 4] = parts * biases[o]!;
  }
  return { pairs, outputs, packed };
}

/** Where pictures of many channels lie in a scratchMemory, in bytes. */
interface Layout {
  row: number;
  plane: number;
  /** of the first pixel of the first pair of channels */
  first: number;
  /** pixels of rows that are computed */
  across: number;
}

/** Bytes of a pixel of a pair of channels. */
const PIXEL = 4;
/** Pixels before a row's first, so that vectors stay on whole ones. */
const BEFORE = 4;

function layOut(width: number, height: number): Layout {
  const across = Math.ceil(width / 16) * 16;
  const row = (BEFORE + across + 12) * PIXEL;
  // One row above, and what the last two rows look at below.
  return { row, plane: row * (height + 4), first: row + BEFORE * PIXEL, across };
}

/** How pixels become places where a network computes, and its places pixels again. */
export interface Form {
  /** squares of so many pixels a side are one place, their pixels its channels */
  unshuffle: 1 | 2;
  /** each place becomes a square of so many pixels a side */
  shuffle: 2 | 4;
}

/**
 * A network of 3 x 3 convolutions: one that bends, blocks of two whose result is added to what they
 * were given (He et al. 2016), the first's features added once more, and a last one whose channels
 * are spread over squares of pixels (Shi et al. 2016). It is computed in whole numbers of 16 bits
 * (Jacob et al. 2018 do so with 8): a value depends on as many places about it as there are
 * convolutions and on nothing else, to the bit. Nearer to a border than that it is of no use.
 * @throws ModelProblem where the convolutions don't follow one another in this way
 */
export function residualNetwork(
  convolutions: readonly Convolution[],
  { unshuffle, shuffle }: Form,
): Network {
  const fits = convolutions.every(
    ({ inputs }, i) => i === 0 || inputs === convolutions[i - 1]!.outputs,
  );
  const channels = convolutions[0]?.outputs ?? 0;
  if (!fits || convolutions.length < 2 || convolutions.length % 2 !== 0) {
    throw new ModelProblem('The layers of a learned model do not follow one another.');
  }
  if (convolutions.at(-1)!.outputs !== 3 * shuffle * shuffle) {
    throw new ModelProblem('The last layer of a learned model does not make whole pixels.');
  }
  const layers = convolutions.map((each, i) =>
    pack(each, i === convolutions.length - 1 ? 1 : PARTS),
  );
  const [head, ...rest] = layers as [Layer, ...Layer[]];
  const tail = rest.pop()!;

  const run: Network['run'] = (planes, wide, high, margin) => {
    const width = wide / unshuffle;
    const height = high / unshuffle;
    const layout = layOut(width, height);
    const picture = layout.plane * (channels / 2);
    const widest = Math.max(channels / 2, head.pairs);
    // The last of the three pictures holds what the network is given, too.
    const weightsAt = 2 * picture + layout.plane * widest;
    const most = Math.max(...layers.map(({ packed }) => packed.byteLength));
    const squaresAt = weightsAt + Math.ceil(most / 16) * 16;
    const workAt = squaresAt + 32 * widest * layout.across;
    const shuffledAt = workAt + 2560;
    const shuffledRow = layout.across * shuffle * 4;
    const end = shuffledAt + shuffledRow * shuffle * 3 * 2;
    const memory = scratchMemory(end);
    // Rows beyond the borders are zeros.
    memory.bytes.fill(0, 0, end);
    const [features, body, between] = [0, picture, 2 * picture];
    const rim = margin / unshuffle;
    /** Of each layer just what the ones after it look at. */
    const partOf = (layer: number): Region => {
      const cut = Math.max(0, rim - (layers.length - 1 - layer));
      return { x: cut, y: cut, width: width - 2 * cut, height: height - 2 * cut };
    };
    const each = { memory, layout, weightsAt, squaresAt, workAt };

    lay(memory, layout, between, planes, { width: wide, height: high }, unshuffle);
    convolve(each, head, partOf(0), between, features, SLOPE, null);
    let from = features;
    for (let k = 0; k < rest.length; k += 2) {
      convolve(each, rest[k]!, partOf(k + 1), from, between, SLOPE, null);
      convolve(each, rest[k + 1]!, partOf(k + 2), between, body, 1, from);
      from = body;
    }
    memory.addRows(body, features, picture);
    const last = partOf(layers.length - 1);
    const inner: Size = { width: last.width * shuffle, height: last.height * shuffle };
    const result = new Float32Array(3 * inner.width * inner.height);
    memory.ints.set(tail.packed, weightsAt / 4);
    for (let y = 0; y < last.height; y += 2) {
      winogradInput(each, tail, last, body, y);
      memory.convolveRows(
        shuffledAt,
        shuffle,
        squaresAt,
        rowOf(last) * 2,
        shuffledRow,
        0,
        weightsAt,
        tail.pairs,
        tail.outputs,
        1,
        0,
        workAt,
        rowOf(last),
      );
      for (let row = 0; row < 6 * shuffle; row++) {
        const down = (y + Math.floor(row / (3 * shuffle))) * shuffle + (row % shuffle);
        if (down >= inner.height) continue;
        const plane = Math.floor(row / shuffle) % 3;
        const from = (shuffledAt + row * shuffledRow) / 4;
        result.set(
          memory.floats.subarray(from, from + inner.width),
          (plane * inner.height + down) * inner.width,
        );
      }
    }
    return result;
  };
  return { run };
}

interface Place {
  memory: ScratchMemory;
  layout: Layout;
  weightsAt: number;
  squaresAt: number;
  workAt: number;
}

/** Pixels of a part's row that are computed: whole vectors. */
const rowOf = ({ width }: Size): number => Math.ceil(width / 16) * 16;

/** Rows y and y + 1 of a part, with what lies about them, as a layer reads them. */
function winogradInput(
  { memory, layout, squaresAt }: Place,
  { pairs }: Layer,
  part: Region,
  from: number,
  y: number,
): void {
  const { row, plane, first } = layout;
  // One row up and one pixel to the left.
  const start = from + first + (part.y + y - 1) * row + (part.x - 1) * PIXEL;
  memory.winogradInput(squaresAt, start, row, plane, pairs, rowOf(part));
}

/** One layer over part of a picture. @param from,to,plus where pictures begin, `plus` null for none */
function convolve(
  place: Place,
  layer: Layer,
  part: Region,
  from: number,
  to: number,
  slope: number,
  plus: number | null,
): void {
  const { memory, layout, weightsAt, squaresAt, workAt } = place;
  const { row, plane, first } = layout;
  memory.ints.set(layer.packed, weightsAt / 4);
  for (let y = 0; y < part.height; y += 2) {
    winogradInput(place, layer, part, from, y);
    const at = first + (part.y + y) * row + part.x * PIXEL;
    memory.convolveRows(
      to + at,
      1,
      squaresAt,
      rowOf(part) * 2,
      row,
      plane,
      weightsAt,
      layer.pairs,
      layer.outputs,
      slope,
      plus === null ? 0 : plus + at,
      workAt,
      rowOf(part),
    );
  }
}

/** Input planes to where the first layer reads them, as whole numbers, two channels beside each other. */
function lay(
  { bytes }: ScratchMemory,
  { row, plane, first }: Layout,
  at: number,
  planes: Float32Array,
  { width, height }: Size,
  unshuffle: number,
): void {
  const halves = new Int16Array(bytes.buffer);
  const each = unshuffle * unshuffle;
  for (let from = 0, c = 0; from < planes.length; c += each) {
    for (let y = 0; y < height; y++) {
      const down = Math.floor(y / unshuffle);
      for (let u = 0; u < unshuffle; u++) {
        const channel = c + (y % unshuffle) * unshuffle + u;
        let to = (at + first + (channel >> 1) * plane + down * row) / 2 + (channel & 1);
        for (let x = u; x < width; x += unshuffle, to += 2) {
          const value = Math.round(planes[from + x]! * PARTS);
          // What is no number counts as nothing.
          halves[to] = value > LIMIT ? LIMIT : value < -LIMIT ? -LIMIT : value;
        }
      }
      from += width;
    }
  }
}
