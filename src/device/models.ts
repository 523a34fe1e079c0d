import type { DeviceDescription } from '@/core/device/protocol';

/** A stand-in's machine: what it says of itself that never changes, and how quick and thirsty it is. */
export interface Model extends Pick<
  DeviceDescription,
  'name' | 'kind' | 'ppi' | 'margins' | 'formats' | 'spaces' | 'profile' | 'screen' | 'materials'
> {
  /** the file in profiles/ that its inks are described by */
  profileFile: 'coated.icc' | 'uncoated.icc';
  /** what stays free between prints, in millimetres */
  gap: number;
  /** millimetres of length that it prints in a second: quicker than machines are */
  pace: number;
  /** square metres of full ink that it begins with */
  inkArea: number;
}

const FILES = [
  'tiff',
  'png',
  'jpeg',
  'webp',
  'pdf',
] as const satisfies DeviceDescription['formats'];
const SPACES = ['rgb', 'grey', 'cmyk'] as const satisfies DeviceDescription['spaces'];
const COATED = { profile: 'Coated paper, offset', profileFile: 'coated.icc' } as const;
const UNCOATED = { profile: 'Uncoated paper, offset', profileFile: 'uncoated.icc' } as const;
const ALL = { formats: [...FILES], spaces: [...SPACES] };

/** The stand-ins that ship, by what they are called in a data folder. */
export const MODELS = {
  roll: {
    ...{ ...ALL, ...COATED, name: 'Wide roll', kind: 'roll', ppi: 160 },
    margins: { side: 5, end: 20 },
    screen: { dpi: 720, way: 'scattered', lines: 100, spread: 0.03 },
    materials: [
      { name: 'Photo paper, satin', width: 1070, length: 30_000, pieces: 1 },
      { name: 'Canvas', width: 1370, length: 18_000, pieces: 1 },
      { name: 'Banner, 510 g', width: 1600, length: 50_000, pieces: 1 },
      { name: 'Mesh', width: 1600, length: 50_000, pieces: 1 },
      { name: 'Window film', width: 1370, length: 25_000, pieces: 1 },
    ],
    ...{ gap: 10, pace: 60, inkArea: 90 },
  },
  flatbed: {
    ...{ ...ALL, ...UNCOATED, name: 'Flatbed', kind: 'flatbed', ppi: 200 },
    margins: { side: 5, end: 5 },
    screen: { dpi: 600, way: 'scattered', lines: 100, spread: 0.045 },
    materials: [
      { name: 'Rigid board', width: 2050, length: 3050, pieces: 10 },
      { name: 'Window film', width: 1370, length: 2000, pieces: 10 },
    ],
    ...{ gap: 15, pace: 60, inkArea: 60 },
  },
  sheet: {
    ...{ ...ALL, ...COATED, name: 'Sheet printer', kind: 'sheet', ppi: 300 },
    margins: { side: 4, end: 4 },
    screen: { dpi: 1200, way: 'rows', lines: 150, spread: 0.012 },
    materials: [
      { name: 'Photo paper, satin', width: 329, length: 483, pieces: 250 },
      { name: 'A3', width: 297, length: 420, pieces: 500 },
      { name: 'A4', width: 210, length: 297, pieces: 500 },
    ],
    ...{ gap: 0, pace: 120, inkArea: 40 },
  },
} as const satisfies Record<string, Model>;

export type ModelName = keyof typeof MODELS;
