import { describe, expect, it } from 'vitest';
import type { FileToPrint } from '../device/check';
import type { DeviceDescription } from '../device/protocol';
import { placeFor, type Connected } from './place-for';

const material = (name: string, width: number, length: number, pieces = 1) => ({
  ...{ name, width, length, pieces },
});
function device(id: number, name: string, of: Partial<DeviceDescription>): Connected {
  return {
    ...{ id, name, ppi: 160, connected: true, answers: true, since: null },
    description: {
      ...{ protocol: 1, name, kind: 'roll', ppi: 160, margins: { side: 5, end: 20 } },
      ...{ formats: ['tiff', 'pdf'], spaces: ['rgb'], profile: '' },
      screen: { dpi: 720, way: 'scattered', lines: 100, spread: 0.03 },
      materials: [],
      loaded: { material: 'Canvas', left: 10_000 },
      inks: { cyan: 1, magenta: 1, yellow: 1, black: 1 },
      ...{ printing: false, trouble: null, partBytes: 1, mostBytes: 1e9, standIn: true },
      ...of,
    },
  };
}
const ROLL = device(1, 'Roll', {
  materials: [material('Canvas', 1370, 18_000), material('Banner', 1600, 50_000)],
});
const SHEETS = device(2, 'Sheets', {
  kind: 'sheet',
  materials: [material('A4', 210, 297, 500), material('Large', 329, 483, 250)],
  loaded: { material: 'A4', left: 500 },
});

const file = (width: number, height: number): FileToPrint => ({
  ...{ format: 'tiff', space: 'rgb', profile: 'sRGB', bytes: 1e6, archive: false, ppi: 160 },
  pages: [{ width, height }],
});
const place = (of: FileToPrint, change: Partial<Parameters<typeof placeFor>[2]> = {}) => {
  const work = { device: null, material: null };
  const found = placeFor(of, [ROLL, SHEETS], { proof: false, work, ...change });
  return found && `${found.device.name}, ${found.material}`;
};

describe('where a file is sent unless somebody chooses', () => {
  it('is the ordered device on the ordered material, where it fits there', () => {
    const work = { device: 'Sheets', material: 'Large' };
    expect(place(file(200, 300), { work })).toBe('Sheets, Large');
    expect(place(file(900, 600), { work })).toBe('Roll, Canvas');
  });

  it('is on what is loaded, or else on what is large enough', () => {
    expect(place(file(900, 600))).toBe('Roll, Canvas');
    expect(place(file(1500, 1400))).toBe('Roll, Banner');
  });

  it('is on sheets for a proof, as long as those take it', () => {
    expect(place(file(210, 297), { proof: true })).toBe('Sheets, Large');
    expect(place(file(1300, 200), { proof: true })).toBe('Roll, Canvas');
  });

  it('is what was chosen, whether it fits or not', () => {
    expect(place(file(900, 600), { device: 2 })).toBe('Sheets, A4');
    expect(place(file(900, 600), { device: 1, material: 'Banner' })).toBe('Roll, Banner');
  });

  it('is nowhere where nothing is connected', () => {
    const work = { device: null, material: null };
    expect(placeFor(file(100, 100), [], { proof: false, work })).toBeNull();
  });
});
