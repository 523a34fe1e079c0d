import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { ROWS_WASM } from './rows-wasm';
import { strideOf, weightRows, scratchMemory } from './rows';

describe('row kernels', () => {
  it('are what their source compiles to', async () => {
    const { compileKernels } = await import('../../../scripts/kernels.mjs');
    expect(Buffer.from(await compileKernels()).toString('base64')).toBe(ROWS_WASM);
  });

  it.each([1, 2, 3, 4, 5, 6, 7])('sum %d weighted rows of any width', (count) => {
    const next = random(count);
    for (const width of [1, 3, 4, 5, 61]) {
      const stride = strideOf(width);
      const memory = scratchMemory((count + 1) * stride * 4);
      const weights = Float64Array.from({ length: count }, () => next() * 2 - 1);
      for (let i = 0; i < count * stride; i++) memory.floats[i] = next();
      const rows = memory.floats.slice(0, count * stride);
      weightRows(memory, count * stride * 4, 0, stride, weights, width);
      for (let x = 0; x < width; x++) {
        const expected = weights.reduce((sum, w, k) => sum + w * rows[k * stride + x]!, 0);
        expect(memory.floats[count * stride + x]).toBeCloseTo(expected, 5);
      }
    }
  });

  it('make room for more than they had', () => {
    const before = scratchMemory(10).bytes.length;
    const memory = scratchMemory(before + 1_000_000);
    expect(memory.bytes.length).toBeGreaterThan(before + 1_000_000);
    expect(memory.floats.buffer).toBe(memory.bytes.buffer);
  });
});
