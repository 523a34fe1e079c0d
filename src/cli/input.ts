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

/** Decodes a page of a file into a folder of its own that is gone afterwards. */
export async function withDecoded(
  path: string,
  page: number,
  work: (input: Input) => Promise<void>,
): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'lontano-'));
  const file = resolve(path);
  const name = basename(path);
  try {
    await stat(file).catch(() => {
      throw new Problem('input', `There is no file ${path}.`);
    });
    const raw = join(folder, 'original.raw');
    const { findings, profile } = await decodePicture({ file, name, page, raw, thumbnail: null });
    await work({ file, name, findings, profile, raw, folder });
  } finally {
    await Promise.all([endThreads(), endPictureProcesses()]);
    await rm(folder, { recursive: true, force: true });
  }
}
