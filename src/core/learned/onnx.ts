import { ModelProblem } from './network';

/** One layer of a network, as it lies in its file: a convolution, or one that connects all with all. */
export interface Convolution {
  outputs: number;
  inputs: number;
  /** [output][input][y][x], or [output][input] */
  weights: Float32Array;
  biases: Float32Array;
}

/** One fully connected layer of a network. */
export type Dense = Convolution;

/**
 * The convolutions of an ONNX file, in the order of its graph.
 * @throws ModelProblem where the bytes are no such file, or a convolution isn't 3 x 3
 */
export const readConvolutions = (bytes: Uint8Array): Convolution[] =>
  readLayers(bytes, 'Conv', (height, width) => {
    if (height !== 3 || width !== 3) throw new ModelProblem('A convolution is not 3 x 3.');
  });

/**
 * The convolutions of an ONNX file, of any size and with inputs of each output alone too, in the order of its graph.
 * @throws ModelProblem where the bytes are no such file
 */
export const readAnyConvolutions = (bytes: Uint8Array): Convolution[] => readLayers(bytes, 'Conv');

/**
 * The fully connected layers of an ONNX file, in the order of its graph; their weights are [output][input].
 * @throws ModelProblem where the bytes are no such file
 */
export const readDense = (bytes: Uint8Array): Dense[] => readLayers(bytes, 'Gemm');

/** Layers of a kind. Of the format (Protocol Buffers) only as much is read as that takes. */
function readLayers(
  bytes: Uint8Array,
  kind: 'Conv' | 'Gemm',
  check?: (height: number, width: number) => void,
): Convolution[] {
  try {
    const graph = fieldOf(message(bytes), GRAPH)[0]!;
    const tensors = new Map(
      fieldOf(message(graph), INITIALIZER).map((tensor) => {
        const fields = message(tensor);
        return [text(fieldOf(fields, TENSOR_NAME)[0]!), fields] as const;
      }),
    );
    return fieldOf(message(graph), NODE).flatMap((node) => {
      const fields = message(node);
      if (text(fieldOf(fields, OPERATION)[0]!) !== kind) return [];
      const [, weights, biases] = fieldOf(fields, INPUT).map(text);
      const [outputs, inputs, height = 1, width = 1] = dimensionsOf(tensors.get(weights!)!);
      check?.(height, width);
      return [
        {
          outputs: outputs!,
          inputs: inputs!,
          weights: floatsOf(tensors.get(weights!)!),
          biases: floatsOf(tensors.get(biases!)!),
        },
      ];
    });
  } catch (error) {
    if (error instanceof ModelProblem) throw error;
    throw new ModelProblem(`A learned model could not be read: ${String(error)}`);
  }
}

// Field numbers of ONNX's messages.
const GRAPH = 7;
const NODE = 1;
const INITIALIZER = 5;
const INPUT = 1;
const OPERATION = 4;
const DIMENSIONS = 1;
const TENSOR_NAME = 8;
const RAW_DATA = 9;

type Field = { number: number; value: Uint8Array | number };

/** Fields of a message: numbers, or the bytes of what is longer. */
function message(bytes: Uint8Array): Field[] {
  const fields: Field[] = [];
  let at = 0;
  const number = (): number => {
    let value = 0;
    for (let scale = 1; ; scale *= 128) {
      const byte = bytes[at++];
      if (byte === undefined) throw new RangeError('it ends early');
      value += (byte & 127) * scale;
      if (byte < 128) return value;
    }
  };
  while (at < bytes.length) {
    const key = number();
    const kind = key % 8;
    const field = Math.floor(key / 8);
    if (kind === 0) fields.push({ number: field, value: number() });
    else {
      const length = kind === 2 ? number() : kind === 5 ? 4 : kind === 1 ? 8 : NaN;
      if (!(at + length <= bytes.length)) throw new RangeError('it is no message');
      fields.push({ number: field, value: bytes.subarray(at, at + length) });
      at += length;
    }
  }
  return fields;
}

const fieldOf = (fields: readonly Field[], number: number): Uint8Array[] =>
  fields.flatMap((field) =>
    field.number === number && typeof field.value !== 'number' ? [field.value] : [],
  );

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

/** Dimensions come one by one or packed together. */
function dimensionsOf(fields: readonly Field[]): number[] {
  return fields.flatMap(({ number, value }) => {
    if (number !== DIMENSIONS) return [];
    return typeof value === 'number' ? [value] : unpacked(value);
  });
}

function unpacked(bytes: Uint8Array): number[] {
  const values: number[] = [];
  let value = 0;
  let scale = 1;
  for (const byte of bytes) {
    value += (byte & 127) * scale;
    scale *= 128;
    if (byte < 128) {
      values.push(value);
      value = 0;
      scale = 1;
    }
  }
  return values;
}

function floatsOf(fields: readonly Field[]): Float32Array {
  const [raw] = fieldOf(fields, RAW_DATA);
  return new Float32Array(Uint8Array.from(raw!).buffer);
}
