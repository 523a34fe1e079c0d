import { access } from 'node:fs/promises';
import { levelSize } from '@/core/raster/tiles';
import { halvePicture } from '../codecs/pictures';
import type { StoredPage } from '../db/originals';
import { halvedPath } from './halved';
import { Problem } from '../problem';
import { noteUse } from './room';
import { store } from './store';
import { decodedPath } from './take-in';

const making = new Map<string, Promise<string>>();

/**
 * Decoded pixels of an original, halved `level` times, for looking from afar; made when they are
 * first asked for.
 * @throws Problem of a page of shapes
 */
export async function reducedPath(original: StoredPage, level: number): Promise<string> {
  const { digest, name, page, findings } = original;
  if (findings.vector) {
    throw new Problem('missing', `${name} is shapes: it is drawn, and has no pixels of its own.`);
  }
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
  if (there) {
    await noteUse(path);
    return path;
  }
  const { findings } = original;
  await halvePicture({
    raw: await decodedPath(original.digest, original.name, original.page),
    out: path,
    size: levelSize(findings, level),
    depth: findings.bitDepth,
  });
  return path;
}
