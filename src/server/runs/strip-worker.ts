import { open } from 'node:fs/promises';
import type { Region } from '@/core/raster/region';
import { toSamples } from '@/core/raster/samples';
import { Kept } from '@/core/treatment/kept';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { render } from '@/core/treatment/render';
import { openRaw } from '../codecs/raw';

/** One strip of a result: computed in a thread of the pool and written in its place. */
export interface StripTask {
  raw: string;
  out: string;
  recipe: SettledRecipe;
  strip: Region;
  /** byte offset of the strip in the file */
  offset: number;
}

/** Cleaned parts of the original that neighbouring strips share. */
const kept = new Kept(24 << 20);

export default async function renderStrip(task: StripTask): Promise<void> {
  const source = await openRaw(task.raw);
  try {
    const raster = await render(source, task.recipe, { kept }).read(task.strip);
    const samples = toSamples(raster, task.recipe.output.depth);
    const bytes = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength);
    const file = await open(task.out, 'r+');
    try {
      for (let at = 0; at < bytes.length;) {
        at += (await file.write(bytes, at, bytes.length - at, task.offset + at)).bytesWritten;
      }
    } finally {
      await file.close();
    }
  } finally {
    await source.close();
  }
}
