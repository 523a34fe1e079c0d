import { createHash, randomUUID } from 'node:crypto';
import { readFile, rename, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { maskFromBytes, type Mask } from '@/core/zone/mask';
import type { Painted } from '@/core/zone/zone';
import { Problem } from '../problem';
import { makeFolderOf } from './store';

const unpack = promisify(gunzip);
const pack = promisify(gzip);

const pathIn = (folder: string, { digest }: Painted): string =>
  join(folder, digest.slice(0, 2), `${digest}.gz`);

const bytesOf = ({ width, height }: Painted): number => 2 * width * height;

/**
 * Keeps a painted mask under its digest.
 * @param packed its bytes, ink then cover, as gzip
 * @throws Problem where they are not what their name says
 */
export async function keepMask(
  folder: string,
  painted: Painted,
  packed: Uint8Array,
): Promise<void> {
  const bytes = await unpack(packed, { maxOutputLength: bytesOf(painted) + 1 }).catch(() => null);
  if (!bytes || bytes.length !== bytesOf(painted)) {
    const { width, height } = painted;
    throw new Problem(
      'input',
      `What was painted does not fill ${width} x ${height} pixels. Nothing was kept; paint it again.`,
    );
  }
  if (createHash('sha256').update(bytes).digest('hex') !== painted.digest) {
    throw new Problem('input', 'What was painted did not arrive whole. Paint the stroke again.');
  }
  const path = await makeFolderOf(pathIn(folder, painted));
  if (await stat(path).catch(() => null)) return;
  const part = `${path}.${randomUUID()}.part`;
  await writeFile(part, await pack(bytes));
  await rename(part, path);
}

/**
 * A painted mask by its digest.
 * @throws Problem where it is not there or not whole
 */
export async function readMask(folder: string, painted: Painted): Promise<Mask> {
  const packed = await readFile(pathIn(folder, painted)).catch(() => null);
  if (!packed) throw new Problem('missing', 'What was painted on this zone is not here any more.');
  const bytes = await unpack(packed, { maxOutputLength: bytesOf(painted) + 1 }).catch(() => null);
  try {
    return maskFromBytes(new Uint8Array(bytes ?? []), painted);
  } catch {
    throw new Problem('work', 'What was painted on this zone is damaged. Paint it again.');
  }
}

/** The last few masks, for strips that need the same ones. */
export function masksFrom(folder: string): (painted: Painted) => Promise<Mask> {
  const recent = new Map<string, Promise<Mask>>();
  return (painted) => {
    const known = recent.get(painted.digest) ?? readMask(folder, painted);
    recent.delete(painted.digest);
    recent.set(painted.digest, known);
    known.catch(() => recent.delete(painted.digest));
    if (recent.size > 4) recent.delete(recent.keys().next().value!);
    return known;
  };
}
