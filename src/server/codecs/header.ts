import { open } from 'node:fs/promises';
import { errorCode, Problem } from '../problem';

/** Enough of a file to hold its header with embedded profiles and previews. */
const HEADER_BYTES = 4 << 20;

/**
 * The beginning of a file.
 * @throws Problem where it can't be read
 */
export async function readHeader(
  file: string,
  name: string,
  bytes = HEADER_BYTES,
): Promise<Uint8Array> {
  const handle = await open(file, 'r').catch((error: unknown) => {
    throw errorCode(error) === 'ENOENT'
      ? new Problem('input', `There is no file ${name}.`)
      : new Problem('input', `${name} can't be opened for reading.`);
  });
  try {
    const buffer = Buffer.alloc(Math.min(bytes, (await handle.stat()).size));
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
