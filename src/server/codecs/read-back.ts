import { open, stat } from 'node:fs/promises';
import ExifReader from 'exifreader';
import { z } from 'zod';
import type { Size } from '@/core/raster/region';

/** What a written file says of itself when it is opened afresh. */
export const ReadBack = z.object({
  width: z.int(),
  height: z.int(),
  ppi: z.object({ x: z.number(), y: z.number() }).nullable(),
  profileBytes: z.int(),
  bytes: z.int(),
});
export type ReadBack = z.infer<typeof ReadBack>;

/** What the file was meant to be. */
export interface Expected {
  size: Size;
  ppi: number;
  profileBytes: number;
}

/**
 * Reads a result's header with a reader that shares no code with the writers.
 * @throws Error where the file can't be read
 */
export async function readBack(path: string): Promise<ReadBack> {
  const handle = await open(path, 'r');
  const { size } = await stat(path);
  // Everything of interest stands before the pixels, in all three formats.
  const head = Buffer.alloc(Math.min(size, 8 << 20));
  await handle.read(head, 0, head.length, 0);
  await handle.close();
  const tags = ExifReader.load(head, { expanded: true });
  const width = numeric(
    (tags.file?.['Image Width'] ?? tags.png?.['Image Width'] ?? tags.exif?.ImageWidth)?.value,
  );
  const height = numeric(
    (tags.file?.['Image Height'] ?? tags.png?.['Image Height'] ?? tags.exif?.ImageLength)?.value,
  );
  if (width === null || height === null) throw new Error('the written file has no size');
  return {
    width,
    height,
    ppi: resolution(tags),
    profileBytes: profileBytes(head),
    bytes: size,
  };
}

/** A tag's value as a number: they come as numbers, or as a numerator and a denominator. */
function numeric(value: unknown): number | null {
  const found: unknown =
    Array.isArray(value) && typeof value[1] === 'number' ? value[0] / value[1] : value;
  return typeof found === 'number' && Number.isFinite(found) ? found : null;
}

function resolution(tags: ExifReader.ExpandedTags): { x: number; y: number } | null {
  const pair = (group: Record<string, { value: unknown } | undefined>, x: string, y: string) => {
    const found = { x: numeric(group[x]?.value), y: numeric(group[y]?.value) };
    return found.x && found.y ? { x: found.x, y: found.y } : null;
  };
  const group = (of: unknown) => (of ?? {}) as Record<string, { value: unknown } | undefined>;
  const png = group(tags.png);
  const perMetre =
    png['Pixel Units']?.value === 1 ? pair(png, 'Pixels Per Unit X', 'Pixels Per Unit Y') : null;
  if (perMetre) return { x: perMetre.x * 0.0254, y: perMetre.y * 0.0254 };
  const jfif = group(tags.jfif);
  const exif = group(tags.exif);
  const rounded =
    jfif['Resolution Unit']?.value === 1 ? pair(jfif, 'XResolution', 'YResolution') : null;
  const exact = exif.ResolutionUnit?.value === 2 ? pair(exif, 'XResolution', 'YResolution') : null;
  // Two headers that contradict each other leave it to chance which one a printer believes.
  if (rounded && exact && Math.abs(rounded.x - exact.x) > 0.5) return null;
  return exact ?? rounded;
}

/** Length of the embedded ICC profile by its own header ('acsp' at byte 36); 0 where there is none. */
function profileBytes(head: Buffer): number {
  const at = head.indexOf('acsp');
  return at < 36 ? 0 : head.readUInt32BE(at - 36);
}

/**
 * What is wrong with a written file, in sentences; none where it prints at exactly the ordered
 * size. The written size is right within half a pixel plus what the format's tag can hold.
 */
export function complaints(found: ReadBack, expected: Expected, format: string): string[] {
  const wrong: string[] = [];
  if (found.width !== expected.size.width || found.height !== expected.size.height) {
    wrong.push(
      `It holds ${found.width} x ${found.height} pixels instead of ${expected.size.width} x ${expected.size.height}.`,
    );
  }
  const step = format === 'png' ? 0.0254 : format === 'jpeg' ? 0.001 : 0.0001;
  if (!found.ppi) wrong.push('It carries no resolution.');
  else if (
    Math.max(Math.abs(found.ppi.x - expected.ppi), Math.abs(found.ppi.y - expected.ppi)) >
    step / 2 + 1e-6
  ) {
    wrong.push(`It says ${found.ppi.x} ppi instead of ${expected.ppi}.`);
  }
  if (format !== 'png' && found.profileBytes !== expected.profileBytes) {
    wrong.push('Its colour profile is not the one that was carried over.');
  }
  return wrong;
}
