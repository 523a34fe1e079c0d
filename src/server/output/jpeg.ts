import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { besideOf, encodedWriter, fromPlain } from './encoded';
import { lossyDifference, mostDifference } from './pixels';
import type { ResultWriter, ToWrite } from './result-writer';

/** From this quality on colours are sampled as finely as light: the file is as good as it can be. */
const FULL_COLOUR = 90;

/** Writes a JPEG; its pixels are compared on sampled places. */
export function jpegWriter(of: ToWrite): ResultWriter {
  const { output, target } = of.recipe;
  return encodedWriter(of, {
    encode: async (plain, out) => {
      const chromaSubsampling = output.quality >= FULL_COLOUR ? '4:4:4' : '4:2:0';
      await fromPlain(plain, target.ppi)
        .jpeg({ quality: output.quality, chromaSubsampling })
        .toFile(out);
      await addJfifHeader(out, target.ppi);
    },
    complaints: async (rows, samples) => {
      const difference = await lossyDifference(rows, samples);
      return difference <= mostDifference(output.quality)
        ? []
        : [`Its pixels are off what was computed by ${difference.toFixed(1)} levels.`];
    },
  });
}

/**
 * sharp gives a JPEG's resolution in EXIF alone; many programs look in the JFIF header first.
 * Writes the file once more with that header in front (JFIF 1.02).
 */
async function addJfifHeader(path: string, ppi: number): Promise<void> {
  const density = Math.min(65_535, Math.max(1, Math.round(ppi)));
  const header = Buffer.from([
    0xff, 0xd8, 0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 2, 1, 0, 0, 0, 0, 0, 0,
  ]);
  header.writeUInt16BE(density, 14);
  header.writeUInt16BE(density, 16);
  const beside = besideOf(path);
  const target = await open(beside, 'w');
  await target.write(header);
  await target.close();
  await pipeline(createReadStream(path, { start: 2 }), createWriteStream(beside, { flags: 'a' }));
  await rename(beside, path);
}
