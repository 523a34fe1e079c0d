import { writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import { Problem } from '../../problem';
import { openDocument } from './open-shapes';
import type { Samples } from './pdfium';

/** A picture to be taken out of a page of shapes, and where to. */
export interface TakeOutTask {
  file: string;
  name: string;
  page: number;
  /** its number among the page's pictures, from 1 */
  picture: number;
  out: string;
}

/**
 * Takes a picture out of a page of shapes, as a file of its own: byte for byte as it is stored there, where that is
 * what the page shows; otherwise what the page shows, pixel by pixel.
 * @throws Problem where it can't be had
 */
export async function takeOut({ file, name, page, picture, out }: TakeOutTask): Promise<void> {
  const document = await openDocument(file, name);
  if ('svg' in document) {
    const { file: stored, ...shown } = await document.svg.picture(picture);
    const faithful = await shows(stored, shown);
    return writeFile(out, faithful ? stored : await asTiff(shown));
  }
  const shown = document.pdf.picture(page, picture);
  if (!shown) {
    throw new Problem('input', `Picture ${picture} of ${name} can't be taken out of its page.`);
  }
  const { jpeg } = shown;
  const faithful = jpeg && shown.channels !== 4 && (await shows(jpeg, shown));
  return writeFile(out, faithful ? jpeg : await asTiff(shown));
}

/** Levels on the mean that decoders may differ by. */
const ALIKE = 1.5;
/** Every so many samples are compared; no power of two, so that no pattern hides. */
const STRIDE = 7;

/** Whether a file's pixels are what is shown. */
async function shows(file: Uint8Array, { size, channels, samples }: Samples): Promise<boolean> {
  try {
    const { data, info } = await sharp(file, { limitInputPixels: false, ignoreIcc: true })
      .autoOrient()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    if (info.width !== size.width || info.height !== size.height) return false;
    let sum = 0;
    let count = 0;
    for (let i = 0; i < size.width * size.height; i += STRIDE) {
      const alpha = channels === 4 ? samples[4 * i + 3]! : 255;
      sum += Math.abs(data[4 * i + 3]! - alpha);
      for (let c = 0; c < 3; c++) {
        const value = samples[channels * i + (channels === 1 ? 0 : c)]!;
        sum += (Math.abs(data[4 * i + c]! - value) * alpha) / 255;
      }
      count += 4;
    }
    return sum / count < ALIKE;
  } catch {
    // What sharp can't read is taken as it shows.
    return false;
  }
}

/** Samples as an uncompressed TIFF. */
export const asTiff = ({ size, channels, samples }: Samples): Promise<Buffer> =>
  sharp(samples, { raw: { ...size, channels }, limitInputPixels: false })
    .tiff({ compression: 'none' })
    .toBuffer();
