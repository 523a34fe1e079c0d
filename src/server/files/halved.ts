import { rm } from 'node:fs/promises';
import { LEVELS } from '@/core/raster/tiles';

/** Where the copy of decoded pixels lies that was halved `level` times. */
export const halvedPath = (raw: string, level: number): string => `${raw}.${level}`;

/** Removes the halved copies of a page, for when its pixels are decoded anew. */
export async function forgetReduced(raw: string): Promise<void> {
  const copies = Array.from({ length: LEVELS }, (_, i) => halvedPath(raw, i + 1));
  await Promise.all(copies.map((copy) => rm(copy, { force: true })));
}
