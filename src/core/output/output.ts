import { z } from 'zod';
import { Conversion } from '../colour/conversion';
import type { DeviceSpace } from '../colour/space';
import type { Size } from '../raster/region';
import { Compression, Format, formatOf, packingsOf, type Packing } from './formats';
import { Marks, NO_MARKS } from './marks';
import { Panels } from './panels';
import { say } from '../words/say';

/** How the result is written. What a format doesn't have is kept for when another one is chosen. */
export const Output = z.object({
  format: Format,
  compression: Compression,
  /** quality of a lossy file, 1–100; the others keep every bit */
  quality: z.int().min(1).max(100),
  /** colours of a JPEG as fine as its light, or half as fine */
  sampling: z.enum(['4:4:4', '4:2:0']).default('4:4:4'),
  /** a JPEG that comes in passes, from coarse to fine */
  progressive: z.boolean().default(false),
  /** bits a sample, as far as the format holds them */
  depth: z.union([z.literal(8), z.literal(16)]),
  /** whether what is finer than 8 bits is dithered when it is written at 8: by itself where the original has 16 */
  dither: z.enum(['auto', 'always', 'never']).default('auto'),
  /** transparency: kept where the format holds it, or laid on the paper's colour */
  alpha: z.enum(['keep', 'paper']).default('paper'),
  /** who made the original with what and when: kept, or dropped */
  exif: z.enum(['keep', 'drop']).default('keep'),
  /** the profile that its colours are converted to; null leaves them in the original's */
  colour: Conversion.nullable().default(null),
  /** the profile that a file gets whose original has none */
  untagged: z.enum(['srgb', 'none']).default('srgb'),
  /** what a PDF shows about its picture */
  marks: Marks.default(NO_MARKS),
  /** how a PDF is cut into pages that are joined again; null where it is one */
  panels: Panels.nullable().default(null),
});
export type Output = z.infer<typeof Output>;

/** An output before anything but its format and depth is decided. */
export const usualOutput = (format: Format, depth: Output['depth']): Output =>
  inFormat(
    {
      ...{ format, compression: 'none', quality: formatOf(format).quality.usual, depth },
      ...{ sampling: '4:4:4', progressive: false, dither: 'auto', alpha: 'paper' },
      ...{ colour: null, exif: 'keep', untagged: 'srgb', marks: NO_MARKS, panels: null },
    },
    format,
  );

/** An output in another format: what that one can't hold is as near as it can be. */
export function inFormat(output: Output, format: Format): Output {
  const known = packingsOf(format);
  const compression = known.includes(output.compression) ? output.compression : known[0]!;
  return packedBy({ ...output, format }, compression);
}

/** An output packed in another way. */
export function packedBy(output: Output, compression: Compression): Output {
  const { depths } = formatOf(output.format).packings[compression]!;
  const depth = depths.includes(output.depth) ? output.depth : depths[0];
  return { ...output, compression, depth };
}

/** How an output packs its samples. */
export const packingOf = ({
  format,
  compression,
}: Pick<Output, 'format' | 'compression'>): Packing =>
  formatOf(format).packings[compression] ?? formatOf(format).packings[packingsOf(format)[0]!]!;

/** Whether a file loses something of its samples. */
export const isLossy = ({ compression }: Pick<Output, 'compression'>): boolean =>
  compression === 'lossy';

/** What the colours of a file are. */
export const spaceOf = ({ colour }: Pick<Output, 'colour'>): DeviceSpace => colour?.space ?? 'rgb';

/** The panels that a result is cut into; null where it is in one piece, as where its format has no pages for them. */
export const panelsOf = ({ format, panels }: Pick<Output, 'format' | 'panels'>): Panels | null =>
  panels && (panels.as === 'files' || format === 'pdf') ? panels : null;

/** Whether a result is an archive of files rather than one. */
export const isArchive = (output: Pick<Output, 'format' | 'panels'>): boolean =>
  panelsOf(output)?.as === 'files';

/** What a result's file ends in. */
export const endingsOf = (
  output: Pick<Output, 'format' | 'panels'>,
): readonly [string, ...string[]] =>
  isArchive(output) ? ['zip'] : formatOf(output.format).endings;

/** Whether the file keeps what is transparent: on paper of other colours than a screen's nothing is. */
export const keepsAlpha = (output: Output): boolean =>
  output.alpha === 'keep' && formatOf(output.format).alpha && spaceOf(output) === 'rgb';

/** An output in a few words: TIFF 16 bit, JPEG 95. */
export function outputWords(output: Output): string {
  const name = `${formatOf(output.format).name}${isArchive(output) ? say` panels` : ''}`;
  return isLossy(output) ? `${name} ${output.quality}` : `${name} ${output.depth} bit`;
}

/** About how large a file will be, in bytes; at its usual quality better than far from it. */
export function estimatedBytes(
  { width, height }: Size,
  output: Pick<Output, 'format' | 'compression' | 'depth' | 'quality'>,
): number {
  const { usual } = formatOf(output.format).quality;
  const lossy = isLossy(output) ? Math.max(0.2, (output.quality / usual) ** 3) : 1;
  return width * height * packingOf(output).pixelBytes * (output.depth / 8) * lossy;
}
