import { describe, expect, it } from 'vitest';
import { inWords, Problem } from './problem';

describe('trouble in words', () => {
  it('is the sentence of a problem, and never the inside of anything else', () => {
    expect(inWords(new Problem('input', 'picture.jpg is empty.'))).toBe('picture.jpg is empty.');
    const inner = new TypeError('cannot read properties of undefined (reading secret)');
    expect(inWords(inner)).not.toMatch(/secret|undefined/);
    expect(inWords('anything')).toMatch(/Nothing of the job was changed/);
  });

  it('names a full disk, also where the error came from a thread', () => {
    const direct = Object.assign(new Error('write failed'), { code: 'ENOSPC' });
    const threaded = new Error('ENOSPC: no space left on device, write');
    for (const error of [direct, threaded]) expect(inWords(error)).toMatch(/disk is full/);
  });
});
