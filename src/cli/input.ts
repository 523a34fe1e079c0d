import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import type { Findings } from '@/core/inspect/findings';
import { decodePicture, endPictureProcesses } from '@/server/codecs/pictures';
import { Problem } from '@/server/problem';
import { endThreads } from '@/server/render/threads';

/** A page of a file, decoded. */
export interface Input {
  file: string;
  name: string;
  findings: Findings;
  profile: Uint8Array | null;
  /** its pixels; shapes have none */
  raw: string;
  /** for whatever else the work needs; gone afterwards */
  folder: string;
}

interface Reading {
  page: number;
  /** only its pixels are wanted */
  pixelsOnly?: boolean;
}

/** Decodes a page of a file into a folder of its own that is gone afterwards. */
export async function withInput<T>(
  path: string,
  { page, pixelsOnly = false }: Reading,
  work: (input: Input) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'lontano-'));
  const file = resolve(path);
  const name = basename(path);
  try {
    await stat(file).catch(() => {
      throw new Problem('input', `There is no file ${path}.`);
    });
    const raw = join(folder, 'original.raw');
    const { findings, profile } = await decodePicture({
      ...{ file, name, page, raw, thumbnail: null },
      ...(pixelsOnly && { pixelsOnly }),
    });
    return await work({ file, name, findings, profile, raw, folder });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Ends the threads and processes that commands work with. */
export async function endWorking(): Promise<void> {
  await Promise.all([endThreads(), endPictureProcesses()]);
}

/** The same for a command that works on one file alone. */
export async function withDecoded(
  path: string,
  page: number,
  work: (input: Input) => Promise<void>,
): Promise<void> {
  try {
    await withInput(path, { page }, work);
  } finally {
    await endWorking();
  }
}
