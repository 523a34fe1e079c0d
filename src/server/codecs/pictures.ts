import Piscina from 'piscina';
import type { Region } from '@/core/raster/region';
import { Problem } from '../problem';
import { entryOf } from '../entry';
import type { Decoded, DecodeTask } from './decoded';
import type { Answer, PictureTask } from './picture-worker';
import { bandsOf, layOutDrawing, type Drawing } from './shapes/drawing';

/** A file that keeps a thread busy for longer is not worth waiting for. */
const PATIENCE_MS = 90_000;
/** Memory of a thread's own objects, in megabytes; pixels lie outside. */
const HEAP_MB = 1500;

// Next loads route handlers in separate bundles; they share the threads through the process.
const shared = globalThis as { lontanoPictures?: Piscina<PictureTask, Answer> };

/** Threads that look at files, so that a hostile or heavy one never holds up the server. */
function threads(): Piscina<PictureTask, Answer> {
  if (shared.lontanoPictures) return shared.lontanoPictures;
  const { file, execArgv } = entryOf('server/codecs/picture-worker');
  shared.lontanoPictures = new Piscina<PictureTask, Answer>({
    filename: file,
    execArgv,
    minThreads: 1,
    maxThreads: 2,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
  });
  return shared.lontanoPictures;
}

/** Starts the threads, so that the first file doesn't wait for them. */
export const warmPictureThreads = (): void => void threads();

/** Ends the threads; a later task starts new ones. */
export async function endPictureThreads(): Promise<void> {
  await shared.lontanoPictures?.destroy();
  shared.lontanoPictures = undefined;
}

async function answer<T>(task: PictureTask, name: string): Promise<T> {
  const patience = AbortSignal.timeout(PATIENCE_MS);
  const got = await threads()
    .run(task, { signal: patience })
    .catch((error: unknown) => {
      if (patience.aborted) {
        throw new Problem(
          'input',
          `${name} takes too long to be read and was given up. Ask for it in a simpler form, best as TIFF or PNG.`,
        );
      }
      if (/memory|ERR_WORKER_OUT_OF_MEMORY/i.test(String(error))) {
        throw new Problem(
          'input',
          `${name} needs more memory to be read than there is. Ask for it in a simpler form, best as TIFF or PNG.`,
        );
      }
      throw error;
    });
  if (!got.ok) throw new Problem(got.kind, got.message);
  return got.value as T;
}

/** `decode` on a thread of its own. */
export const decodePicture = (task: DecodeTask): Promise<Decoded> =>
  answer<Decoded>({ do: 'decode', task }, task.name);

/** Samples of a cell of a drawing. */
export const drawnCell = (drawing: Drawing, cell: Region): Promise<Uint8Array> =>
  answer<Uint8Array>({ do: 'draw cell', drawing, cell }, drawing.name);

/**
 * Draws a whole picture into a file of decoded pixels, band by band with bounded memory.
 * @param onProgress share that is done, 0–1
 */
export async function drawToFile(
  drawing: Drawing,
  raw: string,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> {
  await layOutDrawing(drawing, raw);
  const bands = bandsOf(drawing.size);
  let next = 0;
  let done = 0;
  const lane = async () => {
    while (next < bands.length) {
      signal?.throwIfAborted();
      await answer({ do: 'draw band', drawing, raw, band: bands[next++]! }, drawing.name);
      onProgress(++done / bands.length);
    }
  };
  await Promise.all([lane(), lane()]);
}
