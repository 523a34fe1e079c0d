import { open, rename, rm } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import Piscina from 'piscina';
import { strips } from '@/core/raster/region';
import { effortOf } from '@/core/treatment/effort';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { encodeFromTiff } from '../codecs/encode';
import { complaints, readBack, type ReadBack } from '../codecs/read-back';
import { drawToFile } from '../codecs/pictures';
import { drawingOf } from '../codecs/shapes/drawing';
import { layOutTiff } from '../codecs/tiff-writer';
import { store } from '../files/store';
import { openRaw } from '../codecs/raw';
import { config } from '../config';
import { Problem } from '../problem';
import { begunBlocks, begunBytes, begunPictures, type BegunFile } from './begun-file';
import { refuseFullDisk, refuseTooLarge } from './limits';
import type { BlockTask, StripTask, WarmTask } from './strip-worker';

export interface RenderJob {
  original: {
    file: string;
    name: string;
    /** where its decoded pixels are; not asked for where it is drawn from shapes */
    raw: () => Promise<string>;
  };
  recipe: SettledRecipe;
  /** folder of painted masks, where it isn't the shop's own */
  masks?: string;
  /** the profile that the result carries, or null */
  profile: Uint8Array | null;
  out: string;
  /** share of the work that is done, 0–1 */
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
}

export interface Rendered {
  seconds: number;
  readBack: ReadBack;
}

/** Samples of one strip as floats: bounds what a thread holds, whatever the width. */
const STRIP_BYTES = 6 << 20;

/** Rows of a strip for a result of this width. */
export const stripRows = (width: number): number =>
  Math.max(8, Math.min(256, Math.floor(STRIP_BYTES / (width * 3 * 4))));

type Task = BlockTask | StripTask | WarmTask;
let pool: Piscina<Task, string | null> | undefined;

function threads(): Piscina<Task, string | null> {
  pool ??= new Piscina<Task, string | null>({
    filename: fileURLToPath(new URL('./strip-worker.ts', import.meta.url)),
    execArgv: ['--import', 'tsx'],
    minThreads: config().threads ?? availableParallelism(),
    maxThreads: config().threads ?? availableParallelism(),
  });
  return pool;
}

/** Starts the rendering threads, so that the first run is as quick as the tenth. */
export async function startThreads(): Promise<void> {
  const { maxThreads } = threads();
  await Promise.all(Array.from({ length: maxThreads }, () => threads().run({ warm: true })));
}

/** New threads for the old ones, once they have nothing to do. */
export async function renewThreads(): Promise<void> {
  await endThreads();
  await startThreads();
}

/** Ends the rendering threads; a later render starts new ones. */
export async function endThreads(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}

/**
 * Renders a settled recipe to a file, strip by strip with bounded memory, on all threads. The file
 * is written beside its place, read back, and only then renamed: `out` is whole or not there.
 * @throws Problem where the disk or the format can't hold it; the signal's reason where aborted
 */
export async function renderFile(job: RenderJob): Promise<Rendered> {
  const started = performance.now();
  const { recipe, out } = job;
  const tiff = `${out}.part.tif`;
  const encoded = `${out}.part`;
  const drawing = `${out}.part.drawn`;
  const begunPath = (i: number) => `${out}.part.begun${i}`;
  let made = 0;
  try {
    const shapes = recipe.original.drawn !== null;
    const raw = shapes ? drawing : await job.original.raw();
    if (shapes) {
      const { file, name } = job.original;
      const report = (share: number) => job.onProgress?.(share * sharesOf(recipe).before);
      await drawToFile(drawingOf(recipe, file, name), raw, report, job.signal);
    }
    const begun = await writeBegunFiles(job, raw, () => begunPath(made++));
    await writeTiff(job, raw, tiff, begun);
    let finished = tiff;
    if (recipe.output.format !== 'tiff') {
      await encodeFromTiff(tiff, encoded, recipe.output, recipe.target.ppi);
      finished = encoded;
    }
    job.signal?.throwIfAborted();
    const found = await readBack(finished);
    const wrong = complaints(
      found,
      { size: recipe.target, ppi: recipe.target.ppi, profileBytes: job.profile?.length ?? 0 },
      recipe.output.format,
    );
    if (wrong.length > 0) {
      throw new Problem('work', `The written file did not pass its check. ${wrong.join(' ')}`);
    }
    await rename(finished, out);
    job.onProgress?.(1);
    return { seconds: (performance.now() - started) / 1000, readBack: found };
  } finally {
    await Promise.all([
      rm(drawing, { force: true }),
      ...Array.from({ length: made }, (_, i) => rm(begunPath(i), { force: true })),
      rm(tiff, { force: true }),
      rm(encoded, { force: true }),
      rm(`${encoded}.jfif`, { force: true }),
    ]);
  }
}

/** How a run's time is shared out between its parts, for its progress. */
function sharesOf(recipe: SettledRecipe): { before: number; encoding: number } {
  const { beginning, strips, encoding } = effortOf(recipe);
  const all = beginning + strips + encoding;
  return { before: beginning / all, encoding: encoding / all };
}

/** Runs tasks on all threads, in their order; the first trouble ends them. */
async function inLanes(
  count: number,
  task: (index: number) => BlockTask | StripTask,
  onDone: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> {
  let next = 0;
  let done = 0;
  const lane = async (): Promise<void> => {
    while (next < count) {
      signal?.throwIfAborted();
      // Cancelling ends the thread in the middle of its work; the pool starts another.
      const trouble = await threads().run(task(next++), signal ? { signal } : {});
      if (trouble) throw new Problem('work', trouble);
      done++;
      onDone(done / count);
    }
  };
  const outcomes = await Promise.allSettled(Array.from({ length: threads().maxThreads }, lane));
  signal?.throwIfAborted();
  const failed = outcomes.find((outcome) => outcome.status === 'rejected');
  if (failed) throw failed.reason;
}

/**
 * Computes what is done at the original's size, once for all strips, one begun picture from the other.
 * @returns all of them, in their order
 */
async function writeBegunFiles(
  { recipe, masks = store.masks(), onProgress, signal, out }: RenderJob,
  raw: string,
  nextPath: () => string,
): Promise<BegunFile[]> {
  const source = await openRaw(raw);
  const channels = recipe.alpha === 'kept' ? source.channels : 3;
  await source.close();
  const layouts = begunPictures(recipe, channels);
  const share = sharesOf(recipe).before;
  const begun: BegunFile[] = [];
  for (const [i, layout] of layouts.entries()) {
    const path = nextPath();
    await refuseFullDisk(out, begunBytes(layout));
    await (await open(path, 'w')).close();
    const blocks = begunBlocks(layout);
    const before = [...begun];
    await inLanes(
      blocks.length,
      (index) => ({
        ...{ raw, out: path, recipe, masks, begun: before, layout },
        ...{ block: blocks[index]!, index },
      }),
      (part) => onProgress?.(((i + part) / layouts.length) * share),
      signal,
    );
    begun.push({ path, layout });
  }
  return begun;
}

async function writeTiff(
  job: RenderJob,
  raw: string,
  path: string,
  begun: BegunFile[],
): Promise<void> {
  const { recipe, profile, signal } = job;
  const { width, height, ppi } = recipe.target;
  const rowsPerStrip = stripRows(width);
  const layout = layOutTiff({
    size: { width, height },
    depth: recipe.output.depth,
    channels: recipe.alpha === 'kept' ? 4 : 3,
    ppi,
    profile,
    rowsPerStrip,
  });
  await refuseTooLarge(recipe, job.out, layout.bytes);

  const file = await open(path, 'w');
  try {
    await file.write(layout.header, 0, layout.header.length, 0);
    await file.truncate(layout.bytes);
  } finally {
    await file.close();
  }

  const regions = strips({ width, height }, rowsPerStrip);
  const { before, encoding } = sharesOf(recipe);
  const masks = job.masks ?? store.masks();
  await inLanes(
    regions.length,
    (index) => ({
      ...{ raw, out: path, recipe, masks, begun },
      strip: regions[index]!,
      offset: layout.offsets[index]!,
    }),
    (share) => job.onProgress?.(before + (1 - before - encoding) * share),
    signal,
  );
}
