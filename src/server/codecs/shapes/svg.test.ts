import { describe, expect, it } from 'vitest';
import { drawSvg, readSvg } from './svg';

const svg = (attributes: string, inside = '') =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inside}</svg>`);

const sizeOf = async (attributes: string) => (await readSvg(svg(attributes), 'a.svg')).size;

describe('the size of an SVG', () => {
  it.each<[string, number, number]>([
    ['width="100" height="50"', 100, 50],
    ['width="100px" height="50px" viewBox="0 0 1 1"', 100, 50],
    ['width="72pt" height="36pt"', 96, 48],
    ['width="25.4mm" height="2.54cm"', 96, 96],
    ['width="1in" height="6pc"', 96, 96],
    ['viewBox="0 0 300 120"', 300, 120],
    ['viewBox="-5,-5 300,120" width="600"', 600, 240],
    ['viewBox="0 0 300 120" height="60"', 150, 60],
    ['width="100%" height="100%" viewBox="0 0 40 30"', 40, 30],
    ['', 300, 150],
  ])('of %s is %d x %d', async (attributes, width, height) => {
    const size = await sizeOf(attributes);
    expect(size.width).toBeCloseTo(width, 6);
    expect(size.height).toBeCloseTo(height, 6);
  });
});

describe('a drawn part', () => {
  const flag = svg(
    'width="200" height="100" viewBox="0 0 20 10"',
    '<rect width="10" height="10" fill="#f00"/><rect x="10" width="10" height="10" fill="#00f"/>',
  );
  const pixel = async (x: number, y: number, side = 10) => {
    const read = await readSvg(flag, 'flag.svg');
    const part = { x, y, width: side, height: side };
    return [...(await drawSvg(read, part, { width: 1, height: 1 }))];
  };

  it('is where it lies on the page, at any scale', async () => {
    expect(await pixel(10, 10)).toEqual([255, 0, 0, 255]);
    expect(await pixel(150, 80)).toEqual([0, 0, 255, 255]);
    expect(await pixel(199, 99, 0.5)).toEqual([0, 0, 255, 255]);
  });

  it('beyond the page is transparent', async () => {
    expect((await pixel(250, 10))[3]).toBe(0);
    expect((await pixel(-50, -50))[3]).toBe(0);
  });

  it('keeps a picture’s shape where the page and its box differ', async () => {
    const square = svg(
      'width="200" height="100" viewBox="0 0 10 10"',
      '<rect width="10" height="10"/>',
    );
    const read = await readSvg(square, 'a.svg');
    const samples = await drawSvg(
      read,
      { x: 0, y: 0, width: 200, height: 100 },
      { width: 4, height: 1 },
    );
    const alphas = [3, 7, 11, 15].map((at) => samples[at]);
    expect(alphas).toEqual([0, 255, 255, 0]);
  });

  it('is the same behind prologues, comments, prefixes and self-closing elements', async () => {
    const prefixed = Buffer.from(
      '\uFEFF<?xml version="1.0"?><!-- a < b --><!DOCTYPE svg>\n<s:svg xmlns:s="http://www.w3.org/2000/svg" width="20" height="20" title="a &amp; b"><s:rect width="20" height="20" fill="#0f0"/></s:svg>',
    );
    const read = await readSvg(prefixed, 'p.svg');
    const part = { x: 5, y: 5, width: 2, height: 2 };
    expect([...(await drawSvg(read, part, { width: 1, height: 1 }))]).toEqual([0, 255, 0, 255]);
    const nothing = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>');
    const empty = await readSvg(nothing, 'e.svg');
    expect((await drawSvg(empty, part, { width: 1, height: 1 }))[3]).toBe(0);
  });

  it('says whether there is text that needs fonts', async () => {
    expect((await readSvg(svg('', '<text>a</text>'), 'a.svg')).text).toBe(true);
    expect((await readSvg(flag, 'a.svg')).text).toBe(false);
  });
});
