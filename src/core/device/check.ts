import { formatNumber } from '../measure/format';
import { MM_PER_INCH } from '../measure/units';
import { formatOf, type Format } from '../output/formats';
import { layOutPanels } from '../output/panels';
import { isArchive, panelsOf, spaceOf } from '../output/output';
import type { Recipe } from '../recipe/recipe';
import { SPACE_WORDS, type DeviceSpace } from '../colour/space';
import { nestRow } from './nest';
import type { DeviceDescription } from './protocol';
import { say } from '../words/say';

/** A file that is to be printed: what of it a device cares about. */
export interface FileToPrint {
  format: Format;
  space: DeviceSpace;
  /** the name of its profile, or null */
  profile: string | null;
  bytes: number;
  /** files in a ZIP rather than one */
  archive: boolean;
  ppi: number;
  /** each of its pages, in millimetres */
  pages: { width: number; height: number }[];
}

/** One thing that is looked at before a file is sent. */
export interface Check {
  state: 'right' | 'caution' | 'refused';
  words: string;
}

/** What a finished file is to a device. */
export function fileToPrint(
  { target, output }: Pick<Recipe, 'target' | 'output'>,
  { profile, bytes }: Pick<FileToPrint, 'profile' | 'bytes'>,
): FileToPrint {
  const mm = (pixels: number) => (pixels / target.ppi) * MM_PER_INCH;
  const panels = panelsOf(output);
  const layout = panels && layOutPanels(target, panels);
  const regions = layout?.ok ? layout.panels.map(({ region }) => region) : [target];
  return {
    ...{ format: output.format, space: spaceOf(output), profile, bytes, ppi: target.ppi },
    archive: isArchive(output),
    pages: regions.map(({ width, height }) => ({ width: mm(width), height: mm(height) })),
  };
}

/** How much finer than what a device resolves a file may be before that is spoken of. */
const FINER = 1.1;
const COARSER = 0.5;

/**
 * Whether a file can be printed as it is ordered: size, resolution, colours, material. What is refused can't be sent.
 * @param material what it is to be printed on, and `ordered` what the ticket says, or null
 */
export function checkForDevice(
  file: FileToPrint,
  device: DeviceDescription,
  { material, ordered }: { material: string; ordered: string | null },
): Check[] {
  return [
    ...checkFile(file, device),
    checkSize(file, device, material),
    checkPpi(file, device),
    checkColours(file, device),
    checkMaterial(device, material, ordered),
  ];
}

export const canBeSent = (checks: readonly Check[]): boolean =>
  checks.every(({ state }) => state !== 'refused');

function checkFile({ format, bytes, archive }: FileToPrint, device: DeviceDescription): Check[] {
  if (archive) {
    const words = say`It prints no archive: send its files by hand, or panels as pages of a PDF.`;
    return [{ state: 'refused', words }];
  }
  const name = formatOf(format).name;
  if (!device.formats.includes(format)) {
    return [
      { state: 'refused', words: say`It prints no ${name}. Run the trial as another format.` },
    ];
  }
  if (bytes > device.mostBytes) {
    return [{ state: 'refused', words: say`The file is larger than it takes. Order fewer ppi.` }];
  }
  return [];
}

const cm = (mm: number): string => formatNumber(mm / 10, 1);

function checkSize({ pages }: FileToPrint, device: DeviceDescription, name: string): Check {
  const material = device.materials.find((one) => one.name === name);
  if (!material) return { state: 'refused', words: say`It can't be loaded with ${name}.` };
  const width = material.width - 2 * device.margins.side;
  const length = material.length - 2 * device.margins.end;
  const lies = ({ width: w, height: h }: FileToPrint['pages'][number]) =>
    nestRow([{ id: '', width: w, height: h }], { width, length, gap: 0 })?.lying[0];
  const tooLarge = pages.find((page) => !lies(page));
  if (tooLarge) {
    return {
      state: 'refused',
      words: say`${cm(tooLarge.width)} × ${cm(tooLarge.height)} cm does not fit on ${name}: ${cm(width)} × ${cm(length)} cm of it can be printed. Panels in a PDF would.`,
    };
  }
  const [{ width: w, height: h }] = pages as [FileToPrint['pages'][number]];
  const count = pages.length > 1 ? say`${pages.length} panels, each ` : '';
  const turned = lies(pages[0]!)?.turned ? say`, turned by a quarter` : '';
  return {
    state: 'right',
    words: say`${count}${cm(w)} × ${cm(h)} cm on ${name}, ${cm(material.width)} cm wide${turned}`,
  };
}

function checkPpi({ ppi }: FileToPrint, device: DeviceDescription): Check {
  const [sent, shown] = [formatNumber(ppi, 0), formatNumber(device.ppi, 0)];
  if (ppi > device.ppi * FINER) {
    const share = Math.round((1 - (device.ppi / ppi) ** 2) * 100);
    return {
      state: 'caution',
      words: say`${sent} ppi, of which it shows ${shown}: ${share} % of the pixels are thrown away`,
    };
  }
  if (ppi < device.ppi * COARSER) {
    return { state: 'caution', words: say`${sent} ppi, where it could show ${shown}` };
  }
  return { state: 'right', words: say`${sent} ppi; it shows up to ${shown}` };
}

function checkColours({ space, profile }: FileToPrint, device: DeviceDescription): Check {
  if (!device.spaces.includes(space)) {
    return { state: 'refused', words: say`It prints no ${SPACE_WORDS[space]} files.` };
  }
  if (space === 'cmyk' && profile !== device.profile) {
    return {
      state: 'caution',
      words: say`CMYK for ${profile ?? say`an unknown profile`}; its inks are ${device.profile}: colours will be off`,
    };
  }
  if (!profile) {
    return { state: 'caution', words: say`No profile: it takes the colours for sRGB` };
  }
  return {
    state: 'right',
    words:
      space === 'cmyk'
        ? say`Made for its inks, ${profile}`
        : say`${profile}, which it converts to its inks`,
  };
}

function checkMaterial(device: DeviceDescription, material: string, ordered: string | null): Check {
  if (ordered !== null && ordered !== material) {
    return { state: 'caution', words: say`${ordered} was ordered, not ${material}` };
  }
  if (device.loaded.material !== material) {
    return {
      state: 'caution',
      words: say`${device.loaded.material} is loaded: it waits until ${material} is`,
    };
  }
  return { state: 'right', words: say`${material} is loaded` };
}
