import { readFile } from 'node:fs/promises';
import type { Limits } from '../sandbox/limits';
import { decodePixels } from './decode-pixels';
import type { Decoded, DecodeTask } from './decoded';
import { formatOf } from './format';
import { readHeader } from './header';
import { decodeShapes } from './shapes/decode-shapes';

/**
 * Reads a page of a picture file and leaves its pixels, upright and in RGB (with alpha where there
 * is one), in the file `raw`. RGB stays in its own profile; other colour systems become sRGB, and
 * the findings say so.
 * @param limits what it may use; any amount unless it is given
 * @throws Problem where the file can't be used; NeedsTurn where it needs more than the limits
 */
export async function decode(task: DecodeTask, limits?: Limits): Promise<Decoded> {
  const header = await readHeader(task.file, task.name);
  const format = formatOf(header, task.name);
  if (format === 'svg' || format === 'pdf') {
    const bytes = await readFile(task.file);
    return decodeShapes(bytes, format, task);
  }
  return decodePixels(task.file, header, format, task, { limits });
}
