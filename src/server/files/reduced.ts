import { randomUUID } from 'node:crypto';
import { access, rename } from 'node:fs/promises';
import sharp from 'sharp';
import { levelSize } from '@/core/raster/tiles';
import type { StoredPage } from '../db/originals';
import { halvedPath } from './halved';
import { store } from './store';
import { decodedPath } from './take-in';

const making = new Map<string, Promise<string>>();

/**
 * Decoded pixels of an original, halved `level` times, for looking from afar; made when they are
 * first asked for.
 */
export function reducedPath(original: StoredPage, level: number): Promise<string> {
  const { digest, name, page } = original;
  if (level === 0) return decodedPath(digest, name, page);
  const path = halvedPath(store.raw(digest, page), level);
  const made = making.get(path) ?? make(original, level, path).finally(() => making.delete(path));
  making.set(path, made);
  return made;
}

async function make(original: StoredPage, level: number, path: string): Promise<string> {
  const there = await access(path).then(
    () => true,
    () => false,
  );
  if (there) return path;
  const { findings } = original;
  const { width, height } = levelSize(findings, level);
  const part = `${path}.${randomUUID()}.part.v`;
  await sharp(await decodedPath(original.digest, original.name, original.page), {
    limitInputPixels: false,
  })
    .resize(width, height, { fit: 'fill', kernel: 'cubic', fastShrinkOnLoad: false })
    .toColourspace(findings.bitDepth === 16 ? 'rgb16' : 'srgb')
    .toFile(part);
  await rename(part, path);
  return path;
}
