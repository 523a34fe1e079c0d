import { ROWS_WASM } from './rows-wasm';

/** What lies where for a row of results that are weighed about their places, and how much there is. */
export type Laid = [
  ...[out: number, plane: number, n: number, centres: number, pixels: number],
  ...[width: number, height: number, table: number, work: number],
];

/** The compiled kernels; kernels/ says what each computes. Pointers are in bytes. */
interface Kernels {
  scaleRow(out: number, a: number, w: number, n: number): void;
  mix2(out: number, a: number, b: number, wa: number, wb: number, n: number): void;
  add2(out: number, a: number, b: number, wa: number, wb: number, n: number): void;
  add1(out: number, a: number, wa: number, n: number): void;
  symmetricRow(out: number, rows: number, half: number, reach: number, n: number): void;
  symmetricRows4(
    ...row: [
      ...[out: number, stride: number, rows: number, half: number],
      ...[reach: number, n: number],
    ]
  ): void;
  weighAlong(
    out: number,
    line: number,
    first: number,
    weights: number,
    taps: number,
    n: number,
  ): void;
  divideRow(out: number, a: number, b: number, n: number): void;
  limitRow(out: number, a: number, b: number, c: number, d: number, share: number, n: number): void;
  lessPeriod(out: number, a: number, b: number, c: number, d: number, e: number, n: number): void;
  lessCommon(out: number, a: number, b: number, c: number, d: number, e: number, n: number): void;
  interleave3(out: number, r: number, g: number, b: number, n: number): void;
  shiftedBlocks(
    plane: number,
    stride: number,
    height: number,
    blocks: number,
    thresholds: number,
    work: number,
    sums: number,
    weights: number,
    ownX: number,
    ownY: number,
    ownWeight: number,
  ): void;
  winogradInput(
    to: number,
    from: number,
    row: number,
    plane: number,
    pairs: number,
    n: number,
  ): void;
  convolveRows(
    out: number,
    times: number,
    squares: number,
    length: number,
    row: number,
    plane: number,
    weights: number,
    pairs: number,
    outputs: number,
    slope: number,
    plus: number,
    work: number,
    n: number,
  ): void;
  addRows(to: number, from: number, length: number): void;
  weighSlanted(...laid: [...Laid, support: number, limit: number, scale: number]): void;
  weighJinc(
    ...laid: [
      ...Laid,
      ...[support: number, limit: number, last: number, xx: number, xy: number, yy: number],
    ]
  ): void;
  smoothRow(
    out: number,
    plane: number,
    n: number,
    pixels: number,
    luma: number,
    width: number,
    height: number,
    column: number,
    row: number,
    window: number,
    reach: number,
    table: number,
    scale: number,
    last: number,
    work: number,
  ): void;
  interleaveRgba(out: number, r: number, g: number, b: number, n: number): void;
  interleave4(out: number, a: number, b: number, c: number, d: number, n: number): void;
  cube4(
    ...planesAndNodes: [
      ...[out: number, stride: number, r: number, g: number, b: number],
      ...[cube: number, size: number, n: number],
    ]
  ): void;
  luminanceRow(out: number, r: number, g: number, b: number, n: number): void;
  spread4(
    ...rowsAndWeights: [
      ...[o0: number, o1: number, o2: number, o3: number, a: number],
      ...[w0: number, w1: number, w2: number, w3: number, n: number],
    ]
  ): void;
  splineRow(out: number, from: number, cells: number, factor: number, table: number): void;
  unsharpRow(
    ...pointersAndNumbers: [
      ...[out: number, luma: number, soft: number],
      ...[light: number, dark: number, threshold: number, n: number],
    ]
  ): void;
  highpassRow(out: number, luma: number, soft: number, n: number): void;
  blendHighpassRow(out: number, luma: number, soft: number, mode: number, n: number): void;
  squareRow(out: number, a: number, n: number): void;
  recolourRow(r: number, g: number, b: number, luma: number, n: number): void;
  tapsRow(
    ...row: [
      ...[out: number, from: number, stride: number, taps: number],
      ...[side: number, n: number],
    ]
  ): void;
  restoreRow(
    ...row: [out: number, luma: number, change: number, power: number, least: number, n: number]
  ): void;
  contrastRow(
    ...pointersAndNumbers: [
      ...[out: number, luma: number, slope: number, level: number],
      ...[amount: number, n: number],
    ]
  ): void;
  edgeRow(
    ...pointersAndNumbers: [
      ...[out: number, above: number, row: number, below: number, least: number, most: number],
      ...[times: number, hard: number, ramps: number, n: number],
    ]
  ): void;
  maskedRow(
    ...pointersAndNumbers: [
      ...[out: number, luma: number, soft: number, mask: number],
      ...[amount: number, n: number],
    ]
  ): void;
  mixFour(
    ...channels: [
      ...[out: number, plane: number, from: number, inputs: number],
      ...[weights: number, slope: number, n: number],
    ]
  ): void;
  halveRow(out: number, upper: number, lower: number, n: number): void;
  leastRow(out: number, a: number, b: number, n: number): void;
  mostRow(out: number, a: number, b: number, n: number): void;
  holdRow(
    ...pointersAndNumbers: [
      ...[out: number, before: number, limits: number, least: number, most: number],
      ...[dark: number, light: number, share: number, n: number],
    ]
  ): void;
}

/** The kernels with a stretch of their memory, for one synchronous computation. */
export interface ScratchMemory extends Kernels {
  floats: Float32Array;
  doubles: Float64Array;
  ints: Int32Array;
  bytes: Uint8Array;
}

const PAGE = 65_536;
let loaded: { memory: WebAssembly.Memory; kernels: Kernels; scratch: ScratchMemory } | undefined;

function load() {
  const memory = new WebAssembly.Memory({ initial: 1 });
  const code = Uint8Array.from(atob(ROWS_WASM), (letter) => letter.charCodeAt(0));
  const instance = new WebAssembly.Instance(new WebAssembly.Module(code), { env: { memory } });
  const kernels = instance.exports as unknown as Kernels;
  return { memory, kernels, scratch: scratchOf(memory, kernels) };
}

const scratchOf = ({ buffer }: WebAssembly.Memory, kernels: Kernels): ScratchMemory => ({
  ...kernels,
  floats: new Float32Array(buffer),
  doubles: new Float64Array(buffer),
  ints: new Int32Array(buffer),
  bytes: new Uint8Array(buffer),
});

/**
 * Memory of at least `bytes` and the kernels that work in it. What it holds is whatever the last
 * computation left; it is valid until the next call.
 */
export function scratchMemory(bytes: number): ScratchMemory {
  loaded ??= load();
  const { memory, kernels } = loaded;
  const missing = bytes + 64 - memory.buffer.byteLength;
  if (missing > 0) {
    memory.grow(Math.ceil(missing / PAGE));
    loaded.scratch = scratchOf(memory, kernels);
  }
  return loaded.scratch;
}

/** Floats that a row of `width` takes in a scratchMemory: whole vectors. */
export const strideOf = (width: number): number => Math.ceil(width / 4) * 4;

/** Floats that are kept free behind a row, since kernels read and write whole vectors. */
export const SPARE = 16;

/** Places in a scratchMemory, one after the other: each call returns where so many floats begin. */
export function scratchLayout(): (floats: number) => number {
  let end = 0;
  return (floats) => {
    const at = end;
    end += strideOf(floats);
    return at;
  };
}

/**
 * A row as the weighted sum of rows that lie one `stride` after the other.
 * @param out,first byte pointers; @param weights one a row, at least one
 */
export function weightRows(
  scratch: ScratchMemory,
  out: number,
  first: number,
  stride: number,
  weights: Float64Array,
  n: number,
): void {
  const row = (k: number) => first + k * stride * 4;
  if (weights.length === 1) {
    scratch.scaleRow(out, first, weights[0]!, n);
    return;
  }
  scratch.mix2(out, row(0), row(1), weights[0]!, weights[1]!, n);
  let k = 2;
  for (; k + 1 < weights.length; k += 2) {
    scratch.add2(out, row(k), row(k + 1), weights[k]!, weights[k + 1]!, n);
  }
  if (k < weights.length) scratch.add1(out, row(k), weights[k]!, n);
}
