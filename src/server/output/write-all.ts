import type { FileHandle } from 'node:fs/promises';

/**
 * Writes all bytes at a place of an open file, however little the system takes at a time, while others get their turn.
 * @throws Error where it takes none, as on a full disk
 */
export async function writeAll(file: FileHandle, bytes: Uint8Array, at: number): Promise<void> {
  for (let done = 0; done < bytes.length;) {
    const { bytesWritten } = await file.write(bytes, done, bytes.length - done, at + done);
    if (bytesWritten === 0) throw new Error('ENOSPC: nothing more could be written');
    done += bytesWritten;
  }
}
