import { describe, expect, it } from 'vitest';
import { canBeSent, checkForDevice, type FileToPrint } from './check';
import type { DeviceDescription } from './protocol';

const DEVICE: DeviceDescription = {
  ...{ protocol: 1, name: 'Wide roll', kind: 'roll', ppi: 160, margins: { side: 5, end: 20 } },
  ...{ formats: ['tiff', 'pdf'], spaces: ['rgb', 'cmyk'], profile: 'Coated paper, offset' },
  screen: { dpi: 720, way: 'scattered', lines: 100, spread: 0.03 },
  materials: [
    { name: 'Canvas', width: 1370, length: 18_000, pieces: 1 },
    { name: 'Banner', width: 1600, length: 50_000, pieces: 1 },
  ],
  loaded: { material: 'Canvas', left: 10_000 },
  inks: { cyan: 1, magenta: 1, yellow: 1, black: 1 },
  ...{ printing: false, trouble: null, partBytes: 1 << 20, mostBytes: 1e9, standIn: true },
};

const FILE: FileToPrint = {
  ...{ format: 'tiff', space: 'rgb', profile: 'sRGB', bytes: 1e6, ppi: 160 },
  archive: false,
  pages: [{ width: 1200, height: 800 }],
};

const checks = (file: Partial<FileToPrint>, wanted = { material: 'Canvas', ordered: 'Canvas' }) =>
  checkForDevice({ ...FILE, ...file }, DEVICE, wanted);
const wrong = (...args: Parameters<typeof checks>) =>
  checks(...args).flatMap(({ state, words }) => (state === 'right' ? [] : [`${state}: ${words}`]));

describe('what is checked before a file is sent', () => {
  it('is in order where the file is what the device wants', () => {
    expect(wrong({})).toEqual([]);
    expect(checks({}).map(({ words }) => words)).toEqual([
      '120 × 80 cm on Canvas, 137 cm wide',
      '160 ppi; it shows up to 160',
      'sRGB, which it converts to its inks',
      'Canvas is loaded',
    ]);
    expect(canBeSent(checks({}))).toBe(true);
  });

  it.each([
    [{ format: 'webp' }, /refused: It prints no WebP/],
    [{ archive: true }, /refused: It prints no archive/],
    [{ bytes: 2e9 }, /refused: .*larger than it takes/],
    [{ pages: [{ width: 1500, height: 1400 }] }, /refused: 150 × 140 cm does not fit on Canvas/],
    [{ ppi: 320 }, /caution: 320 ppi, of which it shows 160: 75 % of the pixels/],
    [{ ppi: 50 }, /caution: 50 ppi, where it could show 160/],
    [{ profile: null }, /caution: No profile/],
    [{ space: 'grey' }, /refused: It prints no grey/],
    [{ space: 'cmyk', profile: 'Newsprint' }, /caution: CMYK for Newsprint/],
  ] as [Partial<FileToPrint>, RegExp][])('says of %j what is wrong', (file, words) => {
    const found = wrong(file);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatch(words);
    expect(canBeSent(checks(file))).toBe(!found[0]!.startsWith('refused'));
  });

  it('says where a print lies turned, and that panels are several', () => {
    expect(checks({ pages: [{ width: 800, height: 1200 }] })[0]!.words).toMatch(
      /turned by a quarter/,
    );
    const panels = Array.from({ length: 3 }, () => ({ width: 1000, height: 2400 }));
    expect(checks({ pages: panels })[0]!.words).toMatch(/^3 panels, each 100 × 240 cm/);
  });

  it('compares materials with the ticket and with what is loaded', () => {
    expect(wrong({}, { material: 'Banner', ordered: 'Banner' })).toEqual([
      'caution: Canvas is loaded: it waits until Banner is',
    ]);
    expect(wrong({}, { material: 'Canvas', ordered: 'Mesh' })).toEqual([
      'caution: Mesh was ordered, not Canvas',
    ]);
    expect(wrong({}, { material: 'Velvet', ordered: 'Velvet' })[0]).toMatch(/can't be loaded/);
  });
});
