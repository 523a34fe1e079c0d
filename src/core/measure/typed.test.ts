import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sidesOf, typedLength, typedMm, typedNumber, typedPaper } from './typed';
import { Unit } from './units';

const wrong = (why: RegExp) => ({ ok: false, why: expect.stringMatching(why) as string });

describe('a length as it is typed', () => {
  it.each<[string, number, Unit]>([
    ['120cm', 120, 'cm'],
    [' 47,5 in ', 47.5, 'in'],
    ['0,8 mm', 0.8, 'mm'],
    ['.5m', 0.5, 'm'],
    ['12"', 12, 'in'],
    ['80', 80, 'cm'],
    ['50 %', 50, '%'],
    ['12 1/2 in', 12.5, 'in'],
    ['12½ in', 12.5, 'in'],
    ['3/4"', 0.75, 'in'],
    ['60+2*0.3 cm', 60.6, 'cm'],
    ['60 + 2 * 3 mm', 66, 'mm'],
    ['1 m + 20 cm', 1.2, 'm'],
    ['1 m - 2*(3 + 2) mm', 0.99, 'm'],
    ['5 ft 6 in', 5.5, 'ft'],
    ['5\' 6"', 5.5, 'ft'],
    ['(90 - 2)/2 cm', 44, 'cm'],
    ['0.1 + 0.2', 0.3, 'cm'],
    ['7200 px', 7200, 'px'],
  ])('%j is %d %s', (text, value, unit) => {
    expect(typedLength(text, 'cm')).toEqual({ ok: true, value: { value, unit } });
  });

  it.each([
    ['', /as 120 cm/],
    ['wide', /“wide” is neither a number nor a unit/],
    ['12 mmm', /“mmm” is neither/],
    ['0', /more than 0/],
    ['3 - 3 cm', /more than 0/],
    ['-5', /more than 0/],
    ['5/0', /divided by 0/],
    ['1 0/0 in', /divided by 0/],
    ['2 cm * 3 cm', /plain numbers/],
    ['12 +', /A number is missing/],
    ['* 3', /A number is missing before “\*”/],
    ['(3 + 2', /not closed/],
    ['3 4', /What is “4”/],
    ['3 px + 2 cm', /px and cm can’t be added/],
    ['9e9', /“e9”/],
    ['('.repeat(100_000), /too long/],
    ['('.repeat(80), /A number is missing/],
  ])('%j is none', (text, why) => expect(typedLength(text, 'cm')).toEqual(wrong(why)));

  it('is read or refused in words, whatever is typed', () => {
    const piece = fc.constantFrom(
      '1',
      '2.5',
      ',5',
      '+',
      '-',
      '*',
      '/',
      '(',
      ')',
      'cm',
      'in',
      ' ',
      'x',
      '½',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const read = typedLength(pieces.join(''), 'cm');
        if (read.ok) expect(read.value.value).toBeGreaterThan(0);
        else expect(read.why).toMatch(/\.$|\?$/);
      }),
    );
  });
});

describe('millimetres as they are typed', () => {
  it.each([
    ['3', 3],
    ['0', 0],
    ['0,0 mm', 0],
    ['1.5 cm', 15],
    ['2in', 50.8],
    ['1/8 in', 3.175],
  ])('%j are %d', (text, mm) => expect(typedMm(text)).toEqual({ ok: true, value: mm }));

  it.each([
    ['10 px', /on paper/],
    ['50 %', /on paper/],
    ['-3', /At least 0 mm/],
    ['', /as 3 mm/],
  ])('%j are none', (text, why) => expect(typedMm(text)).toEqual(wrong(why)));

  it('are held to a range', () => {
    expect(typedMm('21 cm', { most: 200 })).toEqual(wrong(/From 0 to 200 mm/));
  });
});

describe('a number as it is typed', () => {
  const percent = { least: 0, most: 100, unit: '%' };
  it('comes with its unit or without', () => {
    for (const text of ['35', '35 %', '35%', '70/2', ' 30 + 5 ']) {
      expect(typedNumber(text, percent)).toEqual({ ok: true, value: 35 });
    }
    expect(typedNumber('0.5 in', { least: 0, most: 50, unit: 'mm' })).toMatchObject({
      value: 12.7,
    });
    expect(typedNumber('240 PPI', { least: 1, most: 4800, unit: 'ppi' })).toMatchObject({
      value: 240,
    });
    expect(typedNumber('-5,5', { least: -45, most: 45, unit: '°' })).toMatchObject({ value: -5.5 });
  });

  it('is refused beyond its range, in another unit, or where it must be whole', () => {
    expect(typedNumber('101', percent)).toEqual(wrong(/From 0 to 100 %/));
    expect(typedNumber('3 mm', percent)).toEqual(wrong(/given in %/));
    expect(typedNumber('3 mm', { least: 0, most: 9 })).toEqual(wrong(/no unit/));
    expect(typedNumber('2.5', { least: 0, most: 9, whole: true })).toEqual(wrong(/whole/));
  });
});

describe('a paper as it is typed', () => {
  const sheets = [
    { name: 'A1', width: 594, height: 841 },
    { name: 'Roll 61', width: 610, height: null },
  ];
  const read = (text: string) => typedPaper(text, 'cm', sheets);
  it.each([
    ['90x60', 90, 'cm', 60, 'cm'],
    ['90 x 60 cm', 90, 'cm', 60, 'cm'],
    ['900 × 600 mm', 900, 'mm', 600, 'mm'],
    ['1 m x 70 cm', 1, 'm', 70, 'cm'],
    ['24 1/2 x 36 in', 24.5, 'in', 36, 'in'],
    ['7200px x 4800px', 7200, 'px', 4800, 'px'],
    ['7200x4800 px', 7200, 'px', 4800, 'px'],
  ])('%j is both sides', (text, width, unit, height, other) => {
    expect(read(text)).toEqual({
      ok: true,
      value: { of: 'sides', width: { value: width, unit }, height: { value: height, unit: other } },
    });
  });

  it('is a sheet by its name, one side, or wrong', () => {
    expect(read(' a1 ')).toEqual({ ok: true, value: { of: 'sheet', sheet: sheets[0] } });
    expect(read('Roll 61')).toMatchObject({ value: { of: 'sheet' } });
    expect(read('90')).toMatchObject({ value: { of: 'side', length: { value: 90, unit: 'cm' } } });
    expect(read('7200 px')).toMatchObject({ value: { of: 'side', length: { unit: 'px' } } });
    expect(read('1x2x3')).toEqual(wrong(/Two sides/));
    expect(read('x 60 cm')).toMatchObject({ value: { width: null, height: { value: 60 } } });
    expect(read('90x')).toMatchObject({ value: { width: { value: 90 }, height: null } });
    expect(read('x')).toEqual(wrong(/A side at least/));
    expect(read('B17')).toEqual(wrong(/“B17”/));
  });

  it('of a sheet lies as the picture does', () => {
    const sides = (text: string, picture: { width: number; height: number }) => {
      const typed = read(text);
      return typed.ok && sidesOf(typed.value, picture);
    };
    const cm = (value: number) => ({ value, unit: 'cm' });
    const [wide, upright] = [
      { width: 3, height: 2 },
      { width: 2, height: 3 },
    ];
    expect(sides('A1', wide)).toEqual({ width: cm(84.1), height: cm(59.4) });
    expect(sides('A1', upright)).toEqual({ width: cm(59.4), height: cm(84.1) });
    for (const picture of [wide, upright]) {
      expect(sides('Roll 61', picture)).toEqual({ width: cm(61), height: null });
    }
    expect(sides('40', wide)).toEqual({ width: cm(40), height: null });
  });
});
