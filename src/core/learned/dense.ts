import { ModelProblem } from './network';
import type { Dense } from './onnx';

/** Turns figures into others. */
export type DenseNetwork = (figures: ArrayLike<number>) => Float32Array;

/** What a value is multiplied by where it is negative, after every layer but the last. */
const SLOPE = 0.1;

/**
 * A network of layers that connect all with all, computed in double precision.
 * @throws ModelProblem where the layers don't follow one another
 */
export function denseNetwork(layers: readonly Dense[]): DenseNetwork {
  const fits = layers.every(({ inputs }, i) => i === 0 || inputs === layers[i - 1]!.outputs);
  if (!fits || layers.length === 0) {
    throw new ModelProblem('The layers of a learned model do not follow one another.');
  }
  return (figures) => {
    if (figures.length !== layers[0]!.inputs) {
      throw new ModelProblem('A learned model was made for other figures than these.');
    }
    let values = Float64Array.from(figures);
    layers.forEach(({ outputs, inputs, weights, biases }, l) => {
      const next = new Float64Array(outputs);
      for (let o = 0; o < outputs; o++) {
        let sum = biases[o]!;
        for (let i = 0; i < inputs; i++) sum += weights[o * inputs + i]! * values[i]!;
        next[o] = sum < 0 && l < layers.length - 1 ? SLOPE * sum : sum;
      }
      values = next;
    });
    return Float32Array.from(values);
  };
}
