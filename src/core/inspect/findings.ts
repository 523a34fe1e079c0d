import { z } from 'zod';
import { JpegFacts } from './jpeg';

/** What the application found out about an original when it was taken in. */
export const Findings = z.object({
  width: z.int().positive(),
  height: z.int().positive(),
  megapixels: z.number(),
  bytes: z.int(),
  /** jpeg, png … as the file's content says, whatever its name ends in */
  format: z.string(),
  /** resolution tag in pixels per inch, or null where the file carries none */
  ppi: z.object({ x: z.number(), y: z.number() }).nullable(),
  bitDepth: z.union([z.literal(8), z.literal(16)]),
  channels: z.int(),
  alpha: z.boolean(),
  /** the embedded profile's name, or null where the file carries none */
  profile: z.string().nullable(),
  /** EXIF orientation, 1 where there is none */
  orientation: z.int().min(1).max(8),
  jpeg: JpegFacts.nullable(),
  blocking: z.object({ ratio: z.number() }),
  /** what was done to the pixels on the way in, in sentences */
  notes: z.array(z.string()),
});
export type Findings = z.infer<typeof Findings>;

/** Blocking in a word, for a line of figures. */
export function blockingWord(findings: Findings): string {
  const { ratio } = findings.blocking;
  return ratio < 1.08
    ? 'no blocks'
    : ratio < 1.3
      ? 'slight blocks'
      : ratio < 1.8
        ? 'blocky'
        : 'very blocky';
}

/** How the file was compressed, in a few words. */
export function compressionWords(findings: Findings): string {
  const { jpeg, format } = findings;
  if (!jpeg) return format.toUpperCase();
  return jpeg.quality === null ? 'JPEG, own tables' : `JPEG ${jpeg.quality}`;
}

/** Chroma subsampling in the usual notation. */
export function subsampling(jpeg: JpegFacts): string {
  if (!jpeg.chroma) return 'grey';
  const across = 4 / jpeg.samplingX;
  return `4:${across}:${jpeg.samplingY === 1 ? across : 0}`;
}
