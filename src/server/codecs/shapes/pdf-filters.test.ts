import { deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { unwrapped } from './pdf-filters';

const bytes = (text: string): Uint8Array => new Uint8Array(Buffer.from(text, 'latin1'));
const plain = (filters: string[], given: Uint8Array) => {
  const got = unwrapped(given, filters);
  return got && Buffer.from(got).toString('latin1');
};

describe('a wrapped stream', () => {
  it('is taken out of all its wrappings, in their order', () => {
    expect(plain([], bytes('abc'))).toBe('abc');
    expect(plain(['FlateDecode'], deflateSync(bytes('many words')))).toBe('many words');
    expect(plain(['ASCII85Decode'], bytes('87cURD]i,"Ebo80~>'))).toBe('Hello World!');
    expect(plain(['A85', 'Fl'], bytes(base85(deflateSync(bytes('twice')))))).toBe('twice');
  });

  it.each([
    ['z~>', [0, 0, 0, 0]],
    ['zz', [0, 0, 0, 0, 0, 0, 0, 0]],
    [' 5s\n d ~>', [65, 66]],
    ['~>', []],
  ])('of base 85 is read with zeros, blanks and ends: %s', (text, expected) => {
    expect([...unwrapped(bytes(text), ['ASCII85Decode'])!]).toEqual(expected);
  });

  it('is none where it is damaged, or of another kind', () => {
    expect(plain(['FlateDecode'], bytes('no such thing'))).toBeNull();
    expect(plain(['ASCII85Decode'], bytes('ab\u00ff'))).toBeNull();
    expect(plain(['LZWDecode'], bytes('abc'))).toBeNull();
  });
});

/** Five digits for every four bytes, those that are missing at the end left out. */
function base85(given: Uint8Array): string {
  let text = '';
  for (let i = 0; i < given.length; i += 4) {
    const four = [0, 1, 2, 3].map((k) => given[i + k] ?? 0);
    let value = four.reduce((sum, byte) => sum * 256 + byte, 0);
    const digits = [0, 0, 0, 0, 0].map(() => {
      const digit = value % 85;
      value = Math.floor(value / 85);
      return String.fromCharCode(digit + 33);
    });
    text += digits
      .reverse()
      .join('')
      .slice(0, Math.min(4, given.length - i) + 1);
  }
  return `${text}~>`;
}
