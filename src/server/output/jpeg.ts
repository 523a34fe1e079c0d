import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { keptWhole } from '@/core/output/refusal';
import { besideOf, encodedWriter, fromPlain, lossyComplaint } from './encoded';
import type { ResultWriter, ToWrite } from './result-writer';
import type { SampleFile } from './samples';

/** Writes a JPEG; its pixels are compared on sampled places. */
export function jpegWriter(of: ToWrite): ResultWriter {
  const { quality } = of.recipe.output;
  return encodedWriter(of, {
    encode: async (plain, out) => {
      await writeJpegFile(plain, out, of);
      await addJfifHeader(out, of.recipe.target.ppi);
    },
    complaints: (rows, samples) => lossyComplaint(rows, samples, quality),
  });
}

/** Encodes plain samples as a JPEG as the order says. */
export async function writeJpegFile(plain: SampleFile, out: string, of: ToWrite): Promise<void> {
  const { quality, sampling, progressive } = of.recipe.output;
  const { within, size } = plain;
  const whole = fromPlain(plain, of);
  const part = within ? whole.extract({ left: within.x, top: within.y, ...size }) : whole;
  await part
    // Codes that fit the picture take it whole in memory.
    .jpeg({
      ...{ quality, chromaSubsampling: sampling, progressive },
      optimiseCoding: keptWhole(of.recipe.output, plain.size),
    })
    .toFile(out);
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
