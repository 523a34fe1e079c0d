import sharp from 'sharp';
import { MM_PER_INCH } from '@/core/measure/units';
import type { Size } from '@/core/raster/region';
import { toScreen } from '@/core/raster/samples';
import { toScreenColours } from '@/core/raster/screen';
import type { Source } from '@/core/raster/source';

/** A picture of the print, of which a sheet shows parts. */
export interface SheetPane {
  picture: Source;
  /** pixels to an inch of the print */
  ppi: number;
  /** how its colours look on a screen; empty where they are sRGB */
  table: Uint8Array;
}

/** A part of a pane in whole pixels, encoded: how large it is on paper, and where it begins, in millimetres. */
export interface Crop {
  png: Buffer;
  /** of its upper left corner from that of what was asked for: no more than 0 */
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Pictures coarser than this have their pixels repeated: what prints them would smooth them otherwise. */
const CRISP_PPI = 150;

/**
 * A part of a pane about a place, at the print's own scale: all pixels that it touches.
 * @param about shares of the print; near its rim the part is moved to lie on it
 * @param size millimetres
 */
export async function cropOf(
  { picture, ppi, table }: SheetPane,
  about: { x: number; y: number },
  size: Size,
): Promise<Crop> {
  const perMm = ppi / MM_PER_INCH;
  const across = span(about.x, picture.size.width, size.width * perMm);
  const down = span(about.y, picture.size.height, size.height * perMm);
  const region = { x: across.first, y: down.first, width: across.count, height: down.count };
  const rgba = toScreen(await picture.read(region));
  if (table.length > 0) toScreenColours(rgba, table);
  const times = Math.max(1, Math.ceil(CRISP_PPI / ppi));
  const raw = { width: region.width, height: region.height, channels: 4 as const };
  const png = await sharp(Buffer.from(rgba.buffer, rgba.byteOffset, rgba.length), { raw })
    .removeAlpha()
    .resize(region.width * times, region.height * times, { kernel: 'nearest', fit: 'fill' })
    .png({ compressionLevel: 6 })
    .toBuffer();
  return {
    png,
    x: (across.first - across.begin) / perMm,
    y: (down.first - down.begin) / perMm,
    width: region.width / perMm,
    height: region.height / perMm,
  };
}

/** Where a part about a place begins along one side, and the pixels that it touches. */
function span(share: number, side: number, length: number) {
  const begin = Math.max(0, Math.min(share * side - length / 2, side - length));
  const first = Math.floor(begin);
  const end = Math.min(side, Math.ceil(begin + length));
  return { begin, first, count: Math.max(1, end - first) };
}
