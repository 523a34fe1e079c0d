import { createReadStream, type ReadStream } from 'node:fs';

/** Bytes that are read at a time: files of gigabytes in small pieces are handed on more than they are read. */
const PIECE_BYTES = 1 << 20;

/** A large file's bytes, to be sent or packed. */
export const readStream = (path: string): ReadStream =>
  createReadStream(path, { highWaterMark: PIECE_BYTES });
