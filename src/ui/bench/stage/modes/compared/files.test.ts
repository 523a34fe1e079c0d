import { describe, expect, it } from 'vitest';
import { shiftWords, type FileBeside } from './files';

const outside = { brought: 3 } as FileBeside;
const ofRun = { brought: null } as FileBeside;

describe('what is said of a file’s place', () => {
  it('is that it is looked for, how far it was moved, or nothing where it lies right', () => {
    expect(shiftWords(outside, undefined)).toMatch(/looked for/);
    expect(shiftWords(outside, { x: -7, y: 4, spread: 1 })).toBe(', moved -7, 4 px');
    expect(shiftWords(outside, { x: 0, y: 0, spread: 0 })).toBe('');
    expect(shiftWords(outside, null)).toBe('');
  });

  it('tells another crop, which no move lays right', () => {
    const words = shiftWords(outside, { x: 0, y: 0, spread: 40 });
    expect(words).toMatch(/another crop: parts lie 40 px off/);
  });

  it('is nothing of a file that was written here', () => {
    expect(shiftWords(ofRun, undefined)).toBe('');
  });
});
