import { describe, expect, it } from 'vitest';
import { formatOf, type InputFormat } from './format';

const bytes = (text: string) => Buffer.from(text, 'latin1');

describe('a file is known by its content', () => {
  it.each<[InputFormat, string]>([
    ['jpeg', '\xff\xd8\xff\xe0'],
    ['png', '\x89PNG\r\n\x1a\n'],
    ['tiff', 'II*\0'],
    ['tiff', 'MM\0*'],
    ['tiff', 'II+\0'],
    ['webp', 'RIFF\0\0\0\0WEBPVP8 '],
    ['avif', '\0\0\0\x20ftypavif'],
    ['gif', 'GIF89a'],
    ['pdf', '%PDF-1.4'],
    ['pdf', 'a few bytes before %PDF-1.7'],
    ['svg', '<svg xmlns="…">'],
    ['svg', '\n <?xml version="1.0"?><svg>'],
    ['svg', '<!-- drawn --><svg>'],
    ['svg', '<!DOCTYPE svg PUBLIC "">'],
  ])('%s: %j', (format, head) => {
    expect(formatOf(bytes(head), 'a.bin')).toBe(format);
  });

  it.each([
    ['', /is empty/],
    ['Dear printers', /not a picture/],
    ['<html><body>', /not a picture/],
    ['RIFF\0\0\0\0WAVEfmt ', /not a picture/],
    ['\0\0\0\x18ftypheic', /phones make it.* Ask for a JPEG/],
    ['8BPS\0\x01', /layered.* Ask for a flattened TIFF/],
    ['\0\0\0\x0cjP  ', /JPEG 2000/],
    ['\xff\x0a', /JPEG XL/],
    ['BM\x36', /BMP/],
    ['%!PS', /Ask for a PDF/],
    ['PK\x03\x04', /Ask for the picture itself/],
    ['\x1f\x8b\x08', /Ask for the picture itself/],
  ])('%j is refused with what to ask for', (head, words) => {
    expect(() => formatOf(bytes(head), 'a.jpg')).toThrow(words);
  });
});
