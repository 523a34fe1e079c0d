import { open } from 'node:fs/promises';
import { emptyRaster } from '@/core/raster/raster';
import { whole, type Region } from '@/core/raster/region';
import { toSamples } from '@/core/raster/samples';
import { ModelProblem } from '@/core/learned/network';
import { enlarge } from '@/core/steps/enlarge/enlarge';
import { Kept } from '@/core/treatment/kept';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { render } from '@/core/treatment/render';
import type { MaskReader } from '@/core/zone/render-zone';
import { networksFrom } from '@/core/learned/networks';
import { masksFrom } from '../files/masks';
import { modelBytes } from '../files/models';
import { Problem } from '../problem';
import { openAllBegun, writeBegun, type BegunFile } from './begun-file';
import { openRaw } from '../codecs/raw';

/** What both kinds of work of a run's threads need. */
interface Task {
  raw: string;
  out: string;
  recipe: SettledRecipe;
  /** folder of painted masks */
  masks: string;
  /** what was made of the picture already */
  begun: BegunFile[];
}

/** One block of a begun picture, which is computed before any strip. */
export interface BlockTask extends Task {
  layout: BegunFile['layout'];
  block: Region;
  index: number;
}

/** One strip of a result: computed in a thread of the pool and written in its place. */
export interface StripTask extends Task {
  strip: Region;
  /** byte offset of the strip in the file */
  offset: number;
}

/** Asks a thread to start, and to have its kernels compiled before somebody waits for them. */
export interface WarmTask {
  warm: true;
}

/** Parts of zones and of steps that neighbouring strips share. */
const kept = new Kept(48 << 20);

/** How often it is done. */
const WARM_TIMES = 12;

const network = networksFrom(modelBytes);
const masksIn = new Map<string, MaskReader>();

function masksOf(folder: string): MaskReader {
  const known = masksIn.get(folder) ?? masksFrom(folder);
  masksIn.set(folder, known);
  return known;
}

/** @returns trouble that a person can do something about, in words, or null */
export default async function work(task: BlockTask | StripTask | WarmTask): Promise<string | null> {
  try {
    if ('warm' in task) warmUp();
    else await ('strip' in task ? writeStrip(task) : writeBlock(task));
    return null;
  } catch (error) {
    // An error that crosses threads forgets what it was.
    if (error instanceof Problem || error instanceof ModelProblem) return error.message;
    throw error;
  }
}

/** Enlarges nothing to speak of a few times, until the engine has optimised what most runs do. */
function warmUp(): void {
  const from = { width: 128, height: 32 };
  const to = { width: 2048, height: 512 };
  const raster = emptyRaster(from.width, from.height, 3);
  const upright = { turn: 0, straighten: 0, light: 'gamma', limit: 0, step: 10 } as const;
  const numbers = { ...upright, method: 'lanczos3', source: whole(from), ...to } as const;
  for (let i = 0; i < WARM_TIMES; i++) {
    const result = enlarge.apply({ region: whole(from), raster }, numbers, whole(to), { from, to });
    toSamples(result, 8);
  }
}

async function writeBlock(task: BlockTask) {
  const { raw, out, recipe, layout, block, index } = task;
  const source = await openRaw(raw);
  try {
    const before = { ...recipe, steps: layout.steps };
    const picture = render(source, before, toolsFor(task));
    await writeBegun(out, layout, index, await picture.read(block));
  } finally {
    await source.close();
  }
}

/** Begun pictures of the last run, which hold what was read of them. */
let opened: { key: string; begun: ReturnType<typeof openAllBegun> } | undefined;

function toolsFor({ masks, begun }: Task) {
  const key = begun.map(({ path }) => path).join('|');
  if (opened?.key !== key) opened = { key, begun: openAllBegun(begun) };
  return { network, masks: masksOf(masks), begun: opened.begun };
}

async function writeStrip(task: StripTask): Promise<void> {
  const source = await openRaw(task.raw);
  try {
    const tools = { kept, ...toolsFor(task) };
    const raster = await render(source, task.recipe, tools).read(task.strip);
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
