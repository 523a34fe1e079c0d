import { readSync, writeSync } from 'node:fs';

/**
 * Writes all bytes at a place of an open file, however little the system takes at a time.
 * @throws Error where it takes none, as on a full disk
 */
export function writeWhole(file: number, bytes: Uint8Array, at: number): void {
  for (let done = 0; done < bytes.length;) {
    const written = writeSync(file, bytes, done, bytes.length - done, at + done);
    if (written === 0) throw new Error('ENOSPC: nothing more could be written');
    done += written;
  }
}

/**
 * Fills a buffer from a place of an open file.
 * @throws Error where the file ends before
 */
export function readWhole(file: number, into: Uint8Array, at: number): void {
  for (let done = 0; done < into.length;) {
    const read = readSync(file, into, done, into.length - done, at + done);
    if (read === 0) throw new Error('the file ends too soon');
    done += read;
  }
}
