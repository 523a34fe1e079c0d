import { basename } from 'node:path';
import type { Findings, Maps } from '@/core/inspect/findings';
import type { Turn } from '../sandbox/limits';

/** What to decode, and where to. */
export interface DecodeTask {
  file: string;
  /** what to call the file in sentences */
  name: string;
  /** counted from 1 */
  page: number;
  /** where the decoded pixels go; shapes leave none */
  raw: string;
  /** where a small picture for the board goes, or null */
  thumbnail: string | null;
  /** the most pixels that are taken in, where that is fewer than the server's configuration allows */
  mostPixels?: number;
  /** only its pixels are wanted: what it suffers from is not looked for, and reads as nothing */
  pixelsOnly?: true;
}

/** The task of decoding a file's first page, without a thumbnail. */
export const decodeTask = (file: string, raw: string, name = basename(file)): DecodeTask => ({
  file,
  name,
  page: 1,
  raw,
  thumbnail: null,
});

/** A page of an original that was decoded to raw pixels. */
export interface Decoded {
  findings: Findings;
  maps: Maps | null;
  /** the embedded RGB profile, carried to the output untouched; null where there is none */
  profile: Uint8Array | null;
}

/** Thrown where a file needs more than it was given, before it is tried. */
export class NeedsTurn extends Error {
  constructor(readonly turn: Turn) {
    super(`needs a ${turn} turn`);
  }
}
