import { open, readFile } from 'node:fs/promises';
import { errorCode, Problem } from '../problem';
import { decodePixels } from './decode-pixels';
import type { Decoded, DecodeTask } from './decoded';
import { formatOf } from './format';
import { decodeShapes } from './shapes/decode-shapes';

/** Enough of a file to hold its header with embedded profiles and previews. */
const HEADER_BYTES = 4 << 20;
/**
 * Reads a page of a picture file and leaves its pixels, upright and in RGB (with alpha where there
 * is one), in the file `raw`. RGB stays in its own profile; other colour systems become sRGB, and
 * the findings say so.
 * @throws Problem where the file can't be used
 */
export async function decode(task: DecodeTask): Promise<Decoded> {
  const header = await readHeader(task.file, task.name);
  const format = formatOf(header, task.name);
  if (format === 'svg' || format === 'pdf') {
    const bytes = await readFile(task.file);
    return decodeShapes(bytes, format, task);
  }
  return decodePixels(task.file, header, format, task);
}

async function readHeader(file: string, name: string): Promise<Uint8Array> {
  const handle = await open(file, 'r').catch((error: unknown) => {
    throw errorCode(error) === 'ENOENT'
      ? new Problem('input', `There is no file ${name}.`)
      : new Problem('input', `${name} can't be opened for reading.`);
  });
  try {
    const buffer = Buffer.alloc(Math.min(HEADER_BYTES, (await handle.stat()).size));
    await handle.read(buffer, 0, buffer.length, 0);
    return buffer;
  } catch (error) {
    if (errorCode(error) === 'EISDIR')
      throw new Problem('input', `${name} is a folder, not a file.`);
    throw error;
  } finally {
    await handle.close();
  }
}
