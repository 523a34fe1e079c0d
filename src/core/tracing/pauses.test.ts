import { describe, expect, it } from 'vitest';
import { testPicture } from '../testing';
import { trace, traceWithPauses } from './trace';

const size = { width: 90, height: 70 };
const drawing = testPicture(size, 4);

describe('tracing with pauses', () => {
  it('finds what tracing at once finds', async () => {
    let pauses = 0;
    const found = await traceWithPauses(drawing, 1, () => {
      pauses++;
      return Promise.resolve();
    });
    expect(found).toEqual(trace(drawing));
    expect(pauses).toBeGreaterThan(10);
  });

  it('ends in any pause in which it is told to', async () => {
    for (const last of [1, 5, 11]) {
      let pauses = 0;
      const stopped = traceWithPauses(drawing, 1, () =>
        ++pauses === last ? Promise.reject(new Error('told to stop')) : Promise.resolve(),
      );
      await expect(stopped).rejects.toThrow('told to stop');
      expect(pauses).toBe(last);
    }
  });
});
