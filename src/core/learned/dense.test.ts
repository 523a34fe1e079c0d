import { describe, expect, it } from 'vitest';
import { denseNetwork } from './dense';
import { ModelProblem } from './network';

const layer = (inputs: number, weights: number[], biases: number[]) => ({
  ...{ inputs, outputs: biases.length },
  ...{ weights: Float32Array.from(weights), biases: Float32Array.from(biases) },
});

describe('a network that connects all with all', () => {
  const two = [layer(2, [1, 2, 3, -4], [0.5, 0]), layer(2, [1, 1, -1, 10], [0, 2])];

  it('weights, adds and bends, but for what it gives', () => {
    // 1 + 2 + 0.5 = 3.5 and 3 - 4 = -1, which bends to -0.1.
    const [sum, other] = denseNetwork(two)([1, 1]);
    expect(sum).toBeCloseTo(3.4, 6);
    expect(other).toBeCloseTo(-3.5 - 1 + 2, 6);
  });

  it('refuses layers that do not follow one another, and figures that it was not made for', () => {
    expect(() => denseNetwork([two[0]!, layer(3, [1, 1, 1], [0])])).toThrow(ModelProblem);
    expect(() => denseNetwork([])).toThrow(ModelProblem);
    expect(() => denseNetwork(two)([1, 2, 3])).toThrow(/other figures/);
  });
});
