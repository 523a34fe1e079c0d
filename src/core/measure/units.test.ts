import { describe, expect, it } from 'vitest';
import { parseMm } from './units';
describe('millimetres as they are typed', () => {
  it.each([
    ['3', 3],
    ['0', 0],
    ['0,0 mm', 0],
    ['1.5 cm', 15],
    ['2in', 50.8],
    ['10 px', null],
    ['50 %', null],
    ['-3', null],
    ['wide', null],
    ['', null],
  ])('%j are %s', (text, mm) => expect(parseMm(text)).toBe(mm));
});
